import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { classify } from './classify'
import { firstChoices, largestShare, skewness, type FirstField } from './first-choices'

/** A steady sequence of numbers between 0 and 1, always the same. */
const spread = (i: number): number => (i * 0.618_033_988_749) % 1
const list = (count: number, of: (u: number, i: number) => number): Float64Array =>
  Float64Array.from({ length: count }, (_, i) => of(spread(i + 1), i))
/** A normal distribution by the sum of twelve (Irwin and Hall 1927). */
const normal = (i: number): number =>
  Array.from({ length: 12 }, (_, k) => spread(12 * i + k + 1)).reduce((a, b) => a + b, -6)

type Expected = { method: string; diverging?: boolean; classes?: number; aside?: number; divideBy?: number }

const shapes: [string, Float64Array, FirstField, Expected][] = [
  ['even values', list(200, (u) => 100 * u), {}, { method: 'natural-breaks', classes: 5 }],
  ['a normal distribution', list(200, (_, i) => 50 + 10 * normal(i)), {}, { method: 'natural-breaks' }],
  ['shares in per cent', list(164, (u) => 12 + 60 * u * u), {}, { method: 'natural-breaks' }],
  [
    'populations of countries',
    list(199, (u) => Math.exp(9 + 12 * u ** 3)),
    { isCount: true },
    { method: 'geometric', divideBy: 1e6 },
  ],
  [
    'a few giants',
    list(300, (u, i) => (i < 3 ? 1e6 + i : 10 + 90 * u)),
    {},
    { method: 'quantile', divideBy: 1e3 },
  ],
  ['incomes', list(164, (u) => 18_000 + 30_000 * u), {}, { method: 'natural-breaks' }],
  [
    'zeros for a third',
    list(90, (u, i) => (i % 3 ? Math.round(1 + 99 * u) : 0)),
    { isCount: true },
    { method: 'natural-breaks', aside: 1 },
  ],
  [
    'zeros of an index, which are values',
    list(90, (u, i) => (i % 3 ? 1 + 99 * u : 0)),
    {},
    { method: 'natural-breaks', aside: 0 },
  ],
  [
    'nothing but zeros',
    list(40, () => 0),
    { isCount: true },
    { method: 'natural-breaks', aside: 0, classes: 2 },
  ],
  [
    'changes up and down',
    list(120, (u) => -8 + 20 * u),
    { isChange: true },
    { method: 'natural-breaks', diverging: true, classes: 6 },
  ],
  [
    'balances of migration',
    list(120, (_, i) => Math.round(normal(i) * 900)),
    {},
    { method: 'natural-breaks', diverging: true },
  ],
  [
    'rates with two below zero',
    list(120, (u, i) => (i < 2 ? -0.1 : 5 * u)),
    {},
    { method: 'natural-breaks', diverging: false },
  ],
  ['all below zero', list(120, (u) => -50 + 40 * u), {}, { method: 'natural-breaks', diverging: false }],
  ['two values only', list(50, (u) => (u < 0.5 ? 1 : 2)), {}, { method: 'natural-breaks', classes: 2 }],
  ['three values only', list(60, (u) => Math.floor(3 * u)), {}, { method: 'natural-breaks', classes: 3 }],
  ['nine provinces', list(9, (u) => 10 * u), {}, { method: 'natural-breaks', classes: 3 }],
  ['twenty regions', list(20, (u) => 10 * u), {}, { method: 'natural-breaks', classes: 4 }],
  ['a single value', Float64Array.of(7), {}, { method: 'natural-breaks' }],
  [
    'millions',
    list(150, (u) => 2e6 + 3e7 * u),
    { isCount: true },
    { method: 'natural-breaks', divideBy: 1e3 },
  ],
  ['densities over six powers of ten', list(220, (u) => 10 ** (6 * u - 2)), {}, { method: 'geometric' }],
  ['missing values between', list(150, (u, i) => (i % 4 ? 40 * u : NaN)), {}, { method: 'natural-breaks' }],
]

describe('how values are classed before anybody chose', () => {
  it.each(shapes)('%s', (_, values, field, expected) => {
    const { classing, diverging } = firstChoices(values, field)
    expect(classing.method).toBe(expected.method)
    expect(diverging).toBe(expected.diverging ?? false)
    expect(classing.setAside).toHaveLength(expected.aside ?? 0)
    expect(classing.numbers?.divideBy ?? 1).toBe(expected.divideBy ?? 1)
    if (expected.classes !== undefined) expect(classing.classes).toBe(expected.classes)
  })

  it('says why something other than natural breaks was taken, and what else there is', () => {
    const { reasons } = firstChoices(list(199, (u) => Math.exp(9 + 12 * u ** 3)))
    expect(reasons.map(({ words }) => words).join(' ')).toMatch(
      /Natural breaks would put \d+ % of the values/,
    )
    expect(reasons[0].instead?.classing).toEqual({ method: 'natural-breaks' })
    expect(firstChoices(list(200, (u) => 100 * u)).reasons).toEqual([])
    expect(firstChoices(new Float64Array(0))).toMatchObject({ classing: {}, reasons: [] })
  })

  it('never leaves a class with three fifths of different values, nor a value without a class', () => {
    const number = fc.oneof(
      fc.double({ min: 0.001, max: 1e9, noNaN: true }),
      fc.double({ min: 0, max: 5, noNaN: true }),
    )
    fc.assert(
      fc.property(fc.uniqueArray(number, { minLength: 30, maxLength: 300 }), (values) => {
        const { classing } = firstChoices(Float64Array.from(values))
        const result = classify(Float64Array.from(values), {
          method: classing.method ?? 'natural-breaks',
          classes: classing.classes ?? 5,
          ...classing,
        })
        expect(
          result && result.counts.reduce((a, b) => a + b, 0) + result.aside.reduce((a, b) => a + b, 0),
        ).toBe(values.length)
        expect(result && largestShare(result)).toBeLessThanOrEqual(0.6)
      }),
    )
  })

  it('measures how far values lie to one side', () => {
    expect(skewness(Float64Array.of(1, 2, 3, 4, 5))).toBeCloseTo(0, 12)
    // 0 nine times and 1 once: (1 − 2p) ∕ √(p (1 − p)) with p = 0.1.
    expect(skewness(Float64Array.from({ length: 10 }, (_, i) => (i ? 0 : 1)))).toBeCloseTo(0.8 / 0.3, 9)
  })
})
