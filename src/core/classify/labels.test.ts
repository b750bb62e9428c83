import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { classLabels, decimalsFor, formatNumber } from './labels'

describe('class labels', () => {
  it('read as words, open at both ends', () => {
    expect(classLabels([0.2, 2, 3.5, 9])).toEqual(['under 2.0', '2.0 to 3.5', '3.5 and over'])
    expect(classLabels([0, 2000, 10_000, 54_321])).toEqual([
      'under 2,000',
      '2,000 to 10,000',
      '10,000 and over',
    ])
    expect(classLabels([3, 8])).toEqual(['3 to 8'])
  })

  it('of neighbouring classes never look alike', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1000, max: 1000, noNaN: true }),
        fc.array(fc.double({ min: 1e-3, max: 500, noNaN: true }), { minLength: 2, maxLength: 9 }),
        (low, gaps) => {
          const breaks = gaps.reduce((list, gap) => [...list, list[list.length - 1] + gap], [low])
          const labels = classLabels(breaks)
          expect(new Set(labels).size).toBe(labels.length)
        },
      ),
    )
  })

  it('take only the decimals that the breaks need', () => {
    expect(decimalsFor([0.123, 2, 4, 9.77])).toBe(0)
    expect(decimalsFor([0, 0.25, 0.5, 1])).toBe(2)
    expect(decimalsFor([0, 1.25, 2.5, 5])).toBe(2)
  })
})

describe('numbers', () => {
  it('have thousands set apart and a true minus sign, and never read “−0”', () => {
    expect(formatNumber(1234567.891, 1)).toBe('1,234,567.9')
    expect(formatNumber(-12.5, 1)).toBe('−12.5')
    expect(formatNumber(-0.001, 1)).toBe('0.0')
    expect(formatNumber(NaN, 1)).toBe('–')
  })
})
