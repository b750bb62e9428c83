import { isMissing, type Column } from './column'
import { fieldOf, type Dataset } from './dataset'

export type SortBy = { key: string; down: boolean }

/**
 * Rows in the order of some fields, the first one deciding first; missing values come last either way, ties
 * keep their order.
 */
export function sortRows(dataset: Dataset, by: SortBy[]): Uint32Array {
  const rows = Uint32Array.from({ length: dataset.rowCount }, (_, row) => row)
  const tests = by.flatMap(({ key, down }) => {
    const column = fieldOf(dataset, key)
    return column ? [comparison(column, down)] : []
  })
  if (!tests.length) return rows
  return rows.sort((a, b) => {
    for (const test of tests) {
      const order = test(a, b)
      if (order) return order
    }
    return a - b
  })
}

function comparison(column: Column, down: boolean): (a: number, b: number) => number {
  const compare =
    column.kind === 'number' ? (a: number, b: number) => column.values[a] - column.values[b] : byRank(column)
  return (a, b) => {
    const [noA, noB] = [isMissing(column, a), isMissing(column, b)]
    if (noA || noB) return Number(noA) - Number(noB)
    return down ? compare(b, a) : compare(a, b)
  }
}

/** Words are compared once each, not once a row. Numbers in them count as numbers. */
function byRank({ dictionary, codes }: Extract<Column, { kind: 'text' }>): (a: number, b: number) => number {
  const collator = new Intl.Collator('en', { numeric: true })
  const order = [...dictionary.keys()].sort((a, b) => collator.compare(dictionary[a], dictionary[b]))
  const rank = new Uint32Array(dictionary.length + 1)
  order.forEach(
    (word, i) =>
      (rank[word + 1] =
        i > 0 && collator.compare(dictionary[order[i - 1]], dictionary[word]) === 0
          ? rank[order[i - 1] + 1]
          : i + 1),
  )
  return (a, b) => rank[codes[a]] - rank[codes[b]]
}

/** The rows that hold some words in any of their fields, whatever their case. */
export function findRows(rows: Uint32Array, { fields }: Dataset, words: string): Uint32Array {
  const wanted = words.trim().toLowerCase()
  if (!wanted) return rows
  const holds = fields.map(({ column }) => {
    if (column.kind === 'number')
      return (row: number) => !Number.isNaN(column.values[row]) && String(column.values[row]).includes(wanted)
    const holds = column.dictionary.map((word) => word.toLowerCase().includes(wanted))
    return (row: number) => column.codes[row] > 0 && holds[column.codes[row] - 1]
  })
  return rows.filter((row) => holds.some((test) => test(row)))
}

/** As many decimals as the column's numbers have, up to three. */
export function decimalsOf(column: Column): number {
  if (column.kind === 'text') return 0
  for (let d = 0; d < 3; d++)
    if (
      column.values.every(
        (v) => Number.isNaN(v) || Math.abs(v - Number(v.toFixed(d))) < 1e-12 * Math.max(1, Math.abs(v)),
      )
    )
      return d
  return 3
}
