import { describe, expect, it } from 'vitest'
import { columnFromCells, isMissing, numberColumn, numbersOf, takeRows, textAt, textColumn } from './column'
import { proposeMeta, readableName, singularUnit } from './field-meta'

describe('reading cells', () => {
  it('takes numbers only where every filled cell is one', () => {
    expect(columnFromCells(['1', ' 2.5 ', '', 'NA', '..', '-', '1e3'])).toEqual(
      numberColumn([1, 2.5, null, null, null, null, 1000]),
    )
    expect(columnFromCells(['1', 'two']).kind).toBe('text')
    expect(columnFromCells(['', ' ']).kind).toBe('text')
  })

  it('leaves codes with leading zeros as text', () => {
    const codes = columnFromCells(['007', '012'])
    expect(codes.kind).toBe('text')
    expect(textAt(codes, 0)).toBe('007')
    expect(columnFromCells(['0', '0.5', '-0.25']).kind).toBe('number')
  })
})

describe('columns', () => {
  const words = textColumn(['b', null, 'a', 'b', ''])
  it('keep each word once and mark what is missing', () => {
    expect(words.kind === 'text' && words.dictionary).toEqual(['b', 'a'])
    expect([0, 1, 2, 3, 4].map((row) => textAt(words, row))).toEqual(['b', null, 'a', 'b', null])
    expect([...numbersOf(words)].every(Number.isNaN)).toBe(true)
  })

  it('are taken by rows, −1 giving a missing value', () => {
    const rows = Int32Array.of(2, -1, 0)
    expect([0, 1, 2].map((row) => textAt(takeRows(words, rows), row))).toEqual(['a', null, 'b'])
    const numbers = takeRows(numberColumn([7, 8, 9]), rows)
    expect([isMissing(numbers, 1), textAt(numbers, 0), textAt(numbers, 2)]).toEqual([true, '9', '7'])
  })
})

describe('readable names', () => {
  it('are made of field names', () => {
    expect(readableName('lib_loans_2025')).toBe('Library loans 2025')
    expect(readableName('medianIncome')).toBe('Median income')
    expect(readableName('med_hh_income_moe')).toBe('Median household income margin of error')
    expect(readableName('GDP.per.head')).toBe('GDP per head')
    expect(readableName('hh_2025')).toBe('Households 2025')
    expect(readableName('POP')).toBe('Population')
  })
})

describe('field roles', () => {
  const role = (key: string, values: number[]) => proposeMeta(key, numberColumn(values)).role
  it('are proposed from names and values', () => {
    expect(role('pop', [10, 20])).toBe('total')
    expect(role('loans_per_head', [1.2, 3])).toBe('rate')
    expect(role('pct_members', [12, 30])).toBe('share')
    expect(role('med_hh_income', [20000, 30000])).toBe('index')
    expect(role('change', [-4.5, 3])).toBe('index')
    // Whole numbers count something; they add up, below zero too.
    expect(role('net_migration', [-4, 3])).toBe('total')
    expect(role('area_km2', [12.5, 30])).toBe('total')
    expect(role('year', [2020, 2021])).toBe('date')
    expect(proposeMeta('district_code', textColumn(['A', 'B'])).role).toBe('code')
    expect(proposeMeta('main_format', textColumn(['print', 'audio', 'print'])).role).toBe('category')
    expect(proposeMeta('title', textColumn(Array.from({ length: 40 }, (_, i) => `title ${i}`))).role).toBe(
      'name',
    )
  })

  it('give units, and one of a unit after “per”', () => {
    const meta = proposeMeta('population', numberColumn([3]))
    expect(meta.unit).toBe('persons')
    expect(singularUnit(meta)).toBe('resident')
    expect(singularUnit({ label: 'Libraries', unit: 'libraries', role: 'total' })).toBe('library')
    expect(singularUnit({ label: 'Area', unit: 'km²', role: 'total' })).toBe('km²')
  })
})
