import { z } from 'zod'
import { isMissing, numberColumn, numbersOf, textAt, textColumn, type Column } from './column'
import { fieldOf, type Dataset } from './dataset'
import type { FieldMeta } from './field-meta'

export const aggregateOps = [
  'sum',
  'mean',
  'weighted mean',
  'minimum',
  'maximum',
  'first',
  'most frequent',
  'count',
] as const
export type AggregateOp = (typeof aggregateOps)[number]

/** One figure of a group of rows: of which field, how, and by which weight for a weighted mean. */
export const Aggregate = z.object({
  field: z.string(),
  op: z.enum(aggregateOps),
  weight: z.string().nullable(),
})
export type Aggregate = z.infer<typeof Aggregate>

/**
 * What suits a field by its role: totals are summed, rates and the like averaged, words counted by frequency.
 */
export function proposeOp(meta: FieldMeta, column: Column): AggregateOp {
  if (column.kind === 'text') return meta.role === 'category' ? 'most frequent' : 'first'
  if (meta.role === 'total') return 'sum'
  return meta.role === 'date' || meta.role === 'code' ? 'first' : 'mean'
}

/**
 * One value for each of `count` groups; `groups[row]` is the group of a row, −1 for none. Missing values are
 * left out; a group without any value gets a missing one (a count of 0).
 */
export function aggregateColumn(
  dataset: Dataset,
  groups: Int32Array,
  count: number,
  { field, op, weight }: Aggregate,
): Column {
  const column = fieldOf(dataset, field)
  if (op === 'count') return numberColumn(countRows(groups, count, column))
  if (!column) return numberColumn(new Array<null>(count).fill(null))
  if (op === 'first' || op === 'most frequent') return pickValues(column, groups, count, op)
  const values = numbersOf(column)
  const weightColumn = op === 'weighted mean' && weight !== null ? fieldOf(dataset, weight) : null
  const weights = weightColumn ? numbersOf(weightColumn) : null
  const sum = new Float64Array(count)
  const share = new Float64Array(count)
  const extreme = new Float64Array(count).fill(NaN)
  groups.forEach((group, row) => {
    const value = values[row]
    const w = weights ? weights[row] : 1
    if (group < 0 || Number.isNaN(value) || Number.isNaN(w)) return
    sum[group] += value * w
    share[group] += w
    if (Number.isNaN(extreme[group]) || (op === 'minimum' ? value < extreme[group] : value > extreme[group]))
      extreme[group] = value
  })
  if (op === 'minimum' || op === 'maximum') return { kind: 'number', values: extreme }
  const figure = (s: number, g: number): number => (op === 'sum' ? s : s / share[g])
  return { kind: 'number', values: sum.map((s, g) => (share[g] === 0 ? NaN : figure(s, g))) }
}

function countRows(groups: Int32Array, count: number, column: Column | null): number[] {
  const counts = new Array<number>(count).fill(0)
  groups.forEach((group, row) => group >= 0 && !(column && isMissing(column, row)) && counts[group]++)
  return counts
}

function pickValues(
  column: Column,
  groups: Int32Array,
  count: number,
  op: 'first' | 'most frequent',
): Column {
  const tallies = Array.from({ length: count }, () => new Map<string, { count: number; row: number }>())
  groups.forEach((group, row) => {
    const value = textAt(column, row)
    if (group < 0 || value === null) return
    const tally = tallies[group].get(value)
    if (tally) tally.count++
    else if (op === 'most frequent' || !tallies[group].size) tallies[group].set(value, { count: 1, row })
  })
  const rows = tallies.map(
    (tally) => [...tally.values()].sort((a, b) => b.count - a.count || a.row - b.row)[0]?.row ?? -1,
  )
  return column.kind === 'text'
    ? textColumn(rows.map((row) => (row < 0 ? null : textAt(column, row))))
    : numberColumn(rows.map((row) => (row < 0 ? null : column.values[row])))
}

/**
 * Rows grouped by equal values of some fields, in order of first appearance; rows in which all are missing
 * get no group.
 */
export function groupRows(dataset: Dataset, fields: string[]): { groups: Int32Array; first: Int32Array } {
  const columns = fields.map((key) => fieldOf(dataset, key))
  const index = new Map<string, number>()
  const first: number[] = []
  const groups = Int32Array.from({ length: dataset.rowCount }, (_, row) => {
    const values = columns.map((column) => (column ? textAt(column, row) : null))
    if (values.every((v) => v === null)) return -1
    const key = JSON.stringify(values)
    let group = index.get(key)
    if (group === undefined) {
      group = first.length
      index.set(key, group)
      first.push(row)
    }
    return group
  })
  return { groups, first: Int32Array.from(first) }
}

/** What a figure made of a field is called and measures: sums and counts are totals, a mean of totals is not. */
export function figureMeta(meta: FieldMeta, op: AggregateOp): FieldMeta {
  const adds = op === 'sum' || op === 'count'
  const role = meta.role === 'total' ? 'index' : meta.role
  return {
    label: `${meta.label}, ${op}`,
    unit: op === 'count' ? '' : meta.unit,
    role: adds ? 'total' : role,
  }
}
