'use client'
import { useEffect, useMemo, useRef, useState } from 'react'
import type { Dataset } from '@/core/data/dataset'
import { prepareDatasets, type Prepared } from '@/core/data/prepare'
import { unpackDataset } from '@/formats/pack/pack'
import { useDocument } from './folio-store'

const loaded = new Map<string, Dataset>()
const loading = new Map<string, Promise<void>>()

function load(contentId: string): Promise<void> {
  const known = loading.get(contentId)
  if (known) return known
  const work = fetch(`/api/contents/${contentId}`).then(async (response) => {
    if (!response.ok) throw new Error(`Rows ${contentId} could not be loaded.`)
    loaded.set(contentId, unpackDataset(new Uint8Array(await response.arrayBuffer())))
  })
  loading.set(contentId, work)
  work.catch(() => loading.delete(contentId))
  return work
}

/** Rows and shapes that have been loaded. */
export const contentAtHand = (contentId: string): Dataset | null => loaded.get(contentId) ?? null

/** The folio's datasets after their prep steps, as far as their rows have been loaded. */
export function usePrepared(): Map<string, Prepared> {
  const { datasets } = useDocument()
  const [arrived, setArrived] = useState(0)
  useEffect(() => {
    let here = true
    for (const { source } of datasets) if (!loaded.has(source.contentId)) load(source.contentId).then(() => here && setArrived((n) => n + 1), console.error)
    return () => void (here = false)
  }, [datasets])
  // While a source that was read anew is on its way, what was there before stays in sight.
  const last = useRef(new Map<string, Prepared>())
  return useMemo(() => {
    const now = prepareDatasets(datasets, contentAtHand)
    for (const entry of datasets) {
      const before = now.has(entry.id) ? undefined : last.current.get(entry.id)
      if (before) now.set(entry.id, { ...before, entry })
    }
    last.current = now
    return now
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `arrived` stands for the contents that came in meanwhile
  }, [datasets, arrived])
}
