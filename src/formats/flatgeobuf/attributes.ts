import { ColumnType } from 'flatgeobuf/lib/mjs/flat-geobuf/column-type.js'
import type { ColumnMeta } from 'flatgeobuf/lib/mjs/column-meta.js'
import type { ValueType } from '@/core/data/column'

/** What the types of the format are as types of fields. */
export function fieldTypeOf(type: ColumnType): ValueType | 'real' | 'text' {
  switch (type) {
    case ColumnType.Bool:
      return 'boolean'
    case ColumnType.Float:
    case ColumnType.Double:
      return 'real'
    case ColumnType.String:
    case ColumnType.Binary:
      return 'text'
    case ColumnType.Json:
      return 'json'
    case ColumnType.DateTime:
      return 'datetime'
    default:
      return 'integer'
  }
}

/**
 * The attributes of a feature: the number of a column, then its value, again and again. Whole numbers of 64 bits
 * that a number cannot hold are big ones; binary values are left out.
 * @throws RangeError where they run beyond their end
 */
export function readAttributes(bytes: Uint8Array | null, columns: ColumnMeta[]): Record<string, unknown> {
  const properties = Object.create(null) as Record<string, unknown>
  if (!bytes) return properties
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let at = 0
  const text = (): string => {
    const length = view.getUint32(at, true)
    at += 4
    if (at + length > bytes.length) throw new RangeError('A text runs beyond the attributes.')
    const words = new TextDecoder().decode(bytes.subarray(at, at + length))
    at += length
    return words
  }
  const whole = (value: bigint): number | bigint =>
    Number.isSafeInteger(Number(value)) ? Number(value) : value
  const step = <T>(size: number, value: T): T => {
    at += size
    return value
  }
  while (at + 2 <= bytes.length) {
    const column = columns[view.getUint16(at, true)]
    if (!column) throw new RangeError('An attribute belongs to no column.')
    at += 2
    switch (column.type) {
      case ColumnType.Bool:
        properties[column.name] = step(1, view.getUint8(at) !== 0)
        break
      case ColumnType.Byte:
        properties[column.name] = step(1, view.getInt8(at))
        break
      case ColumnType.UByte:
        properties[column.name] = step(1, view.getUint8(at))
        break
      case ColumnType.Short:
        properties[column.name] = step(2, view.getInt16(at, true))
        break
      case ColumnType.UShort:
        properties[column.name] = step(2, view.getUint16(at, true))
        break
      case ColumnType.Int:
        properties[column.name] = step(4, view.getInt32(at, true))
        break
      case ColumnType.UInt:
        properties[column.name] = step(4, view.getUint32(at, true))
        break
      case ColumnType.Long:
        properties[column.name] = step(8, whole(view.getBigInt64(at, true)))
        break
      case ColumnType.ULong:
        properties[column.name] = step(8, whole(view.getBigUint64(at, true)))
        break
      case ColumnType.Float:
        properties[column.name] = step(4, shortest(view.getFloat32(at, true)))
        break
      case ColumnType.Double:
        properties[column.name] = step(8, view.getFloat64(at, true))
        break
      case ColumnType.Binary: {
        const length = view.getUint32(at, true)
        at += 4 + length
        break
      }
      default:
        properties[column.name] = text()
    }
  }
  return properties
}

/** A number of 32 bits with the figures that it was written with: 0.1, not 0.10000000149. */
export const shortest = (value: number): number => Number(value.toPrecision(7))
