import { describe, expect, it } from 'vitest'
import { textAt } from '@/core/data/column'
import { figuresOf } from './figures'
import { readFile } from './registry'

const csv = async (text: string) =>
  (await readFile(new TextEncoder().encode(text), 'figures.csv')).datasets[0]
const cells = async (text: string) => {
  const { dataset, remarks = [] } = await csv(text)
  return {
    remarks: remarks.join(' '),
    fields: Object.fromEntries(
      dataset.fields.map(({ key, column }) => [
        key,
        Array.from({ length: dataset.rowCount }, (_, row) => textAt(column, row)),
      ]),
    ),
    kinds: Object.fromEntries(dataset.fields.map(({ key, column }) => [key, column.type ?? column.kind])),
  }
}

describe('figures as offices publish them', () => {
  it('keep flags and marks for missing values in a field of their own', async () => {
    const { fields, kinds, remarks } = await cells(
      'state,readers\nAlb,12.3*\nBren,:\nCal,45.6 e\nDor,(c)\nEld,7\nFen,..\nGar,8.5\n',
    )
    expect(kinds.readers).toBe('number')
    expect(fields.readers).toEqual(['12.3', null, '45.6', null, '7', null, '8.5'])
    expect(fields['readers flag']).toEqual(['*', ':', 'e', '(c)', null, '..', null])
    expect(remarks).toContain('Flags and marks for missing values of “readers”')
  })

  it('have blanks between thousands, decimal commas, percent signs and true minus signs', async () => {
    const { fields, remarks } = await cells(
      'state;people;share;change\nAlb;1 234,5;12 %;−0,5\nBren;12\u00a0345 678,25;8 %;1,25\n',
    )
    expect(fields.people).toEqual(['1234.5', '12345678.25'])
    expect(fields.share).toEqual(['12', '8'])
    expect(fields.change).toEqual(['-0.5', '1.25'])
    expect(remarks).toContain('“share” was written with percent signs')
  })

  it('are told from codes: letters that are no flags stay', () => {
    const column = (...words: string[]) => ({ words, codes: Uint32Array.from(words, (_, i) => i + 1) })
    expect(figuresOf(column('12a', '13', '14'))).toBeNull()
    expect(figuresOf(column('M1', 'M2'))).toBeNull()
    expect(figuresOf(column('1', '2', '3'))).toBeNull()
    expect(figuresOf(column('c', 'c', 'x'))).toBeNull()
    expect(figuresOf(column('12p', '13', '14'))?.flags?.words).toEqual(['p'])
  })

  it('of one column are decided by the whole table: comma or point', async () => {
    expect((await cells('n\n12,345\n3,456\n')).remarks).toBe('')
    const alone = await cells('a|n\nx|12,345\ny|3,456\nz|7,890\n')
    expect(alone.fields.n).toEqual(['12345', '3456', '7890'])
    expect(alone.remarks).toContain('could be read with a decimal comma')
    const semicolons = await cells('a;n\nx;12,345\ny;3,456\nz;7,890\n')
    expect(semicolons.fields.n).toEqual(['12.345', '3.456', '7.89'])
    expect(semicolons.remarks).toContain('the first was taken')
    expect((await cells('a;n;m\nx;12,345;0,123\ny;3,456;1,5\n')).fields).toMatchObject({
      n: ['12.345', '3.456'],
      m: ['0.123', '1.5'],
    })
  })
})

describe('tables with titles, heads and notes', () => {
  it('are found among them, heads joined, and what stood around is said', async () => {
    const { fields, remarks } = await cells(
      [
        'Table 4: Reading in Vintarra',
        'All states,,,,',
        ',Readers,,Loans,',
        'State,2023,2024,2023,2024',
        'Alb,10,11,100,110',
        'Bren,20,22,200,220',
        'Cal,30,,300,',
        'Source: Office of Figures of Vintarra',
        '* estimated from samples of twelve libraries in each of the states',
      ].join('\n'),
    )
    expect(Object.keys(fields)).toEqual(['State', 'Readers 2023', 'Readers 2024', 'Loans 2023', 'Loans 2024'])
    expect(fields.State).toEqual(['Alb', 'Bren', 'Cal'])
    expect(fields['Readers 2024']).toEqual(['11', '22', null])
    expect(remarks).toContain('Above the table stands: Table 4: Reading in Vintarra')
    expect(remarks).toContain('Below the table stands: Source: Office')
    expect(remarks).toContain('joined from 2 rows')
  })

  it('set rows of totals aside, by their sums or their names, and say so', async () => {
    const rows = ['Alb;10;1,5', 'Bren;20;2,5', 'Cal;30;3', 'Dor;40;4']
    const sum = await cells(['state;a;b', ...rows, 'Vintarra;100;11'].join('\n'))
    expect(sum.fields.state).toEqual(['Alb', 'Bren', 'Cal', 'Dor'])
    expect(sum.remarks).toContain('The row “Vintarra” holds the sums of the others and was set aside')
    const named = await cells(['state;a', 'Total;7', 'Alb;10', 'Bren;20', 'Cal;30', 'Dor;40'].join('\n'))
    expect(named.fields.state).toEqual(['Alb', 'Bren', 'Cal', 'Dor'])
    const kept = await readFile(
      new TextEncoder().encode(['state;a;b', ...rows, 'Vintarra;100;11'].join('\n')),
      'figures.csv',
      { totals: 'kept' },
    )
    expect(kept.datasets[0].dataset.rowCount).toBe(5)
    // A large place is no total, nor is one that is called like one.
    expect((await cells(['state;a;b', ...rows, 'Eld;100;7'].join('\n'))).fields.state).toHaveLength(5)
    expect((await cells('state;a\nAlb;1\nTotalby;2\nCal;3\nTotalby;4\n')).fields.state).toHaveLength(4)
  })

  it('say in what figures are counted and whose they are', async () => {
    const [{ said }] = (
      await readFile(
        new TextEncoder().encode(
          'Readers by state (in thousands);;\nstate;2023;2024\nAlb;1,5;2\nBren;2;3\nCal;3;4\nSource: Office of Figures of Vintarra, 2025;;\n',
        ),
        'figures.csv',
      )
    ).datasets
    expect(said).toEqual({ many: 'thousand', credit: 'Office of Figures of Vintarra, 2025' })
  })

  it('keep last rows whose figures are missing, and first rows too', async () => {
    const { fields, remarks } = await cells('state,a,b\nAlb,,\nBren,1,2\nCal,3,4\nDor,,\n')
    expect(fields.state).toEqual(['Alb', 'Bren', 'Cal', 'Dor'])
    expect(remarks).toBe('')
  })
})

describe('whole numbers', () => {
  it('of 17 figures and more are kept to the last', async () => {
    const { fields, kinds } = await cells(
      'key,n\n123456789012345678,1\n123456789012345679,2\n123456789012345680,3\n',
    )
    expect(fields.key).toEqual(['123456789012345678', '123456789012345679', '123456789012345680'])
    expect(kinds).toEqual({ key: 'integer', n: 'integer' })
    const json = `{"type":"FeatureCollection","features":[${[678, 679, 680]
      .map(
        (end) =>
          `{"type":"Feature","properties":{"key":123456789012345${end},"list":[1,{"a":"9007199254740993"}],"yes":true,"when":"2026-01-02","empty":""},"geometry":null}`,
      )
      .join(',')}]}`
    const { datasets } = await readFile(new TextEncoder().encode(json), 'keys.geojson')
    const column = (key: string) => datasets[0].dataset.fields.find((field) => field.key === key)?.column
    expect(textAt(column('key') as never, 1)).toBe('123456789012345679')
    expect(column('yes')).toMatchObject({ type: 'boolean', dictionary: ['true'] })
    expect(column('list')).toMatchObject({ type: 'json', dictionary: ['[1,{"a":"9007199254740993"}]'] })
    expect(textAt(column('empty') as never, 0)).toBe('')
    expect(datasets[0].remarks?.join(' ')).toContain('“list” holds lists or objects')
  })
})

describe('letters of other encodings', () => {
  const encoded = (encoding: string, hex: string) => ({
    encoding,
    bytes: Uint8Array.from(Buffer.from(hex, 'hex')),
  })
  /** “name,n” and a few invented names, as each encoding has them. */
  const files = [
    // Shift_JIS: カレンロ, モリスト, ハルメレ
    encoded(
      'shift_jis',
      '6e616d652c6e0a834a838c839383 8d2c310a83828 38a8358836 72c320a836e838b8381838c2c330a'.replaceAll(
        ' ',
        '',
      ),
    ),
    // windows-1251: Бренлов, Калмере, Дорвик
    encoded('windows-1251', '6e616d652c6e0ac1f0e5edebeee22c310acae0ebece5f0e52c320ac4eef0e2e8ea2c330a'),
  ]
  it.each(files)('are read as $encoding, and a doubt is said with both ways', async ({ encoding, bytes }) => {
    const { datasets } = await readFile(bytes, 'names.csv')
    const { guessed, dataset, remarks = [] } = datasets[0]
    const expected = new TextDecoder(encoding).decode(bytes).split('\n')[1].split(',')[0]
    const said = remarks.join(' ')
    // So few letters may be taken for those of another set; then both are shown.
    if (guessed.encoding !== encoding) expect(said).toContain(`as ${encoding} it would be ‘${expected}’`)
    else expect(textAt(dataset.fields[0].column, 0)).toBe(expected)
    expect(said).toContain('may be of another set')
    const told = (await readFile(bytes, 'names.csv', { encoding })).datasets[0]
    expect(textAt(told.dataset.fields[0].column, 0)).toBe(expected)
    expect(told.remarks).toEqual([])
  })
})
