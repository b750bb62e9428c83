import { strToU8, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { openWorkbook, type SheetRow } from './workbook'

type Parts = { book?: string; sheet: string; words?: string; styles?: string; rels?: string }

/** A workbook of one sheet, of the parts that matter. */
const bookOf = ({ book, sheet, words, styles, rels }: Parts): Uint8Array =>
  zipSync({
    'xl/workbook.xml': strToU8(
      book ??
        '<workbook xmlns:r="r"><sheets><sheet name="Returns" sheetId="1" r:id="rId1"/></sheets></workbook>',
    ),
    'xl/_rels/workbook.xml.rels': strToU8(
      rels ?? '<Relationships><Relationship Id="rId1" Target="worksheets/sheet1.xml"/></Relationships>',
    ),
    'xl/worksheets/sheet1.xml': strToU8(`<worksheet><sheetData>${sheet}</sheetData></worksheet>`),
    ...(words && { 'xl/sharedStrings.xml': strToU8(`<sst>${words}</sst>`) }),
    ...(styles && { 'xl/styles.xml': strToU8(`<styleSheet>${styles}</styleSheet>`) }),
  })

async function rowsOf(parts: Parts, most = Infinity): Promise<(string | undefined)[][]> {
  const { sheets } = await openWorkbook(bookOf(parts), 'b.xlsx')
  const rows: SheetRow[] = []
  sheets[0].read((row) => rows.push(row) < most)
  return rows.map(({ cells }) =>
    Array.from({ length: Math.max(...cells.keys()) }, (_, c) => cells.get(c + 1)),
  )
}
const says = (parts: Parts): Promise<string> =>
  rowsOf(parts).then(
    () => 'It was read.',
    (error: Error) => error.message,
  )

describe('a row of a workbook', () => {
  it('that has the cells of another one is damage, not a row less', async () => {
    const cell = (r: string) => `<c r="${r}"><v>1</v></c>`
    expect(await says({ sheet: `<row r="1">${cell('A1')}${cell('A2')}</row>` })).toBe(
      'Sheet “Returns” of b.xlsx is damaged: a cell in row 1 says that it lies in row 2.',
    )
    // Rows without a number follow each other, whatever their cells say.
    expect(await rowsOf({ sheet: `<row>${cell('A1')}</row><row>${cell('B2')}</row>` })).toEqual([
      ['1'],
      [undefined, '1'],
    ])
  })
})

describe('the cells of a workbook', () => {
  it('come from their own text, from shared words, and from results of formulas', async () => {
    expect(
      await rowsOf({
        words: '<si><t>Marby</t></si><si><r><t>Old </t></r><r><t>Town</t></r><rPh><t>aside</t></rPh></si>',
        sheet:
          '<row r="1"><c r="A1" t="s"><v>0</v></c><c r="B1" t="s"><v>1</v></c><c r="D1" t="inlineStr"><is><t>in &amp; line</t></is></c></row>' +
          '<row r="3"><c t="n"><v>1.50</v></c><c t="b"><v>1</v></c><c t="e"><v>#N/A</v></c><c t="str"><f>A1&amp;"x"</f><v>Marbyx</v></c></row>',
      }),
    ).toEqual([
      ['Marby', 'Old Town', undefined, 'in & line'],
      ['1.5', 'true', undefined, 'Marbyx'],
    ])
  })

  it('that hold dates are written as such, by the calendar of the workbook', async () => {
    const styles =
      '<numFmts><numFmt numFmtId="170" formatCode="[Red]0.0 &quot;days&quot;"/><numFmt numFmtId="171" formatCode="dd\\.mm\\.yyyy"/></numFmts>' +
      '<cellStyleXfs><xf numFmtId="14"/></cellStyleXfs><cellXfs><xf numFmtId="0"/><xf numFmtId="14"/><xf numFmtId="170"/><xf numFmtId="171"/></cellXfs>'
    const sheet =
      '<row><c s="0"><v>45000</v></c><c s="1"><v>45000</v></c><c s="2"><v>45000</v></c><c s="3"><v>45000.75</v></c><c s="1"><v>0.5</v></c><c s="1"><v>1</v></c></row>'
    expect(await rowsOf({ styles, sheet })).toEqual([
      ['45000', '2023-03-15', '45000', '2023-03-15T18:00:00', '12:00:00', '1900-01-01'],
    ])
    const book =
      '<workbook xmlns:r="r"><workbookPr date1904="1"/><sheets><sheet name="A" r:id="rId1"/></sheets></workbook>'
    expect((await rowsOf({ book, styles, sheet }))[0][1]).toBe('2027-03-16')
  })

  it('are read no further than is wanted', async () => {
    const sheet = Array.from({ length: 50 }, (_, r) => `<row><c><v>${r}</v></c></row>`).join('')
    expect(await rowsOf({ sheet }, 3)).toEqual([['0'], ['1'], ['2']])
  })

  it('that refer to nothing, or are no numbers, are named', async () => {
    const words = '<si><t>a</t></si>'
    expect(await says({ words, sheet: '<row r="4"><c r="AB4" t="s"><v>7</v></c></row>' })).toBe(
      'Sheet “Returns” of b.xlsx, cell AB4 refers to a word that the file does not hold.',
    )
    expect(await says({ sheet: '<row r="2"><c r="C2"><v>many</v></c></row>' })).toBe(
      'Sheet “Returns” of b.xlsx, cell C2 holds ‘many’ as a number.',
    )
    expect(await says({ sheet: '<row><c r="ZZZZ1"><v>1</v></c></row>' })).toContain('more than 16384 columns')
    expect(await says({ sheet: '<row><c>' })).toContain('is not complete XML: it breaks at line 1')
    const rels = '<Relationships><Relationship Id="rId1" Target="worksheets/sheet9.xml"/></Relationships>'
    expect(await says({ rels, sheet: '' })).toBe('Sheet “Returns” of b.xlsx is missing from the file.')
  })
})
