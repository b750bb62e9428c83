import { describe, expect, it } from 'vitest'
import { readDbf } from './dbf'

type Field = { name: string; type: string; length: number }

/** A table of level 3 with rows given as bytes of text, the mark of deletion first. */
function dbfOf(fields: Field[], rows: string[]): Uint8Array {
  const rowLength = 1 + fields.reduce((sum, { length }) => sum + length, 0)
  const headerLength = 32 + 32 * fields.length + 1
  const bytes = new Uint8Array(headerLength + rowLength * rows.length + 1)
  const view = new DataView(bytes.buffer)
  bytes[0] = 3
  view.setUint32(4, rows.length, true)
  view.setUint16(8, headerLength, true)
  view.setUint16(10, rowLength, true)
  const write = (text: string, at: number) => {
    for (let i = 0; i < text.length; i++) bytes[at + i] = text.charCodeAt(i)
  }
  fields.forEach(({ name, type, length }, i) => {
    write(name, 32 + 32 * i)
    write(type, 32 + 32 * i + 11)
    bytes[32 + 32 * i + 16] = length
  })
  bytes[headerLength - 1] = 0x0d
  rows.forEach((row, i) => write(row.padEnd(rowLength), headerLength + i * rowLength))
  return bytes
}
const latin = new TextDecoder('windows-1252')
const fields: Field[] = [
  { name: 'name', type: 'C', length: 6 },
  { name: 'loans', type: 'N', length: 5 },
  { name: 'open', type: 'L', length: 1 },
  { name: 'since', type: 'D', length: 8 },
]

describe('a table beside shapes', () => {
  it('gives text, numbers, yes and no, and dates; nothing where nothing stands', () => {
    const { rows } = readDbf(
      dbfOf(fields, [' B\u00fccher 12.5Y20240131', '       *****?', ' a     12x  N2024']),
      'a.dbf',
      latin,
    )
    expect(rows).toEqual([
      { name: 'Bücher', loans: 12.5, open: true, since: '2024-01-31' },
      { name: null, loans: null, open: null, since: null },
      { name: 'a', loans: '12x', open: false, since: '2024' },
    ])
  })

  it('keeps fields of one name apart, and marks rows that were deleted', () => {
    const twice = [fields[0], fields[0]]
    const { rows, deleted } = readDbf(dbfOf(twice, [' one   two', '*three four']), 'a.dbf', latin)
    expect(rows[0]).toEqual({ name: 'one', 'name 2': 'two' })
    expect([...deleted]).toEqual([1])
  })

  it('reads binary numbers of later levels', () => {
    const binary = [
      { name: 'whole', type: 'I', length: 4 },
      { name: 'real', type: 'O', length: 8 },
    ]
    const bytes = dbfOf(binary, [''])
    const view = new DataView(bytes.buffer)
    view.setInt32(32 + 64 + 1 + 1, -7, true)
    view.setFloat64(32 + 64 + 1 + 5, 2.25, true)
    expect(readDbf(bytes, 'a.dbf', latin).rows).toEqual([{ whole: -7, real: 2.25 }])
  })

  it('that does not fit its own header is refused', () => {
    const whole = dbfOf(fields, [' a', ' b', ' c'])
    const broken = (change: (copy: Uint8Array) => void) => {
      const copy = Uint8Array.from(whole)
      change(copy)
      return () => readDbf(copy, 'a.dbf', latin)
    }
    expect(() => readDbf(whole.subarray(0, -25), 'a.dbf', latin)).toThrow(
      'a.dbf breaks off in row 2: its header says 3 rows.',
    )
    expect(broken((copy) => (copy[10] = 5))).toThrow('its fields need 21 bytes a row, but its header says 5')
    expect(broken((copy) => copy.fill(0x41, 32 + 128, 32 + 129))).toThrow('the list of its fields has no end')
    expect(() => readDbf(whole.subarray(0, 20), 'a.dbf', latin)).toThrow('its header is not complete')
  })
})
