import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { scaleTicks, shareAlong } from './scaling'
import { shadings } from './spec'

describe('a continuous scale', () => {
  it('runs from 0 at the lowest value to 1 at the highest, and never back', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 2, maxLength: 40 }),
        fc.constantFrom(...shadings),
        (list, scaling) => {
          const sorted = Float64Array.from(list).sort()
          const share = shareAlong(sorted, scaling)
          const shares = [...sorted].map(share)
          for (let i = 1; i < shares.length; i++) expect(shares[i]).toBeGreaterThanOrEqual(shares[i - 1])
          for (const s of shares) expect(s >= 0 && s <= 1).toBe(true)
          if (sorted[0] < sorted[sorted.length - 1] && scaling !== 'logarithmic' && scaling !== 'rank')
            expect([shares[0], shares.at(-1)]).toEqual([0, 1])
        },
      ),
    )
  })

  it('places values by size, root, logarithm or rank', () => {
    const sorted = Float64Array.of(1, 10, 100)
    expect(shareAlong(sorted, 'linear')(10)).toBeCloseTo(9 / 99, 12)
    expect(shareAlong(sorted, 'square-root')(10)).toBeCloseTo((Math.sqrt(10) - 1) / 9, 12)
    expect(shareAlong(sorted, 'logarithmic')(10)).toBeCloseTo(0.5, 12)
    expect(shareAlong(sorted, 'rank')(10)).toBe(0.5)
    expect(shareAlong(Float64Array.of(0, 0, 0, 5), 'rank')(0)).toBeCloseTo(0, 12)
    expect(shareAlong(Float64Array.of(0, 1, 10), 'logarithmic')(0)).toBe(0)
  })

  it('has its middle at one half, with the same scale on both sides', () => {
    const share = shareAlong(Float64Array.of(-5, 0, 20), 'linear', 0)
    expect([share(-5), share(0), share(20)]).toEqual([0.375, 0.5, 1])
  })

  it('has round values for its legend', () => {
    expect(scaleTicks(Float64Array.of(0.3, 4, 11.2), 'linear')).toEqual([2, 4, 6, 8, 10])
    expect(scaleTicks(Float64Array.of(3, 40, 1200), 'logarithmic')).toEqual([10, 100, 1000])
    expect(scaleTicks(Float64Array.of(1, 2, 3, 4, 5), 'rank')).toEqual([1, 2, 3, 4, 5])
    expect(scaleTicks(Float64Array.of(7, 7), 'linear')).toEqual([7])
  })
})
