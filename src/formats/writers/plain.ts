import ExcelJS from 'exceljs'
import Papa from 'papaparse'
import { topology } from 'topojson-server'
import { cellOf, type Column } from '@/core/data/column'
import { SaidError } from '@/core/said/said-error'
import { Geometry as WellKnown } from 'wkx'
import {
  featureCollection,
  featureMaker,
  namedFields,
  shapeMaker,
  type WriteRequest,
  type Written,
} from './rows'

const text = (words: string): Uint8Array => new TextEncoder().encode(words)

/** GeoJSON; in another system than WGS 84 with the “crs” member that files from before RFC 7946 have. */
export function writeGeojson(request: WriteRequest): Uint8Array {
  const { featureAt, definition } = featureMaker(request)
  const crs =
    definition.fromDegrees && definition.code
      ? { crs: { type: 'name', properties: { name: `urn:ogc:def:crs:EPSG::${definition.code.slice(5)}` } } }
      : {}
  const frame = JSON.stringify({ type: 'FeatureCollection', name: request.name, ...crs, features: [] })
  return inPieces(request.dataset.rowCount, {
    before: frame.slice(0, -2),
    rows: (from, to) =>
      (from ? ',' : '') + Array.from({ length: to - from }, (_, i) => jsonOf(featureAt(from + i))).join(','),
    after: `]}\n`,
  })
}

/** One feature a line (RFC 8142 without its separators), in degrees of WGS 84. */
export function writeGeojsonLines(request: WriteRequest): Uint8Array {
  const { featureAt } = featureMaker({ ...request, crs: 'EPSG:4326' })
  return inPieces(request.dataset.rowCount, {
    before: '',
    rows: (from, to) =>
      Array.from({ length: to - from }, (_, i) => `${jsonOf(featureAt(from + i))}\n`).join(''),
    after: '',
  })
}

export function writeTopojson(request: WriteRequest): Uint8Array {
  const { collection } = featureCollection(request)
  return text(`${jsonOf(topology({ [request.name]: collection }))}\n`)
}

/** JSON in which whole numbers that are too long for a number stand as numbers all the same. */
const jsonOf = (value: unknown): string =>
  JSON.stringify(value, (_, inner: unknown) => {
    if (typeof inner === 'bigint') return `${numberMark}${inner}`
    // Large numbers without decimals would be taken for whole ones that nobody can hold.
    return typeof inner === 'number' && Number.isInteger(inner) && !Number.isSafeInteger(inner)
      ? `${numberMark}${inner.toExponential()}`
      : inner
  }).replaceAll(numberPattern, '$1')
const numberMark = '\u0001number '
const numberPattern = /"\\u0001number (-?[\d.]+(?:e[+-]?\d+)?)"/g

/**
 * A table with a header, missing values left blank; cells that a spreadsheet would carry out as formulas get
 * an apostrophe. Points of one place each have it in two columns, other shapes in one of well-known text.
 */
export function writeCsv(request: WriteRequest): Written {
  const fields = namedFields(request)
  const columns = fields.map(({ column }) => safeCells(column))
  const places = placeColumns(request, new Set(fields.map(({ name }) => name)))
  const lines = (rows: unknown[][]) => `${Papa.unparse(rows, { newline: '\n' })}\n`
  const bytes = inPieces(request.dataset.rowCount, {
    before: lines([[...fields.map(({ name }) => safeCell(name)), ...places.names]]),
    rows: (from, to) =>
      lines(
        Array.from({ length: to - from }, (_, i) => [
          ...columns.map((cell) => cell(from + i)),
          ...places.cellsAt(from + i),
        ]),
      ),
    after: '',
  })
  const neutralised = fields.reduce((sum, { column }) => sum + runnableCells(column), 0)
  return {
    bytes,
    remarks: neutralised
      ? [
          `${neutralised === 1 ? '1 cell' : `${neutralised.toLocaleString('en-GB')} cells`} of text that a spreadsheet would carry out as a formula now ${neutralised === 1 ? 'begins' : 'begin'} with an apostrophe.`,
        ]
      : [],
  }
}

type PlaceColumns = { names: string[]; cellsAt: (row: number) => (string | number | null)[] }

/** Where the shapes of a table stand: in no column, two of coordinates, or one of well-known text. */
function placeColumns(request: WriteRequest, taken: Set<string>): PlaceColumns {
  const { geometry } = request.dataset
  if (geometry.kind === 'none') return { names: [], cellsAt: () => [] }
  const { shapeAt, definition } = shapeMaker(request)
  const free = (name: string): string => (taken.has(name) ? free(`${name}_`) : name)
  if (
    geometry.kind === 'points' &&
    geometry.featureStarts.every((s, f, all) => f === 0 || s - all[f - 1] < 2)
  ) {
    const names = definition.fromDegrees ? ['x', 'y'] : ['longitude', 'latitude']
    // Fields that hold the coordinates already are enough.
    if (names.every((name) => taken.has(name))) return { names: [], cellsAt: () => [] }
    return {
      names: names.map(free),
      cellsAt: (row) => {
        const shape = shapeAt(row)
        return shape?.type === 'Point' ? [shape.coordinates[0], shape.coordinates[1]] : [null, null]
      },
    }
  }
  return {
    names: [free('wkt')],
    cellsAt: (row) => {
      const shape = shapeAt(row)
      return [shape ? WellKnown.parseGeoJSON(shape).toWkt() : null]
    },
  }
}

/** Rows that are made into text together; all of a large table at once would not fit into memory. */
const rowsAtOnce = 20_000

/** A text of many rows as bytes, made some rows at a time. */
function inPieces(
  rowCount: number,
  { before, rows, after }: { before: string; rows: (from: number, to: number) => string; after: string },
): Uint8Array {
  const pieces = [text(before)]
  for (let from = 0; from < rowCount; from += rowsAtOnce)
    pieces.push(text(rows(from, Math.min(rowCount, from + rowsAtOnce))))
  pieces.push(text(after))
  return Buffer.concat(pieces)
}

/** Text that a spreadsheet would carry out: one that begins with a sign of a formula, whatever follows. */
/** Signs that begin a formula, in full width too, which some programs take for the same; blanks before them count. */
const runnable = /^[\s\u200b\ufeff]*[=+\-@\uff1d\uff0b\uff0d\uff20]|^[\t\r]/
const safeCell = (cell: string): string => (runnable.test(cell) ? `'${cell}` : cell)

/** Numbers stay as they are, whatever their sign. */
function safeCells(column: Column): (row: number) => string | number | null {
  if (column.kind === 'number') return (row) => cellOf(column, row) as number | null
  // Digits with a minus sign in front are no formula.
  const words = column.type === 'integer' ? column.dictionary : column.dictionary.map(safeCell)
  return (row) => (column.codes[row] ? words[column.codes[row] - 1] : null)
}

function runnableCells(column: Column): number {
  if (column.kind === 'number' || column.type === 'integer') return 0
  const isRunnable = column.dictionary.map((word) => runnable.test(word))
  return column.codes.reduce((sum, code) => sum + (code && isRunnable[code - 1] ? 1 : 0), 0)
}

/** A sheet of a workbook has so many rows (ECMA-376), the header among them. */
const mostSheetRows = 1_048_576

const dateFormats = { date: 'yyyy-mm-dd', datetime: 'yyyy-mm-dd hh:mm:ss' } as const

/** Days and times as those of the sheet, in no time zone; truth values as such. */
function sheetCell(column: Column, row: number): string | number | boolean | Date | null {
  const cell = cellOf(column, row)
  if (cell === null) return null
  if (column.type === 'boolean') return cell === 'true'
  if (column.type !== 'date' && column.type !== 'datetime') return cell
  const moment = new Date(
    `${String(cell).slice(0, 19).replace(' ', 'T')}${column.type === 'date' ? 'T00:00:00' : ''}Z`,
  )
  // The calendar of a sheet begins in 1900, with a day too many.
  return Number.isNaN(moment.getTime()) || moment.getUTCFullYear() < 1901 ? cell : moment
}

/** @throws SaidError where there are more rows than a sheet has */
export async function writeXlsx(request: WriteRequest): Promise<Uint8Array> {
  if (request.dataset.rowCount >= mostSheetRows)
    throw new SaidError(
      `A workbook holds up to ${(mostSheetRows - 1).toLocaleString('en-GB')} rows; “${request.name}” has ${request.dataset.rowCount.toLocaleString('en-GB')}. Save it as CSV.`,
    )
  const workbook = new ExcelJS.Workbook()
  const sheet = workbook.addWorksheet(request.name.replace(/[*?:\\/[\]]/g, ' ').slice(0, 31) || 'Data')
  const fields = namedFields(request)
  sheet.addRow(fields.map(({ name }) => name)).font = { bold: true }
  sheet.views = [{ state: 'frozen', ySplit: 1 }]
  for (let row = 0; row < request.dataset.rowCount; row++)
    sheet.addRow(fields.map(({ column }) => sheetCell(column, row)))
  fields.forEach(({ column: { type } }, c) => {
    if (type === 'date' || type === 'datetime') sheet.getColumn(c + 1).numFmt = dateFormats[type]
  })
  return new Uint8Array(await workbook.xlsx.writeBuffer())
}
