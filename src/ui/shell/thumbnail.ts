'use client'
import { useEffect } from 'react'
import { ask } from '@/workers/client'
import { api } from './api'
import { useFolio } from './folio-store'

/** After a save and a pause, draws the first sheet for the shelf. */
export function useThumbnail(): void {
  const status = useFolio((state) => state.save.status)
  const folio = useFolio((state) => state.history.folio)
  const edited = useFolio((state) => state.history.done.length > 0)
  useEffect(() => {
    const [sheet] = folio.sheets
    if (status !== 'saved' || !edited || !sheet) return
    const timer = setTimeout(async () => {
      const png = await ask(folio, (worker) => worker.thumbnail(sheet.id, 640)).catch(() => null)
      if (png) await api('PUT', `/api/folios/${folio.id}/thumbnail`, png).catch(() => undefined)
    }, 2500)
    return () => clearTimeout(timer)
  }, [status, folio, edited])
}
