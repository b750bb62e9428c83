import { z } from 'zod'
import { DatasetEntry } from '@/core/data/entry'
import { kindOf } from '@/core/kinds/registry'
import { stepNeeds } from '@/core/data/steps/registry'
import { datasetsUsed } from '@/core/map/uses'
import { MapSpec } from '@/core/map/spec'
import { copiesOf, refsOf, remapped } from './copies'
import { boxAround, boxAroundAll } from './frame'
import { freeName } from './free-name'
import { mapOnDatasets } from './parts/panel'
import { membersOf } from './pile'
import { PictureEntry } from './picture'
import { Part } from './registry'
import { PartGroupSpec, type Sheet } from './spec'
import { NamedTypeStyle } from './type-style'

/** Parts that were copied, with all that they lean on, so that they can be put into another folio too. */
export const Clip = z.object({
  format: z.literal('keen-parts'),
  folioId: z.string(),
  sheetId: z.string(),
  parts: z.array(Part),
  groups: z.array(PartGroupSpec),
  maps: z.array(MapSpec),
  datasets: z.array(DatasetEntry),
  pictures: z.array(PictureEntry),
  typeStyles: z.array(NamedTypeStyle),
})
export type Clip = z.infer<typeof Clip>

/** The part of a folio that parts may lean on. */
export type FolioOfParts = {
  id: string
  sheets: Sheet[]
  maps: MapSpec[]
  datasets: DatasetEntry[]
  pictures: PictureEntry[]
  typeStyles: NamedTypeStyle[]
}

/** Copies some parts of a sheet with the maps, datasets, pictures and styles that they lean on. */
export function clipOf(folio: FolioOfParts, sheet: Sheet, ids: readonly string[]): Clip {
  const parts = sheet.parts.filter(({ id }) => ids.includes(id))
  const refs = refsOf(parts)
  const maps = folio.maps.filter(({ id }) => refs.maps.includes(id))
  const entries = new Map(folio.datasets.map((entry) => [entry.id, entry]))
  const used = datasetsUsed(
    maps.map((map) => ({ map, layers: map.layers })),
    (id) => entries.get(id),
    refs.datasets,
  )
  return {
    format: 'keen-parts',
    folioId: folio.id,
    sheetId: sheet.id,
    parts,
    groups: sheet.groups.filter(({ id }) => membersOf(sheet, id).every((part) => ids.includes(part.id))),
    maps,
    datasets: folio.datasets.filter(({ id }) => used.has(id)),
    pictures: folio.pictures.filter(({ id }) => refs.pictures.includes(id)),
    typeStyles: folio.typeStyles,
  }
}

/** What has to be added to a folio and a sheet for parts to be pasted. */
export type Pasted = {
  parts: Part[]
  groups: PartGroupSpec[]
  maps: MapSpec[]
  datasets: DatasetEntry[]
  pictures: PictureEntry[]
  typeStyles: NamedTypeStyle[]
  /** Names of what may lean on other data here than where it came from. */
  doubts: string[]
}

type Wish = {
  sheet: Sheet
  newId: () => string
  /** Where the middle of what is pasted comes to lie; null leaves everything where it was. */
  at: [x: number, y: number] | null
}

/**
 * What pasting adds. Maps and datasets that the folio has already, with the same id and the same content, are used;
 * others come along under a new id where theirs is taken.
 */
export function pasted(clip: Clip, folio: FolioOfParts, { sheet, newId, at }: Wish): Pasted {
  const datasetIds = new Map<string, string>()
  const datasets = bring(clip.datasets, folio.datasets, newId, datasetIds)
  const mapIds = new Map<string, string>()
  const onNew = (map: MapSpec) => mapOnDatasets(map, (id) => datasetIds.get(id) ?? id)
  const maps = bring(clip.maps.map(onNew), folio.maps, newId, mapIds)
  const { parts, groups } = copiesOf(
    clip,
    clip.parts.map(({ id }) => id),
    newId,
  )
  const box = boxAroundAll(parts.map(boxAround))
  const [dx, dy] = at && box ? [at[0] - (box.x + box.width / 2), at[1] - (box.y + box.height / 2)] : [0, 0]
  const placed: Part[] = []
  for (const part of parts) {
    const leaning = remapped(part, { maps: mapIds, datasets: datasetIds })
    placed.push({
      ...leaning,
      name: freeName([...sheet.parts, ...placed], part.name),
      box: { ...part.box, x: round(part.box.x + dx), y: round(part.box.y + dy) },
    })
  }
  const missing = <T extends { id: string }>(theirs: T[], ours: T[]) =>
    theirs.filter(({ id }) => !ours.some((one) => one.id === id))
  return {
    parts: placed,
    groups,
    maps,
    datasets,
    pictures: missing(clip.pictures, folio.pictures),
    typeStyles: missing(clip.typeStyles, folio.typeStyles),
    doubts: doubtful(clip, folio, datasetIds),
  }
}

const round = (mm: number): number => Math.round(mm * 1e6) / 1e6

/** What has to be added; `ids` takes down under which id each thing is found. */
function bring<T extends { id: string; name: string }>(
  theirs: T[],
  ours: T[],
  newId: () => string,
  ids: Map<string, string>,
): T[] {
  return theirs.flatMap((one): T[] => {
    const known = ours.find(({ id }) => id === one.id)
    if (!known) return [one]
    if (JSON.stringify(known) === JSON.stringify(one)) return []
    const id = newId()
    ids.set(one.id, id)
    return [{ ...one, id, name: freeName(ours, one.name) }]
  })
}

/**
 * What of a paste may lean on something else than where it came from, by name: steps and kinds of map that draw on
 * further datasets by id, of which this folio has another one under the same id, or none.
 */
function doubtful(clip: Clip, folio: FolioOfParts, renamedIds: ReadonlyMap<string, string>): string[] {
  const known = new Set([...folio.datasets, ...clip.datasets].map(({ id }) => id))
  const isDoubtful = (id: string) => renamedIds.has(id) || !known.has(id)
  const stepsOff = clip.datasets.filter(({ steps }) =>
    steps.some((step) => step.on && stepNeeds(step).some(isDoubtful)),
  )
  const mapsOff = clip.maps.filter(({ layers }) =>
    layers.some(({ symbology: { kind, settings } }) => kindOf(kind).needs(settings).some(isDoubtful)),
  )
  return [...stepsOff, ...mapsOff].map(({ name }) => name)
}
