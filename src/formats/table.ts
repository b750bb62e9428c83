import type { Geometry } from 'geojson'
import { Geometry as WellKnown } from 'wkx'
import { columnFromWords, exactText, type Column } from '@/core/data/column'
import type { Dataset, Field } from '@/core/data/dataset'
import { ImportError, type Guessed, type Imported, type ReadOptions } from './import-error'
import { withoutFirst, wordAt, type Cells, type WordColumn } from './cells'
import { figuresOf, type Figures } from './figures'
import { plainNumbers } from './plain-numbers'
import { regionOf } from './table-region'
import { creditIn, manyIn, withoutTotals } from './totals-rows'
import { pointsDataset, vectorDatasets } from './vector'

/**
 * Cells as a table, or as points or shapes where columns hold coordinates or well-known text. The decimal
 * mark, the header and the coordinate columns are found out unless they are said.
 * @throws ImportError; UnknownSystemError where coordinates are not degrees
 */
export function tableDatasets(
  sheet: Cells,
  name: string,
  {
    fileName,
    options,
    guessed,
    remarks: before = [],
  }: { fileName: string; options: ReadOptions; guessed: Guessed; remarks?: string[] },
): Imported[] {
  const {
    cells,
    titles,
    notes: below,
    heads,
  } = options.header === undefined ? regionOf(sheet) : { cells: sheet, titles: [], notes: [], heads: 1 }
  const header = options.header ?? (heads > 1 || looksLikeHeader(cells))
  const body = header ? withoutFirst(cells) : cells
  if (body.rows < 1) throw new ImportError(`${fileName} has no rows under its header.`)
  const keys = uniqueKeys(cells.columns.map((column) => (header ? (wordAt(column, 0) ?? '') : '')))
  const sure = body.columns.map(plainNumbers)
  const figures = body.columns.map((column, c) => (sure[c] ? null : figuresOf(column)))
  const bare = body.columns.map((column, c) => figures[c]?.plain ?? column)
  const { mark, unsure } = guessDecimalMark(bare, sure, guessed.delimiter)
  const decimalMark = options.decimalMark ?? mark
  // With a decimal comma, “1.234” is a thousand and more.
  const isSure = (c: number) => sure[c] !== null && (decimalMark === '.' || sure[c].whole)
  const plain = bare.map((column, c): WordColumn => {
    if (isSure(c)) return column
    return {
      words: column.words.map(decimalMark === ',' ? withPoint : withoutThousands),
      codes: column.codes,
    }
  })
  const flagKeys = uniqueKeys([
    ...keys,
    ...keys.flatMap((key, c) => (figures[c]?.flags ? [`${key} flag`] : [])),
  ])
  let nextFlag = keys.length
  const fields: Field[] = keys.flatMap((key, c): Field[] => {
    const own: Field = {
      key,
      column: (isSure(c) && sure[c] && columnOf(sure[c])) || columnFromWords(plain[c].words, plain[c].codes),
    }
    const flags = figures[c]?.flags
    return flags ? [own, { key: flagKeys[nextFlag++], column: exactText(textsOf(flags)) }] : [own]
  })
  /** The field of a column of the sheet, wherever flags have put it. */
  const fieldAt = (c: number): Field => fields.find(({ key }) => key === keys[c]) as Field
  const doubts = [
    ...before,
    ...regionWords(titles, below, heads),
    ...figureWords(keys, figures),
    ...(unsure && options.decimalMark === undefined
      ? [
          `‘${unsure}’ could be read with a decimal comma or with a comma between thousands; the ${decimalMark === ',' ? 'first' : 'second'} was taken. Change the decimal mark below where that is wrong.`,
        ]
      : []),
  ]
  const said: Guessed = { ...guessed, header, decimalMark }
  const table = (): Imported[] => {
    const whole: Dataset = { rowCount: body.rows, fields, geometry: { kind: 'none' } }
    const { dataset, rows, names } =
      options.totals === 'kept' ? { dataset: whole, rows: [], names: [] } : withoutTotals(whole)
    const aside = rows.length
      ? [
          `${rows.length === 1 ? 'The row' : 'The rows'} ${names.map((one) => `“${one}”`).join(' and ')} ${rows.length === 1 ? 'holds' : 'hold'} the sums of the others and ${rows.length === 1 ? 'was' : 'were'} set aside. Choose below to keep ${rows.length === 1 ? 'it' : 'them'}.`,
        ]
      : []
    const hasTotals = rows.length > 0 || options.totals === 'kept'
    return [
      {
        name,
        dataset,
        guessed: { ...said, ...(hasTotals && { totals: options.totals ?? 'aside' }) },
        notes: [],
        remarks: [...doubts, ...aside],
        said: { many: manyIn(titles), credit: creditIn(below) },
      },
    ]
  }
  if (options.x === 'none') return table()

  const wkt = body.columns.findIndex(
    (column, c) =>
      !sure[c] &&
      column.words.length > 0 &&
      column.words.every((word) =>
        /^\s*(SRID=\d+;)?((MULTI)?(POINT|LINESTRING|POLYGON)|GEOMETRYCOLLECTION)\s*(Z|M|ZM)?\s*(\(|EMPTY\s*$)/i.test(
          word,
        ),
      ),
  )
  if (wkt >= 0 && options.x === undefined) return withShapes(wkt)
  const pair =
    options.x !== undefined && options.y !== undefined
      ? [keys.indexOf(options.x), keys.indexOf(options.y)]
      : guessCoordinates(keys, (c) => sure[c] !== null || body.columns[c].words.length > 0)
  if (!pair || pair[0] < 0 || pair[1] < 0) return table()
  const [cx, cy] = pair
  // Degrees may be written with either mark.
  const [xs, ys] = [cx, cy].map((c) => (isSure(c) && sure[c]?.values) || coordinatesOf(plain[c]))
  if (options.x !== undefined) {
    const bad = Array.from({ length: body.rows }, (_, row) => row).find((row) =>
      [
        [xs, cx],
        [ys, cy],
      ].some(
        ([values, c]) =>
          (wordAt(body.columns[c as number], row) ?? '').trim() &&
          Number.isNaN((values as Float64Array)[row]),
      ),
    )
    if (bad !== undefined) {
      const c = Number.isNaN(xs[bad]) && (wordAt(body.columns[cx], bad) ?? '').trim() ? cx : cy
      throw new ImportError(
        `${fileName}, row ${bad + (header ? 2 : 1)}: ‘${wordAt(body.columns[c], bad)}’ in “${keys[c]}” is not a coordinate.`,
      )
    }
  } else if (!options.crs && (xs.some((x) => Math.abs(x) > 180) || ys.some((y) => Math.abs(y) > 90)))
    return table()
  const { geometry, notes, remarks } = pointsDataset(xs, ys, fileName, options.crs ?? null)
  return [
    {
      name,
      dataset: { rowCount: body.rows, fields, geometry },
      guessed: { ...said, x: keys[cx], y: keys[cy], crs: options.crs },
      notes,
      remarks: [...doubts, ...remarks],
    },
  ]

  function withShapes(column: number): Imported[] {
    const { words, codes } = body.columns[column]
    const parsed = words.map((word, i): Geometry | null => {
      if (/EMPTY\s*$/i.test(word)) return null
      try {
        return WellKnown.parse(word).toGeoJSON() as Geometry
      } catch {
        throw new ImportError(
          `${fileName}, row ${codes.indexOf(i + 1) + (header ? 2 : 1)}: ‘${word.slice(0, 40)}’ in “${keys[column]}” is not complete well-known text.`,
        )
      }
    })
    const placed = vectorDatasets(
      Array.from(codes, (code, row) => ({ shape: code ? parsed[code - 1] : null, properties: { row } })),
      name,
      fileName,
      { crs: options.crs ?? null, guessed: { ...said, crs: options.crs } },
    )
    // Mixed shapes were split; each part takes the fields of its own rows.
    return placed.map((part) => {
      const own = part.dataset.fields.find((f) => f.key === 'row')?.column
      const rowsOf = own?.kind === 'number' ? own.values : new Float64Array(0)
      return {
        ...part,
        dataset: {
          ...part.dataset,
          fields: fields
            .filter((field) => field !== fieldAt(column))
            .map(({ key, column: values }) => ({ key, column: takeNumbered(values, rowsOf) })),
        },
      }
    })
  }
}

const columnOf = ({ values, whole }: { values: Float64Array; whole: boolean }): Column => ({
  kind: 'number',
  values,
  ...(whole && { type: 'integer' as const }),
})

const textsOf = ({ words, codes }: WordColumn): (string | null)[] =>
  Array.from(codes, (code) => (code ? words[code - 1] : null))

function regionWords(titles: string[], below: string[], heads: number): string[] {
  const short = (words: string) => (words.length > 160 ? `${words.slice(0, 160)}…` : words)
  return [
    ...(titles.length ? [`Above the table stands: ${short(titles.join(' · '))}`] : []),
    ...(heads > 1 ? [`The heads of its columns were joined from ${heads} rows.`] : []),
    ...(below.length ? [`Below the table stands: ${short(below.join(' · '))}`] : []),
  ]
}

function figureWords(keys: string[], figures: (Figures | null)[]): string[] {
  const list = (which: (one: Figures) => boolean) =>
    keys.filter((_, c) => figures[c] !== null && which(figures[c])).map((key) => `“${key}”`)
  const flagged = list(({ flags }) => flags !== null)
  const percent = list((one) => one.percent)
  return [
    ...(flagged.length
      ? [
          `Flags and marks for missing values of ${flagged.join(', ')} stand in ${flagged.length === 1 ? 'a field of their own' : 'fields of their own'}.`,
        ]
      : []),
    ...(percent.length
      ? [`${percent.join(', ')} ${percent.length === 1 ? 'was' : 'were'} written with percent signs.`]
      : []),
  ]
}

/** Coordinates of every row, NaN where there are none. */
function coordinatesOf({ words, codes }: WordColumn): Float64Array {
  const byCode = new Float64Array(words.length + 1).fill(NaN)
  words.forEach((word, i) => (byCode[i + 1] = degreesOf(word) ?? NaN))
  return Float64Array.from(codes, (code) => byCode[code])
}

function takeNumbered(column: Field['column'], rows: Float64Array): Field['column'] {
  return column.kind === 'number'
    ? { kind: 'number', values: rows.map((row) => column.values[row]) }
    : { ...column, codes: Uint32Array.from(rows, (row) => column.codes[row]) }
}

function uniqueKeys(header: string[]): string[] {
  const taken = new Set<string>()
  const counts = new Map<string, number>()
  return header.map((cell, i) => {
    const stem = cell.replace(/^\uFEFF/, '').trim() || `column ${i + 1}`
    let key = stem
    let n = counts.get(stem) ?? 1
    while (taken.has(key)) key = `${stem} ${++n}`
    counts.set(stem, n)
    taken.add(key)
    return key
  })
}

/** A first row without a number, above rows with some, is a header. */
function looksLikeHeader({ rows, columns }: Cells): boolean {
  const numeric = (row: number) =>
    columns.some((column) => /^[+-]?[\d.,]+$/.test((wordAt(column, row) ?? '').trim()))
  if (!numeric(0)) return true
  for (let row = 1; row < Math.min(rows, 20); row++) if (numeric(row)) return false
  return true
}

const commaNumber = /^[+-]?(\d{1,3}(\.\d{3})+|\d+)(,\d+)?$/
const pointNumber = /^[+-]?([1-9]\d{0,2}(,\d{3})+|\d+)(\.\d+)?$/

/**
 * The comma is the decimal mark where columns make numbers with it that the point cannot make. Where every column
 * could be read either way, cells apart by semicolons speak for the comma; `unsure` is such a cell.
 */
function guessDecimalMark(
  columns: WordColumn[],
  sure: readonly ({ whole: boolean } | null)[],
  delimiter: string | undefined,
): { mark: '.' | ','; unsure: string | null } {
  let [comma, point] = [0, 0]
  let either: string | null = null
  for (const [c, column] of columns.entries()) {
    const plainly = sure[c]
    if (plainly) {
      if (!plainly.whole) point++
      continue
    }
    const { words } = column
    // Without a comma there is nothing to ask.
    if (!words.some((word) => word.includes(','))) {
      const pointed = words.find((word) => word.includes('.'))
      if (pointed !== undefined && pointNumber.test(pointed.trim())) point++
      continue
    }
    const filled = words
      .map((word) => word.trim())
      .filter((word) => word !== '' && !/^(na|n\/a|\.\.|-)$/i.test(word))
    if (!filled.length) continue
    const [asComma, asPoint] = [
      filled.every((word) => commaNumber.test(word)),
      filled.every((word) => pointNumber.test(word)),
    ]
    if (asComma && !asPoint) comma++
    if (asPoint && !asComma) point++
    if (asPoint && asComma) either ??= filled.find((word) => word.includes(',')) ?? null
  }
  if (comma || point) return { mark: comma > point ? ',' : '.', unsure: null }
  return { mark: either && delimiter === ';' ? ',' : '.', unsure: either }
}

/** “1.234,5” becomes “1234.5”. */
const withPoint = (cell: string): string =>
  commaNumber.test(cell.trim()) ? cell.trim().replaceAll('.', '').replace(',', '.') : cell
/** “1,234.5” becomes “1234.5”. */
const withoutThousands = (cell: string): string =>
  cell.includes(',') && pointNumber.test(cell.trim()) ? cell.trim().replaceAll(',', '') : cell

const xNames = /^(lon|long|lng|longitude|x|easting|x_?coord(inate)?)$/i
const yNames = /^(lat|latitude|y|northing|y_?coord(inate)?)$/i

function guessCoordinates(keys: string[], isFilled: (column: number) => boolean): [number, number] | null {
  const x = keys.findIndex((key) => xNames.test(key.trim()))
  const y = keys.findIndex((key) => yNames.test(key.trim()))
  return x >= 0 && y >= 0 && isFilled(x) && isFilled(y) ? [x, y] : null
}

const figure = String.raw`\d+(?:[.,]\d+)?`
/** Degrees, then minutes, seconds and the letter of a direction where they are given. */
const sexagesimal = new RegExp(
  String.raw`^([+-]?${figure})\s*[°d\s]\s*(?:(${figure})\s*[′'m\s]?\s*)?(?:(${figure})\s*[″"s]?\s*)?([NSEWO])?$`,
  'i',
)

/** A coordinate: a number, or degrees, minutes and seconds such as `49° 12′ 30″ N` or `27 15 00 W`. */
export function degreesOf(cell: string | null): number | null {
  const text = (cell ?? '').trim()
  if (text === '') return null
  const plain = Number(text.replace(',', '.'))
  if (Number.isFinite(plain)) return plain
  const match = sexagesimal.exec(text)
  if (!match) return null
  const [degrees, minutes, seconds] = [1, 2, 3].map((i) => Number((match[i] ?? '0').replace(',', '.')))
  if (minutes >= 60 || seconds >= 60) return null
  const size = Math.abs(degrees) + minutes / 60 + seconds / 3600
  return /[SW]/i.test(match[4] ?? '') || degrees < 0 || text.startsWith('-') ? -size : size
}
