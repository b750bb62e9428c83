import fc from 'fast-check'
import { quantile, sampleSkewness, standardDeviation } from 'simple-statistics'
import { describe, expect, it } from 'vitest'
import { histogram, quantileSorted, summarise } from './summary'

describe('summaries', () => {
  it('of a textbook sample: 2, 4, 4, 4, 5, 5, 7, 9 has mean 5 and standard deviation 2', () => {
    const s = summarise(Float64Array.of(2, 4, 4, 4, 5, 5, 7, 9, NaN))
    expect(s).toMatchObject({ count: 8, missing: 1, min: 2, max: 9, mean: 5, median: 4.5, standardDeviation: 2 })
  })

  it('agree with an independent library', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -1e4, max: 1e4, noNaN: true }), { minLength: 3, maxLength: 60 }), (list) => {
        fc.pre(new Set(list.map((v) => Math.round(v))).size > 2)
        const s = summarise(Float64Array.from(list))
        const n = list.length
        expect(s.standardDeviation).toBeCloseTo(standardDeviation(list), 6)
        // Theirs is the sample skewness G₁; ours is the population’s g₁.
        expect(s.skewness).toBeCloseTo((sampleSkewness(list) * (n - 2)) / Math.sqrt(n * (n - 1)), 4)
      }),
    )
  })

  it('of nothing are honest about it', () => {
    expect(summarise(Float64Array.of(NaN))).toMatchObject({ count: 0, missing: 1, mean: NaN })
    expect(summarise(Float64Array.of(3, 3)).skewness).toBe(0)
  })

  it('interpolate between order statistics as type 7 does', () => {
    const sorted = Float64Array.of(1, 2, 3, 4)
    expect(quantileSorted(sorted, 0.25)).toBe(1.75)
    expect(quantileSorted(sorted, 0.5)).toBe(quantile([1, 2, 3, 4], 0.5))
  })
})

describe('histograms', () => {
  it('count every value once in bins that join without gaps', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -100, max: 100, noNaN: true }), { minLength: 1, maxLength: 200 }), (list) => {
        const bins = histogram(Float64Array.from([...list, NaN]))
        expect(bins.reduce((n, bin) => n + bin.count, 0)).toBe(list.length)
        bins.slice(1).forEach((bin, i) => expect(bin.from).toBe(bins[i].to))
        expect(bins.length).toBeLessThanOrEqual(60)
      }),
    )
  })
})
