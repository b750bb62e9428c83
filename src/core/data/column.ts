/**
 * One field's values, one for each row.
 * - `number`: NaN marks a missing value.
 * - `text`: `codes` point into `dictionary`, counted from 1; 0 marks a missing value.
 */
export type Column =
  { kind: 'number'; values: Float64Array } | { kind: 'text'; dictionary: string[]; codes: Uint32Array }

export function numberColumn(values: Iterable<number | null>): Column {
  return { kind: 'number', values: Float64Array.from(values, (v) => v ?? NaN) }
}

export function textColumn(values: (string | null)[]): Column {
  const dictionary: string[] = []
  const known = new Map<string, number>()
  const codes = Uint32Array.from(values, (value) => {
    if (value === null || value === '') return 0
    const code = known.get(value)
    if (code) return code
    dictionary.push(value)
    known.set(value, dictionary.length)
    return dictionary.length
  })
  return { kind: 'text', dictionary, codes }
}

export const isMissing = (column: Column, row: number): boolean =>
  column.kind === 'number' ? Number.isNaN(column.values[row]) : column.codes[row] === 0

/** What stands in a row, as text; null where it is missing. */
export function textAt(column: Column, row: number): string | null {
  if (isMissing(column, row)) return null
  return column.kind === 'text' ? column.dictionary[column.codes[row] - 1] : String(column.values[row])
}

/** What stands in a row: a number, a text, or null where it is missing. */
export function cellOf(column: Column, row: number): string | number | null {
  if (isMissing(column, row)) return null
  return column.kind === 'number' ? column.values[row] : textAt(column, row)
}

/** The numbers of a column; all missing where it holds text. */
export const numbersOf = (column: Column): Float64Array =>
  column.kind === 'number' ? column.values : new Float64Array(column.codes.length).fill(NaN)

/** The values of `column` at `rows`; −1 gives a missing value. */
export function takeRows(column: Column, rows: Int32Array): Column {
  return column.kind === 'number'
    ? { kind: 'number', values: Float64Array.from(rows, (row) => (row < 0 ? NaN : column.values[row])) }
    : {
        kind: 'text',
        dictionary: column.dictionary,
        codes: Uint32Array.from(rows, (row) => (row < 0 ? 0 : column.codes[row])),
      }
}

/**
 * Reads one column from cells of text: numbers where every filled cell is one, text otherwise.
 * Blank cells, `NA`, `n/a`, `..` and `-` are missing among numbers. Codes such as `007` stay text.
 */
export function columnFromCells(cells: (string | null)[]): Column {
  const { dictionary, codes } = textColumn(cells) as Extract<Column, { kind: 'text' }>
  return columnFromWords(dictionary, codes)
}

/** The same for cells that are held as codes of different words, counted from 1; 0 is an empty cell. */
export function columnFromWords(words: string[], codes: Uint32Array): Column {
  const trimmed = words.map((word) => word.trim())
  const filled = trimmed.filter((word) => !missingMarks.has(word.toLowerCase()))
  if (
    filled.length > 0 &&
    filled.every((word) => plainNumber.test(word)) &&
    !filled.some((word) => /^[+-]?0\d/.test(word))
  ) {
    const byCode = new Float64Array(words.length + 1).fill(NaN)
    trimmed.forEach((word, i) => (byCode[i + 1] = missingMarks.has(word.toLowerCase()) ? NaN : Number(word)))
    return { kind: 'number', values: Float64Array.from(codes, (code) => byCode[code]) }
  }
  // Words that differ in blanks at their ends only become one.
  const { dictionary, codes: joined } = textColumn(trimmed) as Extract<Column, { kind: 'text' }>
  if (dictionary.length === words.length) return { kind: 'text', dictionary, codes: codes.slice() }
  return { kind: 'text', dictionary, codes: codes.map((code) => (code ? joined[code - 1] : 0)) }
}

const missingMarks = new Set(['', 'na', 'n/a', 'nan', 'null', '..', '-'])
const plainNumber = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i
