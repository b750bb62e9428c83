import type { ValueType } from '@/core/data/column'
import { ImportError } from '../import-error'
import { limits } from '../limits'

type DbfField = { name: string; type: string; at: number; length: number; decimals: number }

/** What says of a field where its name, type and length stand in the header, each field in 32 bytes. */
const fieldBytes = 32
const headBytes = 32
const endOfFields = 0x0d
const deletedMark = 0x2a

/**
 * The rows of a dBase table (level 3 to 7, without memos), with rows that were deleted left out as such. A
 * name that stands twice is counted on. Null where nothing stands.
 * @param name how the table is called in what is said of it
 * @throws ImportError where rows or parts of them are missing, naming the row
 */
export function readDbf(
  bytes: Uint8Array,
  name: string,
  decoder: TextDecoder,
): { rows: Record<string, unknown>[]; deleted: Set<number>; types: Record<string, FieldType> } {
  const head = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.length < headBytes + 1) throw new ImportError(`${name} is damaged: its header is not complete.`)
  const count = head.getUint32(4, true)
  const [headerLength, rowLength] = [head.getUint16(8, true), head.getUint16(10, true)]
  const fields = fieldsOf(bytes, headerLength, { name, decoder })
  const filled = fields.reduce((sum, { length }) => sum + length, 1)
  if (headerLength < headBytes + 1 || rowLength < 1 || filled > rowLength)
    throw new ImportError(
      `${name} is damaged: its fields need ${filled} bytes a row, but its header says ${rowLength}.`,
    )
  if (count > limits.rows)
    throw new ImportError(`${name} says that it holds ${count} rows, which are too many.`)
  const whole = Math.floor(Math.max(0, bytes.length - headerLength) / rowLength)
  if (whole < count)
    throw new ImportError(
      `${name} breaks off in row ${whole + 1}: its header says ${count} rows. Copy the file again from where it came.`,
    )
  const rows: Record<string, unknown>[] = []
  const deleted = new Set<number>()
  for (let row = 0; row < count; row++) {
    const from = headerLength + row * rowLength
    if (bytes[from] === deletedMark) deleted.add(row)
    const values = Object.create(null) as Record<string, unknown>
    for (const { name: key, type, at, length } of fields) {
      const cell = bytes.subarray(from + at, from + at + length)
      values[key] = valueOf(type, cell, decoder)
    }
    rows.push(values)
  }
  return { rows, deleted, types: Object.fromEntries(fields.map((field) => [field.name, fieldTypeOf(field)])) }
}

function fieldsOf(
  bytes: Uint8Array,
  headerLength: number,
  { name, decoder }: { name: string; decoder: TextDecoder },
): DbfField[] {
  const fields: DbfField[] = []
  const taken = new Set<string>()
  let at = 1
  for (let n = headBytes; bytes[n] !== endOfFields; n += fieldBytes) {
    if (n + fieldBytes > Math.min(headerLength, bytes.length))
      throw new ImportError(`${name} is damaged: the list of its fields has no end.`)
    const label = bytes.subarray(n, n + 11)
    const end = label.indexOf(0)
    const stem =
      decoder.decode(end < 0 ? label : label.subarray(0, end)).trim() || `column ${fields.length + 1}`
    let unique = stem
    for (let i = 2; taken.has(unique); i++) unique = `${stem} ${i}`
    taken.add(unique)
    const type = String.fromCharCode(bytes[n + 11])
    const length = bytes[n + 16]
    fields.push({ name: unique, type, at, length, decimals: bytes[n + 17] })
    at += length
  }
  return fields
}

const viewOf = (cell: Uint8Array): DataView => new DataView(cell.buffer, cell.byteOffset, cell.byteLength)

function valueOf(type: string, cell: Uint8Array, decoder: TextDecoder): unknown {
  // Whole numbers and doubles of later levels are binary.
  if (type === 'I' && cell.length === 4) return viewOf(cell).getInt32(0, true)
  if ((type === 'O' || type === 'B') && cell.length === 8) return viewOf(cell).getFloat64(0, true)
  const text = decoder.decode(cell).replace(/\0/g, '').trimEnd()
  switch (type) {
    case 'N':
    case 'F':
      return numberOf(text.trim())
    case 'L':
      return logicalOf(text.trim())
    case 'D':
      return dateOf(text.trim())
    default:
      return text || null
  }
}

type FieldType = ValueType | 'real' | 'text'

function fieldTypeOf({ type, decimals }: DbfField): FieldType {
  if (type === 'L') return 'boolean'
  if (type === 'D') return 'date'
  if (type === 'I') return 'integer'
  if (type === 'N' || type === 'F') return type === 'N' && decimals === 0 ? 'integer' : 'real'
  return type === 'O' || type === 'B' ? 'real' : 'text'
}

/** Stars stand where a number did not fit. What is no number at all stays as the words that stand there. */
function numberOf(text: string): number | bigint | string | null {
  if (text === '' || /^\*+$/.test(text)) return null
  const value = Number(text)
  if (/^[+-]?\d+$/.test(text) && !Number.isSafeInteger(value)) return BigInt(text.replace(/^\+/, ''))
  return Number.isFinite(value) ? value : text
}

function logicalOf(text: string): boolean | null {
  if (/^[yt]$/i.test(text)) return true
  return /^[nf]$/i.test(text) ? false : null
}

/** A date as it is written in ISO 8601; what is not eight digits stays as it is. */
const dateOf = (text: string): string | null =>
  /^\d{8}$/.test(text) ? `${text.slice(0, 4)}-${text.slice(4, 6)}-${text.slice(6)}` : text || null
