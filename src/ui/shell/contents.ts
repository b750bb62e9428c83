'use client'
import { useEffect, useMemo, useSyncExternalStore } from 'react'
import type { DatasetEntry } from '@/core/data/entry'
import { describeChains, describeStages, type Prepared } from '@/core/data/prepare'
import { preparation, prepare, type Preparation } from '@/workers/preparing'
import { useDocument, useFolio } from './folio-store'

export const usePreparation = (): Preparation =>
  useSyncExternalStore(preparation.subscribe, preparation.get, preparation.get)

/** Keeps the prepared datasets in step with the folio. */
export function usePreparing(): void {
  const { datasets } = useDocument()
  const staged = useFolio((state) => (state.desk === 'data' ? state.selection.datasetId : null))
  useEffect(() => void prepare(datasets, staged), [datasets, staged])
}

/** The folio's datasets after their prep steps; while steps are carried out anew, as they were before. */
export function usePrepared(): Map<string, Prepared> {
  const { datasets } = useDocument()
  const { chains } = usePreparation()
  return useMemo(() => describeChains(datasets, chains), [datasets, chains])
}

/** A dataset as it comes to each of its steps; empty until that is known. */
export function useStages(entry: DatasetEntry): Prepared[] {
  const { datasets } = useDocument()
  const chain = usePreparation().chains.get(entry.id)
  return useMemo(() => (chain ? describeStages(entry, datasets, chain) : []), [chain, entry, datasets])
}

/** Changes whenever what is drawn may have changed: the folio or its prepared datasets. */
export function useDrawn(): object {
  const folio = useDocument()
  const { chains } = usePreparation()
  // eslint-disable-next-line react-hooks/exhaustive-deps -- a new mark for each of them
  return useMemo(() => ({}), [folio, chains])
}
