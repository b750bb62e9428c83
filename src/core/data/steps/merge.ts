import { z } from 'zod'
import { mergeGeometry } from '@/core/geo/merge'
import { Aggregate, aggregateColumn, figureMeta, groupRows, proposeOp } from '../aggregate'
import { takeRows } from '../column'
import type { Dataset } from '../dataset'
import { proposeMeta, type FieldMeta } from '../field-meta'
import { StepProblem, type FieldOrigin, type Preparing, type StepKind } from './step'

export const MergeSettings = z.object({ by: z.array(z.string()).min(1), figures: z.array(Aggregate) })
export type MergeSettings = z.infer<typeof MergeSettings>

const metaOf = ({ made }: Preparing, key: string, dataset: Dataset): FieldMeta => {
  const column = dataset.fields.find((f) => f.key === key)?.column
  return made.get(key) ?? (column ? proposeMeta(key, column) : { label: key, unit: '', role: 'total' })
}

/** Figures that suit every field but the grouping ones. */
export const proposeFigures = (from: Preparing, by: string[]): Aggregate[] =>
  from.dataset.fields
    .filter(({ key, column }) => !by.includes(key) && column.kind === 'number')
    .map(({ key, column }) => ({
      field: key,
      op: proposeOp(metaOf(from, key, from.dataset), column),
      weight: null,
    }))

/**
 * One row for each group of equal values of `by`, with its figures. A sum, minimum, maximum or first value
 * keeps the field's key, name and role; another figure makes a field of its own.
 */
export function gathered(
  from: Preparing,
  { by, figures }: MergeSettings,
): { rows: Preparing; groups: Int32Array; count: number } {
  for (const key of by)
    if (!from.dataset.fields.some((f) => f.key === key))
      throw new StepProblem(`The field “${key}” is gone. Choose another one.`)
  const { groups, first } = groupRows(from.dataset, by)
  const count = first.length
  const origins = new Map<string, FieldOrigin>()
  const made = new Map(from.made)
  const fields = by.flatMap((key) => {
    const column = from.dataset.fields.find((f) => f.key === key)?.column
    const origin = from.origins.get(key)
    if (origin) origins.set(key, origin)
    return column ? [{ key, column: takeRows(column, first) }] : []
  })
  for (const figure of figures) {
    const same = ['sum', 'minimum', 'maximum', 'first', 'most frequent'].includes(figure.op)
    const key =
      fields.some((f) => f.key === figure.field) || !same
        ? `${figure.field}_${figure.op.replace(' ', '_')}`
        : figure.field
    if (fields.some((f) => f.key === key)) continue
    fields.push({ key, column: aggregateColumn(from.dataset, groups, count, figure) })
    const origin = from.origins.get(figure.field)
    if (key === figure.field && origin) origins.set(key, origin)
    else {
      const meta = metaOf(from, figure.field, from.dataset)
      origins.set(key, { datasetId: from.datasetId, key })
      made.set(key, figureMeta(meta, figure.op))
    }
  }
  return {
    rows: { ...from, origins, made, dataset: { rowCount: count, fields, geometry: { kind: 'none' } } },
    groups,
    count,
  }
}

const form = (label: string): StepKind<MergeSettings>['form'] => [
  { name: 'by', label, control: 'fields', kind: 'any' },
  { name: 'figures', label: 'Figures', control: 'aggregates' },
]
const initial = (from: Preparing): MergeSettings => {
  const category =
    from.dataset.fields.find(
      ({ key, column }) => column.kind === 'text' && metaOf(from, key, from.dataset).role === 'category',
    ) ??
    from.dataset.fields.find(({ column }) => column.kind === 'text') ??
    from.dataset.fields[0]
  const by = category ? [category.key] : []
  return { by, figures: proposeFigures(from, by) }
}
const words: StepKind<MergeSettings>['words'] = ({ by }, name) =>
  `by ${by.map((key) => name('', key)).join(' and ')}`

/** Merges shapes with equal values: borders inside a group vanish exactly, segments of lines become one. */
export const merge: StepKind<MergeSettings> = {
  label: 'Merge',
  about: 'rows',
  settings: MergeSettings,
  form: form('Merge by'),
  accepts: ({ dataset }) => dataset.geometry.kind !== 'none' && dataset.fields.length > 0,
  initial,
  needs: () => [],
  words,
  apply(settings, from) {
    const { rows, groups, count } = gathered(from, settings)
    return {
      ...rows,
      dataset: { ...rows.dataset, geometry: mergeGeometry(from.dataset.geometry, groups, count) },
    }
  },
}

/** A table with one row for each group of equal values; shapes are left behind. */
export const summarise: StepKind<MergeSettings> = {
  label: 'Summarise',
  about: 'rows',
  settings: MergeSettings,
  form: form('One row for each'),
  accepts: ({ dataset }) => dataset.fields.length > 0,
  initial,
  needs: () => [],
  words,
  apply: (settings, from) => gathered(from, settings).rows,
}
