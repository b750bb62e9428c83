'use client'
import { LayoutTemplate } from 'lucide-react'
import { nanoid } from 'nanoid'
import { templateOf } from '@/core/sheet/template'
import type { Sheet } from '@/core/sheet/spec'
import { Button } from '../../kit/controls'
import { api } from '../../shell/api'
import { useDocument, useFolio } from '../../shell/folio-store'

/** Keeps a sheet as a template on this server. */
export function KeepTemplate({ sheet }: { sheet: Sheet }) {
  const folio = useDocument()
  const tell = useFolio((state) => state.tell)
  const keep = async () => {
    const about = `Kept from “${folio.name}”.`
    const template = templateOf(sheet, folio, { id: nanoid(12), name: sheet.name || 'Template', about })
    const left = sheet.parts.length - template.sheet.parts.length
    try {
      await api('POST', '/api/templates', template)
      const lost = left
        ? ` ${left} ${left === 1 ? 'table or chart' : 'tables and charts'} stayed behind.`
        : ''
      tell(`“${template.name}” was kept as a template.${lost}`)
    } catch (error) {
      tell(error instanceof Error ? error.message : String(error))
    }
  }
  return (
    <Button onClick={() => void keep()}>
      <LayoutTemplate size={14} aria-hidden /> Keep as a template
    </Button>
  )
}
