import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { roundBreaks, toStep } from './round'

const sorted = (values: number[]) => Float64Array.from(values).sort()

describe('round breaks', () => {
  it('makes 4,182.8571 readable', () => {
    const values = sorted([0, 900, 2000, 4000, 4500, 7000, 9000, 12_000, 20_000])
    expect(roundBreaks(values, [4182.8571, 8391.22])).toEqual([4500, 8000])
  })

  it('leaves every value in its class where round numbers do', () => {
    const values = sorted([1, 2, 2.85, 2.94, 3.6, 3.82, 3.88, 4.4, 4.97, 5.03, 6, 7.9, 8.1, 9])
    const inner = [2.94, 3.88, 5.03, 8.1]
    const rounded = roundBreaks(values, inner)
    expect(rounded).toEqual([2.9, 3.85, 5, 8])
    rounded.forEach((b, i) =>
      expect(values.filter((v) => v < b).length).toBe(values.filter((v) => v < inner[i]).length),
    )
    // The other limit of a class: values on a break stay below it.
    expect(roundBreaks(sorted([1, 2, 3.9, 7, 9]), [3.9], 'upper')).toEqual([4])
    expect(roundBreaks(sorted([1, 2, 3.9, 7, 9]), [3.9])).toEqual([3.5])
  })

  it('takes the coarsest step that keeps every class filled', () => {
    expect(roundBreaks(sorted([1.1, 1.2, 1.34, 1.36, 1.5]), [1.35])).toEqual([1.35])
  })

  it('keeps breaks inside the data and ascending, each near where it was', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.double({ min: -1e5, max: 1e5, noNaN: true }), { minLength: 6, maxLength: 60 }),
        fc.integer({ min: 1, max: 4 }),
        (list, count) => {
          const values = sorted(list)
          const inner = Array.from(
            { length: count },
            (_, i) => values[Math.floor(((i + 1) * values.length) / (count + 1))],
          )
          fc.pre(new Set(inner).size === count && inner[0] > values[0])
          const rounded = roundBreaks(values, inner)
          const edges = [values[0], ...inner, values[values.length - 1]]
          rounded.forEach((b, i) => {
            expect(b).toBeGreaterThan(values[0])
            expect(b).toBeLessThanOrEqual(values[values.length - 1])
            if (i) expect(b).toBeGreaterThan(rounded[i - 1])
            expect(Math.abs(b - inner[i])).toBeLessThanOrEqual(
              Math.min(edges[i + 1] - edges[i], edges[i + 2] - edges[i + 1]) / 4 + 1e-12,
            )
          })
        },
      ),
    )
  })

  it('leaves no dust of binary fractions', () => {
    expect(toStep(0.30000000000000004, 1, -1)).toBe(0.3)
    expect(toStep(1234, 5, 1)).toBe(1250)
    expect(String(toStep(0.07, 2, -2))).toBe('0.08')
  })
})
