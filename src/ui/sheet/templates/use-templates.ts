'use client'
import { useCallback, useEffect, useState } from 'react'
import type { SheetTemplate } from '@/core/sheet/template'
import { api } from '../../shell/api'

/** The templates that were kept on this server; null until they are known. */
export function useTemplates() {
  const [kept, setKept] = useState<SheetTemplate[] | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const doing = useCallback(async (work: () => Promise<unknown>) => {
    setProblem(null)
    try {
      await work()
      setKept(await api<SheetTemplate[]>('GET', '/api/templates'))
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
    }
  }, [])
  useEffect(() => void doing(async () => undefined), [doing])
  return {
    kept,
    problem,
    rename: (id: string, name: string) => doing(() => api('PATCH', `/api/templates/${id}`, { name })),
    remove: (id: string) => doing(() => api('DELETE', `/api/templates/${id}`)),
    bringIn: (file: File) =>
      doing(() => api('POST', '/api/templates', file.slice(0, file.size, 'application/octet-stream'))),
  }
}
