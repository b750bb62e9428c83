import { describe, expect, it } from 'vitest'
import { headingOfAll } from './entries'

describe('a heading for several', () => {
  it('is what they have in common where they differ in numbers', () => {
    expect(headingOfAll(['Library loans 2010 per resident', 'Library loans 2025 per resident'])).toBe(
      'Library loans per resident',
    )
    expect(
      headingOfAll(['Loans per resident, 2010', 'Loans per resident, 2011', 'Loans per resident, 2025']),
    ).toBe('Loans per resident')
    expect(headingOfAll(['People (2010)', 'People (2020)', 'People (2030)'])).toBe('People')
  })

  it('names all of them where that is too little, and each once', () => {
    expect(headingOfAll(['Loans', 'Income'])).toBe('Loans; Income')
    expect(headingOfAll(['Loans', 'Loans'])).toBe('Loans')
    expect(headingOfAll(['Loans', 'Income', 'Age', 'Rent'])).toBe('Loans … Rent')
    expect(headingOfAll(['The loans of a year', 'The income of a head'])).toBe(
      'The loans of a year; The income of a head',
    )
    expect(headingOfAll(['2010', '2020'])).toBe('2010; 2020')
  })
})
