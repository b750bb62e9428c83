import type { Column, ValueType } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { heldOnly, type FineCells, type Raster } from '@/core/data/raster'
import type { Geometry } from '@/core/geo/geometry'

/**
 * The stored and sent form of a dataset: "KEENPACK", the length of a JSON header (4 bytes, little-endian),
 * the header, then every array of numbers, each starting at a multiple of 8. Reading makes views, not copies.
 */
const magic = 'KEENPACK'

type ArrayType = 'f64' | 'f32' | 'u32' | 'i32'
type Slot = { type: ArrayType; offset: number; length: number }
function slotType(array: Numbers): ArrayType {
  if (array instanceof Float64Array) return 'f64'
  if (array instanceof Float32Array) return 'f32'
  return array instanceof Uint32Array ? 'u32' : 'i32'
}
type ColumnHead = { key: string; type?: ValueType } & (
  { kind: 'number'; values: Slot } | { kind: 'text'; dictionary: string[]; codes: Slot }
)
type Head = {
  rowCount: number
  columns: ColumnHead[]
  geometry: Record<string, Slot | string>
  raster?: Record<string, Slot | string | number | boolean>
  /** Fine cells lie apart; what is said of them stands here, so that other ones make other rows. */
  fine?: Omit<FineCells, 'id'>
}

const constructors = { f64: Float64Array, f32: Float32Array, u32: Uint32Array, i32: Int32Array }
type Numbers = Float64Array | Float32Array | Uint32Array | Int32Array

export function packDataset({ rowCount, fields, geometry, raster }: Dataset): Uint8Array {
  const arrays: Numbers[] = []
  let offset = 0
  const slot = (array: Numbers): Slot => {
    const made: Slot = { type: slotType(array), offset, length: array.length }
    arrays.push(array)
    offset = align(offset + array.byteLength)
    return made
  }
  const columns = fields.map(({ key, column }): ColumnHead =>
    column.kind === 'number'
      ? { ...typed(key, column), kind: 'number', values: slot(column.values) }
      : { ...typed(key, column), kind: 'text', dictionary: column.dictionary, codes: slot(column.codes) },
  )
  const shapes = Object.entries(flatGeometry(geometry)).map(([name, value]) => [
    name,
    typeof value === 'string' ? value : slot(value),
  ])
  const fine = raster?.fine
  const cells = Object.entries(raster ? heldOnly(raster) : {}).map(([name, value]) => [
    name,
    typeof value === 'object' ? slot(value) : value,
  ])
  const head: Head = {
    rowCount,
    columns,
    geometry: Object.fromEntries(shapes),
    ...(raster && { raster: Object.fromEntries(cells) }),
    ...(fine && { fine: withoutId(fine) }),
  }
  const json = new TextEncoder().encode(JSON.stringify(head))
  const start = align(12 + json.length)
  const bytes = new Uint8Array(start + offset)
  bytes.set(new TextEncoder().encode(magic), 0)
  new DataView(bytes.buffer).setUint32(8, json.length, true)
  bytes.set(json, 12)
  let at = start
  for (const array of arrays) {
    bytes.set(new Uint8Array(array.buffer, array.byteOffset, array.byteLength), at)
    at = align(at + array.byteLength)
  }
  return bytes
}

/** @throws Error for bytes that are not a pack. */
export function unpackDataset(source: Uint8Array): Dataset {
  const bytes = source.byteOffset % 8 === 0 ? source : source.slice()
  if (new TextDecoder().decode(bytes.subarray(0, 8)) !== magic)
    throw new Error('These bytes are not a stored dataset.')
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(8, true)
  const head = JSON.parse(new TextDecoder().decode(bytes.subarray(12, 12 + length))) as Head
  const start = bytes.byteOffset + align(12 + length)
  const buffer = bytes.buffer as ArrayBuffer
  const view = (slot: Slot): Numbers => new constructors[slot.type](buffer, start + slot.offset, slot.length)
  const fields = head.columns.map((column) => ({
    key: column.key,
    column: (column.kind === 'number'
      ? { ...typed(undefined, column), kind: 'number', values: view(column.values) }
      : {
          ...typed(undefined, column),
          kind: 'text',
          dictionary: column.dictionary,
          codes: view(column.codes),
        }) as Column,
  }))
  const parts = Object.fromEntries(
    Object.entries(head.geometry).map(([name, value]) => [
      name,
      typeof value === 'string' ? value : view(value),
    ]),
  )
  const raster = head.raster && unpackedRaster(head, view)
  return { rowCount: head.rowCount, fields, geometry: geometryFromFlat(parts), ...(raster && { raster }) }
}

const withoutId = ({ side, levels, digest, bytes }: FineCells): Omit<FineCells, 'id'> => ({
  side,
  levels,
  digest,
  bytes,
})

function unpackedRaster({ raster = {}, fine }: Head, view: (slot: Slot) => Numbers): Raster {
  const held = Object.entries(raster).map(([name, value]) => [
    name,
    typeof value === 'object' ? view(value) : value,
  ])
  return { ...Object.fromEntries(held), ...(fine && { fine: { ...fine, id: '' } }) }
}

const typed = <K extends string | undefined>(key: K, { type }: { type?: ValueType }) =>
  ({
    ...(key !== undefined && { key }),
    ...(type && { type }),
  }) as { key: NonNullable<K>; type?: ValueType }

const align = (n: number): number => Math.ceil(n / 8) * 8

/** A geometry as named arrays on one level. */
export function flatGeometry(geometry: Geometry): Record<string, string | Numbers> {
  if (geometry.kind === 'none' || geometry.kind === 'points') return { ...geometry }
  const own = Object.entries(geometry).filter(([key]) => key !== 'arcs' && key !== 'taken')
  const { coords, starts } = geometry.arcs
  return { ...Object.fromEntries(own), arcCoords: coords, arcStarts: starts }
}

export function geometryFromFlat(parts: Record<string, unknown>): Geometry {
  if (parts.kind === 'none' || parts.kind === 'points') return parts as Geometry
  const { arcCoords, arcStarts, ...rest } = parts
  return { ...rest, arcs: { coords: arcCoords, starts: arcStarts } } as Geometry
}
