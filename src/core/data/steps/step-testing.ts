// What tests of prep steps build their datasets and chains with.
import { openDemo } from '../../../../demo/open'
import { geometryFromShapes } from '@/core/geo/shapes'
import { numberColumn, cellOf, textColumn } from '../column'
import { fieldOf, type Dataset } from '../dataset'
import { makeEntry, plainSource, type DatasetEntry } from '../entry'
import { prepareDatasets, type Prepared } from '../prepare'
import { PrepStep, stepKindOf, type StepType } from './registry'

export { square } from '@/core/geo/geo-testing'
export const demo = openDemo()
export const tableOf = (
  columns: Record<string, (number | null)[] | (string | null)[]>,
  shapes: (GeoJSON.Geometry | null)[] | null = null,
): Dataset => ({
  rowCount: Object.values(columns)[0].length,
  fields: Object.entries(columns).map(([key, values]) => ({
    key,
    column: values.some((v) => typeof v === 'string')
      ? textColumn(values as (string | null)[])
      : numberColumn(values as (number | null)[]),
  })),
  geometry: shapes ? geometryFromShapes(shapes) : { kind: 'none' },
})
export const entryOf = (id: string, dataset: Dataset, steps: PrepStep[] = []): DatasetEntry =>
  makeEntry({ id, name: id, geometry: dataset.geometry.kind, source: plainSource(id, '', ''), steps })

/** A dataset after some steps, the settings being the kind's own first ones with changes. */
export function after(
  dataset: Dataset,
  steps: [StepType, object][],
  others: Record<string, Dataset> = {},
): Prepared {
  const contents: Record<string, Dataset> = { own: dataset, ...others }
  const otherEntries = Object.entries(others).map(([id, d]) => entryOf(id, d))
  const made: PrepStep[] = []
  for (const [type, change] of steps) {
    const all = prepareDatasets(
      [entryOf('own', dataset, made), ...otherEntries],
      (id) => contents[id] ?? null,
    )
    const so = all.get('own')
    if (!so) throw new Error('The dataset is there.')
    const initial = stepKindOf(type).initial(
      so,
      [...all.values()].filter((p) => p.entry.id !== 'own'),
    ) as object
    made.push(PrepStep.parse({ type, id: `s${made.length}`, on: true, settings: { ...initial, ...change } }))
  }
  const prepared = prepareDatasets(
    [entryOf('own', dataset, made), ...otherEntries],
    (id) => contents[id] ?? null,
  ).get('own')
  if (!prepared) throw new Error('The dataset is there.')
  return prepared
}
export const column = (prepared: Prepared, key: string) => {
  const field = fieldOf(prepared.dataset, key)
  return field && Array.from({ length: prepared.dataset.rowCount }, (_, row) => cellOf(field, row))
}
export const problemOf = (prepared: Prepared) => prepared.reports.at(-1)?.problem

export const towns = tableOf({
  name: ['Marby', 'Ellashaw', 'Perran', null],
  kind: ['town', 'city', 'town', 'village'],
  people: [10, 40, null, 5],
  loans: [20, 20, 30, 0],
})
