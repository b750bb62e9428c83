import { isMissing, takeRows, textAt, type Column } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'

/** What a row is called that holds the sums of the others. */
const called = new RegExp(
  [
    String.raw`^(grand |over ?all )?(total|totals|sum|all (areas|regions|districts|states|countries))\b`,
    String.raw`^(totaal|totale|insgesamt|gesamt|summe|ensemble|razem|totalt|yhteensä|celkem|összesen|toplam)\b`,
  ].join('|'),
  'i',
)

/** A row is the sum of the others where this share of its figures are, to the rounding of so many rows. */
const leastSums = 0.6
/** Tables of fewer rows tell nothing. */
const leastRows = 4

/** A table without rows that hold the sums of its others, and which these were, counted from 0. */
export function withoutTotals(dataset: Dataset): { dataset: Dataset; rows: number[]; names: string[] } {
  const { rowCount, fields } = dataset
  const numbers = fields.flatMap(({ column }) => (column.kind === 'number' ? [column.values] : []))
  const words = fields.find(({ column }) => column.kind === 'text')?.column
  if (rowCount < leastRows || !numbers.length || !words) return { dataset, rows: [], names: [] }
  // They stand at an end of the table.
  const rows = [0, rowCount - 1].filter(
    (row) => isCalledSo(words, row) || (numbers.length > 1 && sums(numbers, row) >= leastSums),
  )
  if (!rows.length) return { dataset, rows, names: [] }
  const kept = Int32Array.from({ length: rowCount }, (_, row) => row).filter((row) => !rows.includes(row))
  return {
    rows,
    names: rows.map((row) => textAt(words, row) ?? `row ${row + 1}`),
    dataset: {
      ...dataset,
      rowCount: kept.length,
      fields: fields.map(({ key, column }) => ({ key, column: onlyUsedWords(takeRows(column, kept)) })),
    },
  }
}

const isCalledSo = (words: Column, row: number): boolean => called.test((textAt(words, row) ?? '').trim())

/** The share of a row's figures that are the sums of all others in their column; 0 for columns that cannot tell. */
function sums(numbers: Float64Array[], row: number): number {
  let [told, equal] = [0, 0]
  for (const values of numbers) {
    const own = values[row]
    if (!Number.isFinite(own) || own === 0) continue
    let [sum, count] = [0, 0]
    for (let i = 0; i < values.length; i++)
      if (i !== row && Number.isFinite(values[i])) {
        sum += values[i]
        count++
      }
    if (count < 3) continue
    told++
    // Each value may have been rounded by half of what it is written to.
    if (Math.abs(sum - own) <= Math.max(0.5 * count * stepOf(values), 1e-9 * Math.abs(own))) equal++
  }
  return told ? equal / told : 0
}

/** The step that all values of a column are multiples of: 1 for whole numbers, less for those with decimals. */
function stepOf(values: Float64Array): number {
  for (const step of [1, 0.1, 0.01])
    if (values.every((v) => Number.isNaN(v) || Math.abs(v / step - Math.round(v / step)) < 1e-6)) return step
  return 0.001
}

/** A column of text without words that no row has any more. */
function onlyUsedWords(column: Column): Column {
  if (column.kind === 'number') return column
  const numbers = new Map<number, number>()
  const dictionary: string[] = []
  const codes = column.codes.map((code, row) => {
    if (isMissing(column, row)) return 0
    let number = numbers.get(code)
    if (number === undefined) numbers.set(code, (number = dictionary.push(column.dictionary[code - 1])))
    return number
  })
  return { ...column, dictionary, codes }
}

/** In what the figures of a table are counted, by the words above it: `thousand`, `million`; empty for ones. */
export function manyIn(titles: string[]): string {
  const said = titles.join(' ').toLowerCase()
  if (/\b(in|of|,|\()\s*(thousands?|1[,. ]?000s?|'000)\b|\bthousands? of\b|\((in )?thousands?\b/.test(said))
    return 'thousand'
  return /\b(in|,|\()\s*(millions?|mio)\b|\bmillions? of\b|\((in )?millions?\b/.test(said) ? 'million' : ''
}

/** Who made a table, by the words below it that begin with *Source*; empty where they do not say. */
export const creditIn = (notes: string[]): string =>
  notes
    .map(
      (note) =>
        /^\s*(?:data )?(?:source|quelle|fuente|fonte|bron|källa)s?\s*:\s*(.+)$/i.exec(note)?.[1].trim() ?? '',
    )
    .find(Boolean) ?? ''
