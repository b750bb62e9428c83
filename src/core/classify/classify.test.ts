import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  breaksByHand,
  classIndex,
  classify,
  maxClasses,
  methodIds,
  minClasses,
  type MethodId,
} from './classify'

const values = fc.array(
  fc.oneof(
    fc.double({ min: -1e6, max: 1e6, noNaN: true }),
    fc.integer({ min: -3, max: 3 }),
    fc.constant(0),
    fc.constant(NaN),
  ),
  { minLength: 1, maxLength: 80 },
)
const computed = fc.constantFrom<MethodId>(...methodIds.filter((id) => id !== 'manual'))
const classCount = fc.integer({ min: minClasses, max: maxClasses })

describe('rules that hold for every method', () => {
  it('every value falls in exactly one class, and the counts say so', () => {
    fc.assert(
      fc.property(values, computed, classCount, fc.boolean(), (list, method, classes, rounded) => {
        const result = classify(Float64Array.from(list), { method, classes, rounded })
        const present = list.filter((v) => Number.isFinite(v))
        expect(result === null).toBe(present.length === 0)
        if (!result) return
        const counts = new Array<number>(result.breaks.length - 1).fill(0)
        for (const v of present) {
          const i = classIndex(result.breaks, v)
          expect(i).toBeGreaterThanOrEqual(0)
          const inClass = result.breaks
            .slice(0, -1)
            .filter(
              (low, c) =>
                v >= low &&
                (v < result.breaks[c + 1] || (c === result.breaks.length - 2 && v <= result.breaks[c + 1])),
            )
          expect(inClass.length).toBeGreaterThan(0)
          counts[i]++
        }
        expect(result.counts).toEqual(counts)
        expect(result.outside).toBe(0)
        expect(result.missing).toBe(list.length - present.length)
      }),
      { numRuns: 400 },
    )
  })

  it('breaks ascend, and there are no more classes than asked for', () => {
    fc.assert(
      fc.property(values, computed, classCount, fc.boolean(), (list, method, classes, rounded) => {
        const result = classify(Float64Array.from(list), { method, classes, rounded })
        if (!result) return
        const { breaks } = result
        expect(breaks.length - 1).toBeLessThanOrEqual(classes)
        for (let i = 2; i < breaks.length - 1; i++) expect(breaks[i]).toBeGreaterThan(breaks[i - 1])
        expect(breaks[0]).toBeLessThanOrEqual(breaks[breaks.length - 1])
      }),
      { numRuns: 400 },
    )
  })

  it('rounding moves no value out of all classes and empties none', () => {
    fc.assert(
      fc.property(values, computed, classCount, (list, method, classes) => {
        const exact = classify(Float64Array.from(list), { method, classes })
        const rounded = classify(Float64Array.from(list), { method, classes, rounded: true })
        if (!exact || !rounded) return
        expect(rounded.counts.reduce((a, b) => a + b, 0)).toBe(exact.counts.reduce((a, b) => a + b, 0))
        expect(rounded.counts.filter((n) => n === 0).length).toBe(exact.counts.filter((n) => n === 0).length)
      }),
      { numRuns: 400 },
    )
  })
})

describe('quantiles', () => {
  const breaksOf = (list: number[], classes: number) =>
    classify(Float64Array.from(list), { method: 'quantile', classes })

  it('put as many values in each class as ties allow', () => {
    expect(breaksOf([1, 2, 3, 4, 5, 6, 7, 8], 4)?.counts).toEqual([2, 2, 2, 2])
    expect(breaksOf([1, 2, 3, 4, 5, 6, 7, 8, 9, 10], 3)?.counts).toEqual([3, 4, 3])
  })

  it('never part equal values', () => {
    expect(breaksOf([0, 0, 0, 0, 0, 0, 1, 2, 3, 4], 4)?.counts).toEqual([6, 1, 1, 2])
  })

  it('are within one group of ties of their fair share', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 10_000 }), { minLength: 12, maxLength: 90 }),
        classCount,
        (list, classes) => {
          const result = breaksOf(list, classes)
          for (const count of result?.counts ?? [])
            expect(Math.abs(count - list.length / classes)).toBeLessThanOrEqual(1)
        },
      ),
    )
  })
})

describe('equal intervals', () => {
  it('share the range out', () => {
    const result = classify(Float64Array.of(0, 100, 3, 7), { method: 'equal-interval', classes: 4 })
    expect(result?.breaks).toEqual([0, 25, 50, 75, 100])
    expect(result?.counts).toEqual([3, 0, 0, 1])
  })
})

describe('breaks set by hand', () => {
  it('count the values that fall outside when they are wider than the data on neither side', () => {
    const result = classify(Float64Array.of(1, 2, 3, 4), {
      method: 'manual',
      classes: 5,
      manualBreaks: [3, 2.5, 3],
    })
    expect(result?.breaks).toEqual([1, 2.5, 3, 4])
    expect(result?.counts).toEqual([2, 0, 2])
    expect(result?.outside).toBe(0)
  })

  it('reach beyond the data when a break lies there, with an empty class to show for it', () => {
    const result = classify(Float64Array.of(1, 2), { method: 'manual', classes: 2, manualBreaks: [0, 10] })
    expect(result?.breaks).toEqual([0, 0, 10, 10])
    expect(result?.counts).toEqual([0, 2, 0])
  })
})

it('breaks set by hand can be known before the classes are made', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -50, max: 50, noNaN: true }), { minLength: 1 }),
      fc.array(fc.double({ min: -80, max: 80 }), { maxLength: 8 }),
      (list, manualBreaks) => {
        const values = Float64Array.from(list)
        const made = classify(values, { method: 'manual', classes: 2, manualBreaks })
        expect(breaksByHand(manualBreaks, Math.min(...list), Math.max(...list))).toEqual(made?.breaks)
      },
    ),
  )
})

describe('goodness of variance fit', () => {
  it('is 1 where every class holds one value and falls where classes mix', () => {
    expect(classify(Float64Array.of(1, 5, 9), { method: 'natural-breaks', classes: 3 })?.gvf).toBeCloseTo(
      1,
      12,
    )
    // By hand: 1, 2 | 9, 10 leaves 0.5 + 0.5 of a total of 65.
    expect(classify(Float64Array.of(1, 2, 9, 10), { method: 'natural-breaks', classes: 2 })?.gvf).toBeCloseTo(
      1 - 1 / 65,
      12,
    )
  })

  it('of natural breaks is never beaten by another method', () => {
    fc.assert(
      fc.property(values, classCount, (list, classes) => {
        const of = (method: MethodId) => classify(Float64Array.from(list), { method, classes })
        const best = of('natural-breaks')
        for (const method of ['quantile', 'equal-interval'] as const)
          if (best) expect(best.gvf).toBeGreaterThanOrEqual((of(method)?.gvf ?? 0) - 1e-9)
      }),
    )
  })
})

it('a list without a value has no classes', () => {
  expect(classify(Float64Array.of(NaN, Infinity), { method: 'quantile', classes: 3 })).toBeNull()
})
