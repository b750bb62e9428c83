/**
 * What a field's values are beyond numbers and text, so that they leave as they came. Whole numbers beyond 2⁵³ are
 * text of digits; truth values are `true` and `false`; days and times are written as ISO 8601 has them; lists and
 * objects as JSON.
 */
export const valueTypes = ['integer', 'boolean', 'date', 'datetime', 'time', 'json'] as const
export type ValueType = (typeof valueTypes)[number]

/**
 * One field's values, one for each row.
 * - `number`: NaN marks a missing value.
 * - `text`: `codes` point into `dictionary`, counted from 1; 0 marks a missing value. An empty text is a value.
 */
export type Column = { type?: ValueType } & (
  { kind: 'number'; values: Float64Array } | { kind: 'text'; dictionary: string[]; codes: Uint32Array }
)

export function numberColumn(values: Iterable<number | null>): Column {
  return { kind: 'number', values: Float64Array.from(values, (v) => v ?? NaN) }
}

/** Text, blank cells being missing. */
export const textColumn = (values: (string | null)[]): Column => dictionaryOf(values, true)

/** Text in which an empty one differs from a missing one. */
export const exactText = (values: (string | null)[], type?: ValueType): Column =>
  dictionaryOf(values, false, type)

function dictionaryOf(values: (string | null)[], blankIsMissing: boolean, type?: ValueType): Column {
  const dictionary: string[] = []
  const known = new Map<string, number>()
  const codes = new Uint32Array(values.length)
  for (let row = 0; row < values.length; row++) {
    const value = values[row]
    if (value === null || value === undefined || (blankIsMissing && value === '')) continue
    let code = known.get(value)
    if (code === undefined) {
      code = dictionary.push(value)
      known.set(value, code)
    }
    codes[row] = code
  }
  return { kind: 'text', dictionary, codes, ...(type && { type }) }
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

/** What stands in a row with its type: truth values as such, lists and objects parsed; else as `cellOf` has it. */
export function typedCellOf(column: Column, row: number): unknown {
  const cell = cellOf(column, row)
  if (cell === null) return null
  if (column.type === 'boolean') return cell === 'true'
  if (column.type === 'integer' && typeof cell === 'string') return BigInt(cell)
  if (column.type !== 'json') return cell
  try {
    return JSON.parse(String(cell))
  } catch {
    return cell
  }
}

/** The numbers of a column; all missing where it holds text. */
export const numbersOf = (column: Column): Float64Array =>
  column.kind === 'number' ? column.values : new Float64Array(column.codes.length).fill(NaN)

/** The values of `column` at `rows`; −1 gives a missing value. */
export function takeRows(column: Column, rows: Int32Array): Column {
  return column.kind === 'number'
    ? { ...column, values: Float64Array.from(rows, (row) => (row < 0 ? NaN : column.values[row])) }
    : {
        ...column,
        codes: Uint32Array.from(rows, (row) => (row < 0 ? 0 : column.codes[row])),
      }
}

/**
 * Reads one column from cells of text: numbers where every filled cell is one, text otherwise.
 * Blank cells, `NA`, `n/a`, `..` and `-` are missing among numbers. Codes such as `007` or `1e5` stay text, and
 * so do whole numbers that a number cannot hold exactly.
 */
export function columnFromCells(cells: (string | null)[]): Column {
  const { dictionary, codes } = textColumn(cells) as Extract<Column, { kind: 'text' }>
  return columnFromWords(dictionary, codes)
}

/** The same for cells that are held as codes of different words, counted from 1; 0 is an empty cell. */
export function columnFromWords(words: string[], codes: Uint32Array): Column {
  const trimmed = words.map((word) => word.trim())
  const filled = trimmed.filter((word) => !isMark(word))
  const whole = filled.length > 0 && filled.every((word) => /^[+-]?\d+$/.test(word))
  // Leading zeros, and whole numbers with a bare exponent, are what codes look like.
  const zeros = filled.some((word) => /^[+-]?0\d/.test(word))
  if (
    filled.length > 0 &&
    filled.every((word) => plainNumber.test(word)) &&
    !zeros &&
    !(filled.every((word) => /^\d+(e\d+)?$/i.test(word)) && filled.some((word) => /e/i.test(word))) &&
    !(whole && filled.some((word) => !Number.isSafeInteger(Number(word))))
  ) {
    const byCode = new Float64Array(words.length + 1).fill(NaN)
    trimmed.forEach((word, i) => (byCode[i + 1] = isMark(word) ? NaN : Number(word)))
    const values = Float64Array.from(codes, (code) => byCode[code])
    return { kind: 'number', values, ...(whole && { type: 'integer' as const }) }
  }
  // Words that differ in blanks at their ends only become one.
  const { dictionary, codes: joined } = textColumn(trimmed) as Extract<Column, { kind: 'text' }>
  const type = whole && !zeros ? 'integer' : typeOfWords(filled)
  const made = { kind: 'text' as const, dictionary, ...(type && { type }) }
  if (dictionary.length === words.length) return { ...made, codes: codes.slice() }
  return { ...made, codes: codes.map((code) => (code ? joined[code - 1] : 0)) }
}

/** What words are that are all truth values, days or times in the form of ISO 8601. */
function typeOfWords(words: string[]): ValueType | undefined {
  const forms: [ValueType, RegExp][] = [
    ['boolean', /^(true|false)$/],
    ['date', /^\d{4}-\d{2}-\d{2}$/],
    ['datetime', /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})?$/],
    ['time', /^\d{2}:\d{2}:\d{2}(\.\d+)?$/],
  ]
  return forms.find(([, form]) => words.length > 0 && words.every((word) => form.test(word)))?.[0]
}

const isMark = (word: string): boolean => word.length < 5 && missingMarks.has(word.toLowerCase())
const missingMarks = new Set(['', 'na', 'n/a', 'nan', 'null', '..', '-'])
const plainNumber = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i
