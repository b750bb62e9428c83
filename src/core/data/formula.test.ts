import { describe, expect, it } from 'vitest'
import { numberColumn, textColumn } from './column'
import type { Dataset } from './dataset'
import { FormulaError, formulaColumn, formulaName, parseFormula } from './formula'

const dataset: Dataset = {
  rowCount: 3,
  geometry: { kind: 'none' },
  fields: [
    { key: 'loans', column: numberColumn([10, null, -4]) },
    { key: 'pop. 2025', column: numberColumn([5, 2, 0]) },
    { key: 'kind', column: textColumn(['town', 'city', null]) },
  ],
}
const values = (text: string) => {
  const column = formulaColumn(text, dataset)
  return column.kind === 'number'
    ? Array.from(column.values, (v) => (Number.isNaN(v) ? null : v))
    : Array.from(column.codes, (code) => (code ? column.dictionary[code - 1] : null))
}
const wrong = (text: string): FormulaError => {
  try {
    formulaColumn(text, dataset)
  } catch (error) {
    if (error instanceof FormulaError) return error
    throw error
  }
  throw new Error(`“${text}” was taken.`)
}

describe('formulas', () => {
  it('compute row by row; what is missing stays missing, what is not finite is missing', () => {
    expect(values('loans * 2 + 1')).toEqual([21, null, -7])
    expect(values('loans / pop_2025')).toEqual([2, null, null])
    expect(values('sqrt(loans)')).toEqual([Math.sqrt(10), null, null])
    expect(values('max(loans, 0) ^ 2')).toEqual([100, null, 0])
  })

  it('compare and choose, also between words', () => {
    expect(values('loans > 0 and pop_2025 > 1')).toEqual([1, null, 0])
    expect(values('pop_2025 >= 2 ? "large" : "small"')).toEqual(['large', 'large', 'small'])
  })

  it('know which fields they use', () => {
    expect(
      parseFormula(
        'loans + pop_2025 * pi',
        dataset.fields.map((f) => f.key),
      ).fields,
    ).toEqual(['loans', 'pop. 2025'])
  })

  it('write field names plainly', () => {
    expect([formulaName('pop. 2025'), formulaName('2025 loans'), formulaName('größe')]).toEqual([
      'pop_2025',
      '_2025_loans',
      'größe',
    ])
  })

  it('that cannot be taken say why and where', () => {
    expect(wrong('loans +')).toMatchObject({
      message: expect.stringContaining('Unexpected end of expression'),
    })
    expect(wrong('1 + readers')).toMatchObject({ message: 'There is no field “readers”.', at: 4 })
    expect(wrong('median(loans)').message).toContain('There is no function “median”')
    for (const text of ['loans = 1', 'x = 2; x', '[1, 2]', '{a: 1}', 'loans[1]', 'evaluate("1")', 'f(x) = x'])
      expect(wrong(text), text).toBeInstanceOf(FormulaError)
  })

  it('compares words as they are, and numbers as numbers', () => {
    expect(values('kind == "town"')).toEqual([1, 0, null])
    expect(values('kind != "town"')).toEqual([0, 1, null])
    expect(values('kind == "town" and loans == 10')).toEqual([1, null, null])
    expect(values('loans == 10.0')).toEqual([1, null, 0])
    expect(values('kind == "town" ? 7 : 8')).toEqual([7, 8, null])
  })
})
