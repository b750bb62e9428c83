import fc from 'fast-check'
import { quantile, sampleCorrelation, sampleSkewness, standardDeviation } from 'simple-statistics'
import { describe, expect, it } from 'vitest'
import { correlation, extremeRows, histogram, quantileSorted, summarise } from './summary'

describe('summaries', () => {
  it('of a textbook sample: 2, 4, 4, 4, 5, 5, 7, 9 has mean 5 and standard deviation 2', () => {
    const s = summarise(Float64Array.of(2, 4, 4, 4, 5, 5, 7, 9, NaN))
    expect(s).toMatchObject({
      count: 8,
      missing: 1,
      min: 2,
      max: 9,
      mean: 5,
      median: 4.5,
      standardDeviation: 2,
    })
  })

  it('agree with an independent library', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1e4, max: 1e4, noNaN: true }), { minLength: 3, maxLength: 60 }),
        (list) => {
          fc.pre(new Set(list.map((v) => Math.round(v))).size > 2)
          const s = summarise(Float64Array.from(list))
          const n = list.length
          expect(s.standardDeviation).toBeCloseTo(standardDeviation(list), 6)
          // Theirs is the sample skewness G₁; ours is the population’s g₁.
          expect(s.skewness).toBeCloseTo((sampleSkewness(list) * (n - 2)) / Math.sqrt(n * (n - 1)), 4)
        },
      ),
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
      fc.property(
        fc.array(fc.double({ min: -100, max: 100, noNaN: true }), { minLength: 1, maxLength: 200 }),
        (list) => {
          const bins = histogram(Float64Array.from([...list, NaN]))
          expect(bins.reduce((n, bin) => n + bin.count, 0)).toBe(list.length)
          bins.slice(1).forEach((bin, i) => expect(bin.from).toBe(bins[i].to))
          expect(bins.length).toBeLessThanOrEqual(60)
        },
      ),
    )
  })
})

describe('two fields', () => {
  it('are correlated as an independent library says, missing rows left out', () => {
    const [a, b] = [
      [1, 2, 3, 4, 7],
      [2, 1, 4, 3, 9],
    ]
    expect(correlation(Float64Array.from([...a, NaN, 5]), Float64Array.from([...b, 3, NaN]))).toBeCloseTo(
      sampleCorrelation(a, b),
      12,
    )
    expect(correlation(Float64Array.of(1, 2, 3), Float64Array.of(-2, -4, -6))).toBeCloseTo(-1, 12)
    expect(correlation(Float64Array.of(1, 2), Float64Array.of(1, 2))).toBeNaN()
    expect(correlation(Float64Array.of(1, 1, 1), Float64Array.of(1, 2, 3))).toBeNaN()
  })

  it('the most extreme rows are named, most extreme first', () => {
    expect(extremeRows(Float64Array.of(5, NaN, 1, 9, 3), 2)).toEqual({ lowest: [2, 4], highest: [3, 0] })
  })
})
