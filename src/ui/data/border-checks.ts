'use client'
import { useEffect } from 'react'
import { create } from 'zustand'
import type { ShapeNote } from '@/core/data/reading'
import { api, followJob } from '../shell/api'
import { amendFolio, folioNow, useDocument, useFolio } from '../shell/folio-store'

/** Borders that are being looked at, by dataset. */
export type BorderCheck = { datasetId: string; contentId: string; share: number; abort: AbortController }

const useChecks = create<{ checks: BorderCheck[] }>()(() => ({ checks: [] }))
export const useBorderChecks = (): BorderCheck[] => useChecks((state) => state.checks)

/** Has the borders of every dataset looked at that waits for it, in the background; one job for each. */
export function useBackgroundChecks(): void {
  const { datasets } = useDocument()
  useEffect(() => {
    const { checks } = useChecks.getState()
    for (const check of checks)
      if (!datasets.some(({ id, source }) => id === check.datasetId && source.contentId === check.contentId))
        check.abort.abort()
    for (const { id, source } of datasets)
      if (source.borders === 'waiting' && !checks.some(({ datasetId }) => datasetId === id))
        void look(id, source.contentId)
  }, [datasets])
}

async function look(datasetId: string, contentId: string): Promise<void> {
  const abort = new AbortController()
  useChecks.setState(({ checks }) => ({ checks: [...checks, { datasetId, contentId, share: 0, abort }] }))
  const onProgress = (share: number) =>
    useChecks.setState(({ checks }) => ({
      checks: checks.map((check) => (check.abort === abort ? { ...check, share } : check)),
    }))
  let state: 'checked' | 'stopped' = 'stopped'
  let found: Found = { notes: [], found: 0 }
  try {
    const { jobId } = await api<{ jobId: string }>('POST', `/api/contents/${contentId}/borders`)
    found = await followJob<Found>(jobId, onProgress, abort.signal)
    state = 'checked'
  } catch {
    // Stopped, or not to be had now: the dataset says so, and the person may ask again.
  }
  useChecks.setState(({ checks }) => ({ checks: checks.filter((check) => check.abort !== abort) }))
  keep({ datasetId, contentId, state, found })
}

type Found = { notes: ShapeNote[]; found: number }

function keep({
  datasetId,
  contentId,
  state,
  found,
}: {
  datasetId: string
  contentId: string
  state: 'checked' | 'stopped'
  found: Found
}): void {
  const here = folioNow().datasets.find(({ id }) => id === datasetId)
  // It may have been replaced or taken away meanwhile.
  if (here?.source.contentId !== contentId) return
  amendFolio((draft) => {
    const source = draft.datasets.find(({ id }) => id === datasetId)?.source
    if (!source) return
    source.borders = state
    source.notes = [...source.notes, ...found.notes]
  })
  if (found.found)
    useFolio
      .getState()
      .tell(
        `${here.name}: borders do not fit together in ${found.found.toLocaleString('en-GB')} ${found.found === 1 ? 'place' : 'places'}; the source card shows them.`,
      )
}

/** Has the borders of a dataset looked at again. */
export const lookAgain = (datasetId: string): void =>
  amendFolio((draft) => {
    const source = draft.datasets.find(({ id }) => id === datasetId)?.source
    if (source) source.borders = 'waiting'
  })
