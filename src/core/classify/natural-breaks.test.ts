import fc from 'fast-check'
import { ckmeans } from 'simple-statistics'
import { describe, expect, it } from 'vitest'
import { naturalBreaks } from './natural-breaks'

const sorted = (values: number[]) => Float64Array.from(values).sort()

/** Sum of squared deviations from class means when sorted values are cut at inner breaks. */
function within(values: Float64Array, breaks: number[]): number {
  let sum = 0
  let from = 0
  for (const limit of [...breaks, Infinity]) {
    const members = [...values.slice(from)].filter((v) => v < limit)
    const mean = members.reduce((a, b) => a + b, 0) / members.length
    sum += members.reduce((a, v) => a + (v - mean) ** 2, 0)
    from += members.length
  }
  return sum
}

/** The least deviation over every way of cutting the distinct values. */
function bruteForce(values: Float64Array, classes: number): number {
  const distinct = [...new Set(values)]
  let best = Infinity
  const choose = (start: number, cuts: number[]): void => {
    if (cuts.length === classes - 1) {
      best = Math.min(best, within(values, cuts))
      return
    }
    for (let i = start; i < distinct.length; i++) choose(i + 1, [...cuts, distinct[i]])
  }
  choose(1, [])
  return best
}

describe('natural breaks', () => {
  it('separates groups that lie apart', () => {
    const breaks = naturalBreaks(sorted([1, 2, 1.5, 20, 21, 22, 90, 95]), 3)
    expect(breaks).toHaveLength(2)
    expect(breaks[0]).toBeGreaterThan(2)
    expect(breaks[0]).toBeLessThanOrEqual(20)
    expect(breaks[1]).toBeGreaterThan(22)
    expect(breaks[1]).toBeLessThanOrEqual(90)
  })

  it('solves Fisher’s small example by hand: 1, 2, 3 | 10, 11, 12 | 30', () => {
    const values = sorted([1, 2, 3, 10, 11, 12, 30])
    expect(within(values, naturalBreaks(values, 3))).toBeCloseTo(4, 12)
  })

  it('is the exact optimum of every partition, ties included', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -20, max: 20 }), { minLength: 3, maxLength: 11 }),
        fc.integer({ min: 2, max: 5 }),
        (list, classes) => {
          const values = sorted(list)
          fc.pre(new Set(list).size >= classes)
          expect(within(values, naturalBreaks(values, classes))).toBeCloseTo(bruteForce(values, classes), 8)
        },
      ),
      { numRuns: 200 },
    )
  })

  it('agrees with an independent implementation of Wang and Song on long skewed lists', () => {
    let state = 1
    const random = () => (state = (state * 16807) % 2147483647) / 2147483647
    for (const classes of [3, 5, 8]) {
      const values = sorted(Array.from({ length: 400 }, () => Math.exp(4 * random())))
      const clusters = ckmeans([...values], classes)
      const theirs = clusters.reduce((sum, members) => {
        const mean = members.reduce((a, b) => a + b, 0) / members.length
        return sum + members.reduce((a, v) => a + (v - mean) ** 2, 0)
      }, 0)
      expect(within(values, naturalBreaks(values, classes))).toBeCloseTo(theirs, 6)
    }
  })

  it('gives fewer breaks where there are fewer different values, and keeps equal values together', () => {
    expect(naturalBreaks(sorted([5, 5, 5, 7, 7]), 4)).toHaveLength(1)
    const breaks = naturalBreaks(sorted([0, 0, 0, 0, 1, 9, 9, 10]), 3)
    expect(breaks.every((b) => b > 0)).toBe(true)
  })

  it('keeps its footing among large numbers with small differences', () => {
    const values = sorted([1e9 + 0.1, 1e9 + 0.2, 1e9 + 0.3, 1e9 + 5, 1e9 + 5.1, 1e9 + 9])
    const breaks = naturalBreaks(values, 3)
    expect(breaks[0]).toBeGreaterThan(1e9 + 0.3)
    expect(breaks[0]).toBeLessThanOrEqual(1e9 + 5)
    expect(breaks[1]).toBeGreaterThan(1e9 + 5.1)
  })
})
