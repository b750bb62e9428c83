'use client'
import { useEffect, useMemo, useRef, useSyncExternalStore } from 'react'
import type { MapSpec } from '@/core/map/spec'
import { datasetsUsed } from '@/core/map/uses'
import { mapOfPanel, panelsOf } from '@/core/sheet/panel-view'
import { partTypeOf } from '@/core/sheet/registry'
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
  const { datasets, maps, typeStyles, pictures, name, author } = useDocument()
  const { chains } = usePreparation()
  const shown = panelsOf(sheet).flatMap((part) => mapOfPanel(part, maps) ?? [])
  const entries = new Map(datasets.map((entry) => [entry.id, entry]))
  const refs = sheet.parts.flatMap((part) => partTypeOf(part.type).refs(part.settings).datasets)
  const used = datasetsUsed(
    shown.map((map) => ({ map, layers: map.layers })),
    (id) => entries.get(id),
    refs,
  )
  const leansOn = [...used].flatMap((id) => [entries.get(id), chains.get(id)])
  return useMark(sheet, useSame([...shown, ...leansOn]), typeStyles, pictures, name, author)
}

/** The same list as before where it holds the same things. */
function useSame(things: unknown[]): unknown[] {
  const kept = useRef(things)
  if (kept.current.length !== things.length || kept.current.some((one, i) => one !== things[i]))
    kept.current = things
  return kept.current
}
