import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { numberColumn, textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { stripOf } from './sub-totals'
import { treeOf, type Level } from './tree'

const levels: Level[] = [
  { field: 'group', order: 'given', names: [] },
  { field: 'thing', order: 'given', names: [] },
]
const wholeOf = (values: readonly number[]) => {
  const dataset: Dataset = {
    rowCount: values.length,
    geometry: { kind: 'none' },
    fields: [
      { key: 'group', column: textColumn(values.map((_, i) => `g${i % 3}`)) },
      { key: 'thing', column: textColumn(values.map((_, i) => `t${i}`)) },
      { key: 'loans', column: numberColumn(values) },
    ],
  }
  return treeOf(dataset, levels, 'loans').whole
}

describe('sub-totals of a whole', () => {
  it('take these three and half of that one, each in the order given, then what is left', () => {
    // g0: t0 = 4, t3 = 6; g1: t1 = 10; g2: t2 = 20.
    const whole = wholeOf([4, 10, 20, 6])
    const { segments } = stripOf(whole, [
      {
        name: 'a',
        of: [
          { path: ['g1'], share: 1 },
          { path: ['g0', 't3'], share: 1 },
          { path: ['g2'], share: 0.5 },
        ],
      },
    ])
    expect(segments.map(({ index, value, from, to }) => [index, value, from, to])).toEqual([
      [0, 26, 0, 0.65],
      [null, 14, 0.65, 1],
    ])
    expect(segments[0].pieces.map(({ of, value }) => [of.name, value])).toEqual([
      ['t1', 10],
      ['t3', 6],
      ['t2', 10],
    ])
    expect(segments[1].pieces.map(({ of, value }) => [of.name, value])).toEqual([
      ['t0', 4],
      ['t2', 10],
    ])
  })

  it('fill the strip without gaps, and add up to the whole', () => {
    const shares = fc.record({
      group: fc.integer({ min: 0, max: 2 }),
      share: fc.double({ min: 0.01, max: 0.33, noNaN: true }),
    })
    const values = fc.array(fc.double({ min: 1e-3, max: 1e6, noNaN: true }), { minLength: 3, maxLength: 12 })
    fc.assert(
      fc.property(values, fc.array(shares, { maxLength: 3 }), (given, taken) => {
        const whole = wholeOf(given)
        const total = given.reduce((sum, value) => sum + value, 0)
        const { segments, over, gone } = stripOf(
          whole,
          taken.map(({ group, share }, i) => ({ name: `s${i}`, of: [{ path: [`g${group}`], share }] })),
        )
        expect([over, gone]).toEqual([[], []])
        const pieces = segments.flatMap((segment) => segment.pieces)
        expect(pieces[0].from).toBe(0)
        pieces.slice(1).forEach(({ from }, i) => expect(from).toBe(pieces[i].to))
        expect(Math.abs(pieces[pieces.length - 1].to - 1)).toBeLessThan(1e-12)
        for (const { from, to, value } of pieces)
          expect(Math.abs(to - from - value / total)).toBeLessThan(1e-12)
        const sum = segments.reduce((all, { value }) => all + value, 0)
        expect(Math.abs(sum / total - 1)).toBeLessThan(1e-12)
      }),
      { numRuns: 100 },
    )
  })

  it('are refused where a part is counted more than once over, and say what is gone', () => {
    const whole = wholeOf([1, 2, 3])
    const half = { path: ['g0'], share: 0.6 }
    expect(stripOf(whole, [{ name: 'a', of: [half, half] }])).toMatchObject({
      segments: [],
      over: ['g0, t0'],
    })
    expect(stripOf(whole, [{ name: 'a', of: [{ path: ['g0', 'gone'], share: 1 }] }])).toMatchObject({
      gone: ['g0, gone'],
      segments: [{ index: null }],
    })
    // Thirds add up to a whole one in spite of their rounding.
    const third = { path: ['g1'], share: 1 / 3 }
    expect(stripOf(whole, [{ name: 'a', of: [third, third, third] }]).over).toEqual([])
  })
})
