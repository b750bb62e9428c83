import { cellOf, isMissing, numbersOf, type Column } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'

const collator = new Intl.Collator('en', { numeric: true })

/** Rows in the order of a field, those without a value last; as they stand where there is no such field. */
export function sortedRows(dataset: Dataset, field: string | null, descending: boolean): number[] {
  const rows = Array.from({ length: dataset.rowCount }, (_, row) => row)
  const column = field === null ? null : fieldOf(dataset, field)
  if (!column) return rows
  const missing = rows.filter((row) => isMissing(column, row))
  const known = rows.filter((row) => !isMissing(column, row))
  const compare = comparison(column)
  known.sort((a, b) => (descending ? -compare(a, b) : compare(a, b)) || a - b)
  return [...known, ...missing]
}

function comparison(column: Column): (a: number, b: number) => number {
  if (column.kind === 'number') return (a, b) => column.values[a] - column.values[b]
  return (a, b) => collator.compare(String(cellOf(column, a)), String(cellOf(column, b)))
}

/** How many decimals, at most two, the values of a column need. */
export function decimalsOf(column: Column, rows: readonly number[]): number {
  if (column.kind !== 'number') return 0
  const values = rows.map((row) => column.values[row]).filter(Number.isFinite)
  const fits = (decimals: number) => values.every((v) => Math.abs(v - Number(v.toFixed(decimals))) < 1e-9)
  return [0, 1].find(fits) ?? 2
}

/** The numbers of a field by row; NaN for missing ones and for words. */
export const numbersIn = (dataset: Dataset, field: string): Float64Array => {
  const column = fieldOf(dataset, field)
  return column ? numbersOf(column) : new Float64Array(dataset.rowCount).fill(NaN)
}

/** Round numbers over a range, some `count` of them, the first and last reaching beyond it (Heckbert 1990). */
export function roundMarks(low: number, high: number, count: number): number[] {
  if (!(high > low)) return [low]
  const raw = (high - low) / Math.max(1, count)
  const power = 10 ** Math.floor(Math.log10(raw))
  const step = ([1, 2, 5].find((n) => raw <= n * power * 1.0000001) ?? 10) * power
  const first = Math.floor(low / step + 1e-9)
  const last = Math.ceil(high / step - 1e-9)
  return Array.from({ length: last - first + 1 }, (_, i) => Number(((first + i) * step).toPrecision(12)))
}
