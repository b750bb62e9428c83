'use client'
import { useEffect, useMemo, useRef, useSyncExternalStore } from 'react'
import type { MapSpec } from '@/core/map/spec'
import type { Sheet } from '@/core/sheet/spec'
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

/** A mark that is another object whenever one of the things has changed. */
function useMark(...things: unknown[]): object {
  // eslint-disable-next-line react-hooks/exhaustive-deps -- the things are the dependencies
  return useMemo(() => ({}), things)
}

/** Changes whenever what is drawn of a map may have changed, and not when other maps or sheets do. */
export function useMapDrawn(map: MapSpec): object {
  const { datasets } = useDocument()
  const { chains } = usePreparation()
  return useMark(map, datasets, chains)
}

/** Changes whenever what is drawn of a sheet may have changed: an edit of another sheet leaves it. */
export function useSheetDrawn(sheet: Sheet): object {
  const { datasets, maps, name, author } = useDocument()
  const { chains } = usePreparation()
  const shown = sheet.parts.flatMap((part) => (part.type === 'panel' ? [part.settings.mapId] : []))
  const mapsShown = maps.filter(({ id }) => shown.includes(id))
  const kept = useRef(mapsShown)
  if (kept.current.length !== mapsShown.length || kept.current.some((map, i) => map !== mapsShown[i]))
    kept.current = mapsShown
  return useMark(sheet, kept.current, datasets, chains, name, author)
}
