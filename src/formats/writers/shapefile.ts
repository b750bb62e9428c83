import { zipSync } from 'fflate'
import type { Geometry, Position } from 'geojson'
import { wellKnownText } from '../crs/catalogue'
import { wgs84 } from './geopackage'
import { textAt } from '@/core/data/column'
import { namedFields, placedShapes, type WritableField, type WriteRequest, type Written } from './rows'

/** A zip archive with .shp, .shx, .dbf, .prj and .cpg (Shapefile Technical Description, 1998; dBASE III). */
export function writeShapefile(request: WriteRequest): Written {
  const remarks: string[] = []
  const { shapes, definition } = placedShapes(request)
  const stem = request.name.replace(/[^\p{L}\p{N}_-]+/gu, '_') || 'data'
  const { shp, shx } = writeShapes(shapes, request.dataset.geometry.kind)
  const files: Record<string, Uint8Array> = {
    [`${stem}.shp`]: shp,
    [`${stem}.shx`]: shx,
    [`${stem}.dbf`]: writeDbf(
      namedFields({ ...request, fieldNames: 'short' }),
      request.dataset.rowCount,
      remarks,
    ),
    [`${stem}.cpg`]: new TextEncoder().encode('UTF-8'),
    [`${stem}.prj`]: new TextEncoder().encode(wktOf(definition.code)),
  }
  // A fixed time in the archive: the same data give the same bytes.
  return { bytes: zipSync(files, { mtime: new Date(2000, 0, 1) }), remarks }
}

const wktOf = (code: string | null): string => (!code || code === 'EPSG:4326' ? wgs84 : wellKnownText(code))

const types = { areas: 5, lines: 3, points: 8, none: 0 } as const

function writeShapes(
  shapes: (Geometry | null)[],
  kind: keyof typeof types,
): { shp: Uint8Array; shx: Uint8Array } {
  const multi = shapes.some((shape) => shape?.type === 'MultiPoint')
  const type = kind === 'points' && !multi ? 1 : types[kind]
  const records = shapes.map((shape) => recordOf(shape, type))
  const all = [Infinity, Infinity, -Infinity, -Infinity]
  for (const { box } of records)
    if (box) box.forEach((v, i) => (all[i] = i < 2 ? Math.min(all[i], v) : Math.max(all[i], v)))
  const length = records.reduce((n, { bytes }) => n + 8 + bytes.length, 100)
  const shp = Buffer.alloc(length)
  const shx = Buffer.alloc(100 + 8 * records.length)
  for (const [file, size] of [
    [shp, length],
    [shx, shx.length],
  ] as const) {
    file.writeInt32BE(9994, 0)
    file.writeInt32BE(size / 2, 24)
    file.writeInt32LE(1000, 28)
    file.writeInt32LE(type, 32)
    all.forEach((v, i) => file.writeDoubleLE(Number.isFinite(v) ? v : 0, 36 + 8 * i))
  }
  let at = 100
  records.forEach(({ bytes }, i) => {
    shx.writeInt32BE(at / 2, 100 + 8 * i)
    shx.writeInt32BE(bytes.length / 2, 104 + 8 * i)
    shp.writeInt32BE(i + 1, at)
    shp.writeInt32BE(bytes.length / 2, at + 4)
    bytes.copy(shp, at + 8)
    at += 8 + bytes.length
  })
  return { shp, shx }
}

function recordOf(shape: Geometry | null, type: number): { bytes: Buffer; box: number[] | null } {
  if (!shape || shape.type === 'GeometryCollection') return { bytes: Buffer.alloc(4), box: null }
  if (type === 1 && shape.type === 'Point') {
    const bytes = Buffer.alloc(20)
    bytes.writeInt32LE(1, 0)
    shape.coordinates.slice(0, 2).forEach((v, i) => bytes.writeDoubleLE(v, 4 + 8 * i))
    return { bytes, box: [...shape.coordinates.slice(0, 2), ...shape.coordinates.slice(0, 2)] }
  }
  const parts = partsOf(shape)
  const points = parts.flat()
  const box = points.reduce(
    (b, [x, y]) => [Math.min(b[0], x), Math.min(b[1], y), Math.max(b[2], x), Math.max(b[3], y)],
    [Infinity, Infinity, -Infinity, -Infinity],
  )
  const head = type === 8 ? 40 : 44 + 4 * parts.length
  const bytes = Buffer.alloc(head + 16 * points.length)
  bytes.writeInt32LE(type, 0)
  box.forEach((v, i) => bytes.writeDoubleLE(v, 4 + 8 * i))
  if (type === 8) bytes.writeInt32LE(points.length, 36)
  else {
    bytes.writeInt32LE(parts.length, 36)
    bytes.writeInt32LE(points.length, 40)
    let start = 0
    parts.forEach((part, i) => {
      bytes.writeInt32LE(start, 44 + 4 * i)
      start += part.length
    })
  }
  points.forEach(([x, y], i) => {
    bytes.writeDoubleLE(x, head + 16 * i)
    bytes.writeDoubleLE(y, head + 16 * i + 8)
  })
  return { bytes, box }
}

/** Rings run the other way round in this format: outer ones clockwise. */
function partsOf(shape: Exclude<Geometry, { type: 'GeometryCollection' }>): Position[][] {
  switch (shape.type) {
    case 'Point':
      return [[shape.coordinates]]
    case 'MultiPoint':
      return [shape.coordinates]
    case 'LineString':
      return [shape.coordinates]
    case 'MultiLineString':
      return shape.coordinates
    case 'Polygon':
      return shape.coordinates.map((ring) => [...ring].reverse())
    case 'MultiPolygon':
      return shape.coordinates.flat().map((ring) => [...ring].reverse())
  }
}

type DbfColumn = { type: 'N' | 'C' | 'L' | 'D'; cells: Uint8Array[]; decimals: number }

/** A cell of text has so many bytes at most, a number so many figures. */
const [mostText, mostFigures] = [254, 24]

function columnOf({ name, column }: WritableField, rowCount: number, remarks: string[]): DbfColumn {
  const encoder = new TextEncoder()
  const words = Array.from({ length: rowCount }, (_, row) => textAt(column, row))
  const encode = (cells: string[]): Uint8Array[] => cells.map((cell) => encoder.encode(cell))
  if (column.type === 'boolean')
    return {
      type: 'L',
      decimals: 0,
      cells: encode(words.map((word) => (word === null ? '?' : word.charAt(0).toUpperCase()))),
    }
  if (column.type === 'date' && words.every((word) => word === null || /^\d{4}-\d{2}-\d{2}$/.test(word)))
    return {
      type: 'D',
      decimals: 0,
      cells: encode(words.map((word) => (word ?? '        ').replaceAll('-', ''))),
    }
  if (column.type === 'integer' && words.every((word) => word === null || word.length <= mostFigures))
    return { type: 'N', decimals: 0, cells: encode(words.map((word) => word ?? '')) }
  if (column.kind === 'number') return numbersOf(name, column.values, remarks)
  let cut = 0
  const cells = words.map((word) => {
    const bytes = encoder.encode(word ?? '')
    if (bytes.length <= mostText) return bytes
    cut++
    return wholeLetters(bytes)
  })
  if (cut)
    remarks.push(
      `“${name}”: ${cut === 1 ? '1 text is' : `${cut.toLocaleString('en-GB')} texts are`} longer than the ${mostText} bytes that a shapefile holds, and ${cut === 1 ? 'was' : 'were'} cut.`,
    )
  return { type: 'C', decimals: 0, cells }
}

/** The longest beginning of a text that the format holds and that ends with a whole letter. */
function wholeLetters(bytes: Uint8Array): Uint8Array {
  let end = mostText
  while (end > 0 && (bytes[end] & 0xc0) === 0x80) end--
  return bytes.subarray(0, end)
}

/**
 * Numbers with as many decimals as all of them need, so that they read back the same. Where that takes more figures
 * than the format has, they are written with exponents, which its readers know as well.
 */
function numbersOf(name: string, values: Float64Array, remarks: string[]): DbfColumn {
  const plain = [...values].map((value) => (Number.isNaN(value) ? '' : plainNumber(value)))
  const decimals = Math.max(0, ...plain.map((cell) => cell.split('.')[1]?.length ?? 0))
  const whole = Math.max(1, ...plain.map((cell) => cell.split('.')[0].length))
  const encoder = new TextEncoder()
  if (decimals <= 15 && whole + (decimals ? decimals + 1 : 0) <= mostFigures)
    return { type: 'N', decimals, cells: plain.map((cell) => encoder.encode(cell)) }
  remarks.push(
    `“${name}” holds numbers too long or too small for plain figures; they are written with exponents.`,
  )
  return {
    type: 'N',
    decimals: Math.min(15, decimals),
    cells: [...values].map((value) => encoder.encode(Number.isNaN(value) ? '' : String(value))),
  }
}

/** A number without an exponent, exactly as JavaScript would write it. */
function plainNumber(value: number): string {
  const text = String(value)
  const match = /^(-?)(\d+)(?:\.(\d+))?e([+-]\d+)$/.exec(text)
  if (!match) return text
  const [, sign, head, tail = '', power] = match
  const shift = Number(power)
  const figures = head + tail
  return shift < 0
    ? `${sign}0.${'0'.repeat(-shift - 1)}${figures}`
    : `${sign}${figures}${'0'.repeat(shift - tail.length)}`
}

function writeDbf(fields: WritableField[], rowCount: number, remarks: string[]): Uint8Array {
  const names = shortNames(fields.map(({ name }) => name))
  const columns = fields.map((field, i) => {
    const made = columnOf(field, rowCount, remarks)
    return {
      ...made,
      name: names[i],
      width: made.type === 'D' ? 8 : Math.max(1, ...made.cells.map((cell) => cell.length)),
    }
  })
  const rowBytes = 1 + columns.reduce((n, { width }) => n + width, 0)
  const head = 33 + 32 * columns.length
  const out = Buffer.alloc(head + rowBytes * rowCount + 1, 0x20)
  out.fill(0, 0, head)
  out[0] = 3
  out.set([126, 1, 1], 1)
  out.writeUInt32LE(rowCount, 4)
  out.writeUInt16LE(head, 8)
  out.writeUInt16LE(rowBytes, 10)
  columns.forEach(({ name, type, width, decimals }, i) => {
    out.write(name, 32 + 32 * i, 'latin1')
    out.write(type, 43 + 32 * i, 'latin1')
    out[48 + 32 * i] = width
    out[49 + 32 * i] = decimals
  })
  out[head - 1] = 0x0d
  for (let row = 0; row < rowCount; row++) {
    let at = head + row * rowBytes + 1
    for (const { cells, width, type } of columns) {
      out.set(cells[row], type === 'N' ? at + width - cells[row].length : at)
      at += width
    }
  }
  out[out.length - 1] = 0x1a
  return out
}

/** Names of at most ten plain letters, digits and underscores, each once. */
export function shortNames(names: string[]): string[] {
  const taken = new Set<string>()
  return names.map((name) => {
    const stem =
      name
        .normalize('NFD')
        .replace(/[\u0300-\u036f]/g, '')
        .replace(/[^A-Za-z0-9_]+/g, '_')
        .slice(0, 10) || 'field'
    let short = stem
    for (let n = 2; taken.has(short.toLowerCase()); n++) short = `${stem.slice(0, 10 - String(n).length)}${n}`
    taken.add(short.toLowerCase())
    return short
  })
}
