import type { Geometry } from 'geojson'
import { Geometry as WellKnown } from 'wkx'
import { columnFromCells } from '@/core/data/column'
import type { Field } from '@/core/data/dataset'
import { ImportError, type Guessed, type Imported, type ReadOptions } from './import-error'
import { vectorDatasets } from './vector'

/**
 * Rows of cells as a table, or as points or shapes where columns hold coordinates or well-known text. The decimal
 * mark, the header and the coordinate columns are found out unless they are said.
 * @throws ImportError
 */
export function tableDatasets(rows: (string | null)[][], name: string, fileName: string, options: ReadOptions, guessed: Guessed): Imported[] {
  const header = options.header ?? looksLikeHeader(rows)
  const body = header ? rows.slice(1) : rows
  if (!body.length) throw new ImportError(`${fileName} has no rows under its header.`)
  const width = Math.max(...rows.map((row) => row.length))
  const keys = uniqueKeys(Array.from({ length: width }, (_, c) => (header ? (rows[0][c] ?? '') : '')))
  const columns = keys.map((_, c) => body.map((row) => row[c] ?? null))
  const decimalMark = options.decimalMark ?? guessDecimalMark(columns)
  const fields: Field[] = keys.map((key, c) => ({ key, column: columnFromCells(decimalMark === ',' ? columns[c].map(withPoint) : columns[c].map(withoutThousands)) }))
  const said: Guessed = { ...guessed, header, decimalMark }
  const table = (): Imported[] => [{ name, dataset: { rowCount: body.length, fields, geometry: { kind: 'none' } }, guessed: said, notes: [] }]
  if (options.x === 'none') return table()

  const wkt = keys.findIndex((_, c) => columns[c].some(Boolean) && columns[c].every((cell) => !cell || /^\s*(SRID=\d+;)?(MULTI)?(POINT|LINESTRING|POLYGON)\s*(Z|M|ZM)?\s*\(/i.test(cell)))
  if (wkt >= 0 && options.x === undefined) {
    const shapes = columns[wkt].map((cell, row): Geometry | null => {
      try {
        return cell ? (WellKnown.parse(cell).toGeoJSON() as Geometry) : null
      } catch {
        throw new ImportError(`${fileName}, row ${row + (header ? 2 : 1)}: ‘${(cell ?? '').slice(0, 40)}’ in “${keys[wkt]}” is not complete well-known text.`)
      }
    })
    return withShapes(shapes, wkt)
  }
  const pair = options.x !== undefined && options.y !== undefined ? [keys.indexOf(options.x), keys.indexOf(options.y)] : guessCoordinates(keys, columns)
  if (!pair || pair[0] < 0 || pair[1] < 0) return table()
  const [cx, cy] = pair
  const places = body.map((_, row): Geometry | null => {
    const [x, y] = [cx, cy].map((c) => degreesOf(decimalMark === ',' ? withPoint(columns[c][row]) : columns[c][row]))
    if (x === null || y === null) {
      const bad = [cx, cy].find((c) => (columns[c][row] ?? '').trim() && degreesOf(decimalMark === ',' ? withPoint(columns[c][row]) : columns[c][row]) === null)
      if (bad !== undefined && options.x !== undefined) throw new ImportError(`${fileName}, row ${row + (header ? 2 : 1)}: ‘${columns[bad][row]}’ in “${keys[bad]}” is not a coordinate.`)
      return null
    }
    return { type: 'Point', coordinates: [x, y] }
  })
  if (!options.crs && places.some((place) => place?.type === 'Point' && (Math.abs(place.coordinates[0]) > 180 || Math.abs(place.coordinates[1]) > 90)) && options.x === undefined) return table()
  return withShapes(places, -1, { x: keys[cx], y: keys[cy] })

  function withShapes(shapes: (Geometry | null)[], without: number, more: Guessed = {}): Imported[] {
    const found = vectorDatasets(shapes.map((shape, row) => ({ shape, properties: { row } })), name, fileName, options.crs ?? null, { ...said, ...more, crs: options.crs })
    // Mixed shapes were split; each part takes the fields of its own rows.
    return found.map((part) => {
      const own = part.dataset.fields.find((f) => f.key === 'row')?.column
      const rowsOf = own?.kind === 'number' ? own.values : new Float64Array(0)
      return { ...part, dataset: { ...part.dataset, fields: fields.filter((_, c) => c !== without).map(({ key, column }) => ({ key, column: takeNumbered(column, rowsOf) })) } }
    })
  }
}

function takeNumbered(column: Field['column'], rows: Float64Array): Field['column'] {
  return column.kind === 'number' ? { kind: 'number', values: rows.map((row) => column.values[row]) } : { ...column, codes: Uint32Array.from(rows, (row) => column.codes[row]) }
}

function uniqueKeys(header: string[]): string[] {
  const keys: string[] = []
  header.forEach((cell, i) => {
    const stem = cell.replace(/^\uFEFF/, '').trim() || `column ${i + 1}`
    let key = stem
    for (let n = 2; keys.includes(key); n++) key = `${stem} ${n}`
    keys.push(key)
  })
  return keys
}

/** A first row without a number, above rows with some, is a header. */
function looksLikeHeader(rows: (string | null)[][]): boolean {
  const numeric = (cell: string | null) => /^[+-]?[\d.,]+$/.test((cell ?? '').trim())
  return !rows[0]?.some(numeric) || !rows.slice(1, 20).some((row) => row.some(numeric))
}

const commaNumber = /^[+-]?(\d{1,3}(\.\d{3})+|\d+)(,\d+)?$/
const pointNumber = /^[+-]?(\d{1,3}(,\d{3})+|\d+)(\.\d+)?$/

/** The comma is the decimal mark where a column makes numbers with it that the point cannot make. */
function guessDecimalMark(columns: (string | null)[][]): '.' | ',' {
  let [comma, point] = [0, 0]
  for (const column of columns) {
    const filled = column.map((cell) => cell?.trim() ?? '').filter((cell) => cell !== '' && !/^(na|n\/a|\.\.|-)$/i.test(cell))
    if (!filled.length) continue
    const [asComma, asPoint] = [filled.every((cell) => commaNumber.test(cell)), filled.every((cell) => pointNumber.test(cell))]
    if (asComma && !asPoint) comma++
    if (asPoint && !asComma) point++
  }
  return comma > point ? ',' : '.'
}

/** “1.234,5” becomes “1234.5”. */
const withPoint = (cell: string | null): string | null => (cell !== null && commaNumber.test(cell.trim()) ? cell.trim().replaceAll('.', '').replace(',', '.') : cell)
/** “1,234.5” becomes “1234.5”. */
const withoutThousands = (cell: string | null): string | null => (cell !== null && cell.includes(',') && pointNumber.test(cell.trim()) ? cell.trim().replaceAll(',', '') : cell)

const xNames = /^(lon|long|lng|longitude|x|easting|x_?coord(inate)?)$/i
const yNames = /^(lat|latitude|y|northing|y_?coord(inate)?)$/i

function guessCoordinates(keys: string[], columns: (string | null)[][]): [number, number] | null {
  const x = keys.findIndex((key) => xNames.test(key.trim()))
  const y = keys.findIndex((key) => yNames.test(key.trim()))
  if (x < 0 || y < 0) return null
  const filled = (c: number) => columns[c].filter((cell) => (cell ?? '').trim() !== '').length
  return filled(x) && filled(y) ? [x, y] : null
}

/** A coordinate: a number, or degrees, minutes and seconds such as `49° 12′ 30″ N` or `27 15 00 W`. */
export function degreesOf(cell: string | null): number | null {
  const text = (cell ?? '').trim()
  if (text === '') return null
  const plain = Number(text.replace(',', '.'))
  if (Number.isFinite(plain)) return plain
  const match = /^([+-]?\d+(?:[.,]\d+)?)\s*[°d\s]\s*(?:(\d+(?:[.,]\d+)?)\s*[′'m\s]?\s*)?(?:(\d+(?:[.,]\d+)?)\s*[″"s]?\s*)?([NSEWO])?$/i.exec(text)
  if (!match) return null
  const [degrees, minutes, seconds] = [1, 2, 3].map((i) => Number((match[i] ?? '0').replace(',', '.')))
  if (minutes >= 60 || seconds >= 60) return null
  const size = Math.abs(degrees) + minutes / 60 + seconds / 3600
  return /[SW]/i.test(match[4] ?? '') || degrees < 0 || text.startsWith('-') ? -size : size
}
