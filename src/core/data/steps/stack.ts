import { z } from 'zod'
import { geometryFromShapes, shapeOf } from '@/core/geo/shapes'
import { numberColumn, textAt, textColumn, type Column } from '../column'
import { fieldOf, type Dataset } from '../dataset'
import { sortedKeys } from '@/core/registry/sorted-record'
import { freeKey, otherOf, StepProblem, type StepKind } from './step'

export const StackSettings = z.object({
  datasetId: z.string(),
  /**
   * Fields of this dataset matched by hand with fields of the other; empty: with none. Equal keys match by
   * themselves.
   */
  fields: z.record(z.string(), z.string()).overwrite(sortedKeys),
})
export type StackSettings = z.infer<typeof StackSettings>

function stacked(a: Column | null, rows: number, b: Column | null, otherRows: number): Column {
  if ((a ?? b)?.kind === 'number' && (b ?? a)?.kind === 'number')
    return numberColumn([...part(a, rows), ...part(b, otherRows)])
  const texts = (column: Column | null, count: number) =>
    Array.from({ length: count }, (_, row) => (column ? textAt(column, row) : null))
  return textColumn([...texts(a, rows), ...texts(b, otherRows)])
}

const part = (column: Column | null, rows: number): (number | null)[] =>
  column?.kind === 'number' ? Array.from(column.values) : new Array<null>(rows).fill(null)

/** Puts the rows and shapes of another dataset of the same sort below this one's. */
export const stack: StepKind<StackSettings> = {
  label: 'Stack',
  about: 'rows',
  settings: StackSettings,
  form: [
    { name: 'datasetId', label: 'Rows of', control: 'dataset', geometry: 'any' },
    { name: 'fields', label: 'Fields', control: 'matching', of: 'datasetId' },
  ],
  accepts: () => true,
  initial: (from, others) => ({
    datasetId: others.find((o) => o.dataset.geometry.kind === from.dataset.geometry.kind)?.datasetId ?? '',
    fields: {},
  }),
  needs: ({ datasetId }) => [datasetId],
  words: ({ datasetId }, name) => `rows of ${name(datasetId)} below`,
  apply({ datasetId, fields: matched }, from, others) {
    const other = otherOf(others, datasetId)
    const [a, b] = [from.dataset, other.dataset]
    if (a.geometry.kind !== b.geometry.kind)
      throw new StepProblem(
        'Only datasets of one sort can be stacked: areas on areas, lines on lines, points on points.',
      )
    const taken = new Set<string>()
    const fields = a.fields.map(({ key, column }) => {
      const otherKey = matched[key] ?? key
      if (otherKey) taken.add(otherKey)
      return { key, column: stacked(column, a.rowCount, otherKey ? fieldOf(b, otherKey) : null, b.rowCount) }
    })
    const origins = new Map(from.origins)
    for (const { key, column } of b.fields) {
      if (taken.has(key)) continue
      const free = freeKey(fields, key)
      fields.push({ key: free, column: stacked(null, a.rowCount, column, b.rowCount) })
      origins.set(free, other.origins.get(key) ?? { datasetId, key })
    }
    const shapes = (dataset: Dataset) =>
      Array.from({ length: dataset.rowCount }, (_, row) => shapeOf(dataset.geometry, row))
    const geometry =
      a.geometry.kind === 'none' ? a.geometry : geometryFromShapes([...shapes(a), ...shapes(b)], true)
    return {
      ...from,
      dataset: { rowCount: a.rowCount + b.rowCount, fields, geometry },
      origins,
      made: new Map([...other.made, ...from.made]),
    }
  },
}
