import fc from 'fast-check'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { columnFromWords } from '@/core/data/column'
import { collectCells, wordAt, withoutFirst, type Cells } from '../cells'
import { plainNumbers } from '../plain-numbers'
import { readFile } from '../registry'
import { isPlain, splitPlain } from './split'

const rowsOf = ({ rows, columns }: Cells) =>
  Array.from({ length: rows }, (_, row) => columns.map((column) => wordAt(column, row) ?? ''))
const split = (text: string, delimiter = ',') => splitPlain(text, delimiter, (count) => count)
const numbersIn = (words: string[]) => {
  const cells = collectCells()
  for (const word of words) cells.add([word])
  return plainNumbers(cells.done().columns[0] ?? { words: [], codes: new Uint32Array() })
}

describe('a text without quotation marks', () => {
  it('is split as a parser splits it, whatever ends its lines', () => {
    const cell = fc.stringMatching(/^[a-z0-9 .;ä]{0,8}$/)
    const table = fc
      .integer({ min: 1, max: 5 })
      .chain((width) =>
        fc.array(fc.array(cell, { minLength: width, maxLength: width }), { minLength: 1, maxLength: 30 }),
      )
    fc.assert(
      fc.property(table, fc.constantFrom('\n', '\r\n', '\r'), fc.boolean(), (rows, end, closed) => {
        const text = rows.map((row) => row.join(',')).join(end) + (closed ? end : '')
        fc.pre(isPlain(text) && text.replaceAll(/[\r\n]/g, '') !== '')
        const expected = Papa.parse<string[]>(text, { delimiter: ',', newline: end }).data
        const own = rowsOf(split(text))
        // Blank lines at the end are no rows to either.
        for (const table of [expected, own]) while (table.at(-1)?.join('') === '') table.pop()
        expect(own).toEqual(expected)
      }),
    )
  })

  it('is handed over row by row; rows that count for nothing leave no trace', () => {
    const seen: string[][] = []
    const cells = splitPlain('a,b\n,\nc,d,e\nf', ',', (count, cellAt) => {
      const row = Array.from({ length: count }, (_, i) => cellAt(i))
      seen.push(row)
      return row.join('') ? Math.min(2, count) : null
    })
    expect(seen).toEqual([['a', 'b'], ['', ''], ['c', 'd', 'e'], ['f']])
    expect(rowsOf(cells)).toEqual([
      ['a', 'b'],
      ['c', 'd'],
      ['f', ''],
    ])
    expect(rowsOf(withoutFirst(cells))).toEqual([
      ['c', 'd'],
      ['f', ''],
    ])
    expect(cells.columns[1].words).toEqual(['b', 'd'])
    expect([...cells.columns[1].codes]).toEqual([1, 2, 0])
  })

  it('gives the same table as one with quotation marks around every cell', async () => {
    const rows = [
      ['code', 'share', 'name', 'lon', 'lat'],
      ['007', '1.50', 'Ä', '1', '2'],
      ['008', '', 'b', '-3.25', '4'],
      ['', '2', ' c ', '5', '6.5'],
    ]
    const plain = rows.map((row) => row.join(',')).join('\r\n')
    const quoted = Papa.unparse(rows, { quotes: true })
    const read = async (text: string) => {
      const [{ dataset, guessed }] = (await readFile(new TextEncoder().encode(text), 'table.csv')).datasets
      return { dataset, guessed }
    }
    expect(await read(plain)).toEqual(await read(quoted))
  })
})

describe('plain numbers', () => {
  it('are those of Number, and make the column that is made word by word', () => {
    const number = fc.oneof(
      fc.integer().map(String),
      fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e9, max: 1e9 }).map((v) => v.toFixed(4)),
      fc.constantFrom('0', '-0', '0.5', '-0.25', '123456789012345', '99999.9999999999'),
    )
    fc.assert(
      fc.property(fc.array(number, { minLength: 1 }), (words) => {
        const found = numbersIn(words)
        expect(found && [...found.values]).toEqual(words.map(Number))
        const codes = Uint32Array.from(words, (_, i) => i + 1)
        const column = columnFromWords(words, codes)
        expect(column).toMatchObject({ kind: 'number', values: found?.values })
        expect(column.type === 'integer').toBe(found?.whole)
      }),
    )
  })

  it('are none where a word could be something else', () => {
    for (const odd of [
      '007',
      '1e5',
      '1,5',
      '.5',
      '5.',
      '+3',
      ' 3',
      '1 000',
      '--1',
      '-',
      '1.2.3',
      '1234567890123456',
    ])
      expect(numbersIn(['1', odd]), odd).toBeNull()
    expect(numbersIn([''])).toBeNull()
    expect([...(numbersIn(['1', '', '2'])?.values ?? [])]).toEqual([1, NaN, 2])
  })
})
