import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { plainContext, type MethodContext, type Pairs } from './break-method'
import { classIndex, classify, computedIds, maxClasses, minClasses } from './classify'
import { methodOf, type MethodId } from './methods'
import { boundaryAccuracy, moransI, tabularAccuracy, varianceFit } from './quality'
import type { SetAside } from './spec'

/**
 * Three published sets of numbers: stopping distances of cars (Ezekiel 1930), counts of insects under six
 * sprays (Beall 1942), weights of fifteen women (McNeil 1977).
 */
const published: Record<string, number[]> = {
  cars: [
    2, 10, 4, 22, 16, 10, 18, 26, 34, 17, 28, 14, 20, 24, 28, 26, 34, 34, 46, 26, 36, 60, 80, 20, 26, 54, 32,
    40, 32, 40, 50, 42, 56, 76, 84, 36, 46, 68, 32, 48, 52, 56, 64, 66, 54, 70, 92, 93, 120, 85,
  ],
  sprays: [
    10, 7, 20, 14, 14, 12, 10, 23, 17, 20, 14, 13, 11, 17, 21, 11, 16, 14, 17, 17, 19, 21, 7, 13, 0, 1, 7, 2,
    3, 1, 2, 1, 3, 0, 1, 4, 3, 5, 12, 6, 4, 3, 5, 5, 5, 5, 2, 4, 3, 5, 3, 5, 3, 6, 1, 1, 3, 2, 6, 4, 11, 9,
    15, 22, 15, 16, 13, 10, 26, 26, 24, 13,
  ],
  women: [115, 117, 120, 123, 126, 129, 132, 135, 139, 142, 146, 150, 154, 159, 164],
}
const sortedOf = (name: string) => Float64Array.from(published[name]).sort()
const breaksOf = (
  id: MethodId,
  values: ArrayLike<number>,
  classes: number,
  more: Partial<MethodContext> = {},
) => {
  const sorted = Float64Array.from(values).sort()
  return methodOf(id).compute?.(sorted, classes, { ...plainContext(sorted), ...more }) ?? []
}
/** The members of each class, to compare classes whatever the exact place of a break between two values. */
const groups = (sorted: Float64Array, breaks: number[]) => {
  const counts = new Array<number>(breaks.length + 1).fill(0)
  for (const value of sorted) counts[breaks.filter((b) => value >= b).length]++
  return counts
}
/** All ways to cut the different values into k runs. */
function* cuts(m: number, k: number, from = 1): Generator<number[]> {
  if (k === 1) return void (yield [])
  for (let at = from; at <= m - k + 1; at++) for (const rest of cuts(m, k - 1, at + 1)) yield [at, ...rest]
}
const bestCut = (sorted: Float64Array, k: number, loss: (counts: number[]) => number): number => {
  const distinct = [...new Set(sorted)]
  let least = Infinity
  for (const cut of cuts(distinct.length, Math.min(k, distinct.length)))
    least = Math.min(
      least,
      loss(
        groups(
          sorted,
          cut.map((i) => distinct[i]),
        ),
      ),
    )
  return least
}

describe('published figures', () => {
  it('natural breaks fit as well as the best of all possible classes', () => {
    for (const [name, k] of [
      ['cars', 4],
      ['sprays', 4],
      ['women', 5],
    ] as const) {
      const sorted = sortedOf(name)
      expect(varianceFit(sorted, groups(sorted, breaksOf('natural-breaks', sorted, k)))).toBeCloseTo(
        1 - bestCut(sorted, k, (counts) => 1 - varianceFit(sorted, counts)),
        12,
      )
    }
  })

  it('quantiles put as many values into each class as ties allow', () => {
    expect(groups(sortedOf('women'), breaksOf('quantile', sortedOf('women'), 5))).toEqual([3, 3, 3, 3, 3])
    for (const [name, k] of [
      ['cars', 5],
      ['sprays', 4],
      ['sprays', 6],
    ] as const) {
      const sorted = sortedOf(name)
      const steps = [...sorted.keys()].filter((i) => i > 0 && sorted[i] > sorted[i - 1])
      let before = 0
      groups(sorted, breaksOf('quantile', sorted, k))
        .slice(0, -1)
        .reduce((sum, count, i) => {
          const [limit, target] = [sum + count, (sorted.length * (i + 1)) / k]
          for (const other of steps.filter((step) => step > before))
            expect(Math.abs(limit - target)).toBeLessThanOrEqual(Math.abs(other - target) + 0.5)
          before = limit
          return limit
        }, 0)
    }
  })

  it('standard deviations lie about the mean', () => {
    const moments = { cars: [42.98, 25.511], sprays: [9.5, 7.1533], women: [136.7333, 14.9731] }
    for (const [name, [mean, deviation]] of Object.entries(moments)) {
      const breaks = breaksOf('standard-deviation', sortedOf(name), 4)
      expect(breaks[1]).toBeCloseTo(mean, 3)
      expect(breaks[2] - breaks[1]).toBeCloseTo(deviation, 2)
      expect(breaksOf('standard-deviation', sortedOf(name), 3, { deviations: 0.5 })[0]).toBeCloseTo(
        mean - deviation / 4,
        2,
      )
    }
  })

  it('nested means are the mean and the means of its two parts', () => {
    for (const name of Object.keys(published)) {
      const values = published[name]
      const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / list.length
      const whole = mean(values)
      const expected = [mean(values.filter((v) => v < whole)), whole, mean(values.filter((v) => v >= whole))]
      breaksOf('nested-means', values, 5).forEach((b, i) => expect(b).toBeCloseTo(expected[i], 10))
    }
  })

  it('progressions grow by one factor, or by one amount', () => {
    expect(breaksOf('geometric', [1, 10, 100, 1000, 10000], 4).map((b) => Math.round(b))).toEqual([
      10, 100, 1000,
    ])
    for (const name of ['cars', 'women']) {
      const [low, ...rest] = [
        Math.min(...published[name]),
        ...breaksOf('geometric', published[name], 5),
        Math.max(...published[name]),
      ]
      const factor = rest[0] / low
      rest.forEach((b, i) => expect(b).toBeCloseTo(low * factor ** (i + 1), 6))
    }
    // Zeros share the lowest class with the smallest positive value.
    expect(breaksOf('geometric', published.sprays, 3)[0]).toBeCloseTo(26 ** (1 / 3), 10)
    expect(breaksOf('arithmetic', [0, 15], 5)).toEqual([1, 3, 6, 10])
    expect(breaksOf('arithmetic', published.women, 4).map((b) => Number(b.toFixed(2)))).toEqual([
      119.9, 129.7, 144.4,
    ])
  })

  it('head and tail follow the mean of the head (Jiang 2013, his example)', () => {
    // 19 · 1, 6 and 25 values as 1 ∕ rank: the first mean of a rank-size list of ten is 0.29.
    const ranked = Array.from({ length: 10 }, (_, i) => 1 / (i + 1))
    expect(breaksOf('head-tail', ranked, 9)[0]).toBeCloseTo(0.2929, 4)
    expect(breaksOf('head-tail', ranked, 9)[1]).toBeCloseTo((1 + 0.5 + 1 / 3) / 3, 10)
    for (const name of Object.keys(published)) {
      const values = published[name]
      const means: number[] = []
      for (let head = values, go = true; go && head.length > 1 && means.length < 6;) {
        const mean = head.reduce((a, b) => a + b, 0) / head.length
        const next = head.filter((v) => v >= mean)
        go = next.length < head.length && (means.length === 0 || next.length / head.length <= 0.4)
        if (go) means.push(mean)
        head = next
      }
      breaksOf('head-tail', values, 7).forEach((b, i) => expect(b).toBeCloseTo(means[i], 10))
      expect(breaksOf('head-tail', values, 7)).toHaveLength(means.length)
    }
  })

  it('maximum breaks lie in the widest gaps', () => {
    expect(breaksOf('maximum-breaks', published.cars, 3)).toEqual([88.5, 106.5])
    expect(breaksOf('maximum-breaks', published.women, 2)).toEqual([156.5])
    expect(groups(sortedOf('cars'), breaksOf('maximum-breaks', published.cars, 2))).toEqual([49, 1])
    expect(breaksOf('maximum-breaks', [1, 2, 9, 10, 30], 3)).toEqual([5.5, 20])
  })

  it('rounded steps are multiples of one round number', () => {
    expect(breaksOf('rounded-steps', published.cars, 6)).toEqual([20, 40, 60, 80, 100])
    expect(breaksOf('rounded-steps', published.women, 5)).toEqual([120, 140, 160])
    expect(breaksOf('rounded-steps', published.sprays, 3)).toEqual([10, 20])
    expect(breaksOf('rounded-steps', [0.0031, 0.0188], 4)).toEqual([0.005, 0.01, 0.015])
    expect(breaksOf('rounded-steps', published.cars, 6, { step: 30 })).toEqual([30, 60, 90])
  })

  it('fit and accuracy agree with plain sums', () => {
    for (const name of Object.keys(published)) {
      const sorted = sortedOf(name)
      const counts = groups(sorted, breaksOf('equal-interval', sorted, 4))
      const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / list.length
      let from = 0
      let [squares, absolute] = [0, 0]
      for (const count of counts) {
        const part = [...sorted.subarray(from, from + count)]
        const m = mean(part)
        for (const v of part) {
          squares += (v - m) ** 2
          absolute += Math.abs(v - m)
        }
        from += count
      }
      const whole = mean([...sorted])
      expect(varianceFit(sorted, counts)).toBeCloseTo(
        1 - squares / sorted.reduce((s, v) => s + (v - whole) ** 2, 0),
        12,
      )
      expect(tabularAccuracy(sorted, counts)).toBeCloseTo(
        1 - absolute / sorted.reduce((s, v) => s + Math.abs(v - whole), 0),
        12,
      )
    }
  })
})

/** Areas of a grid, each beside those next to it. */
const gridPairs = (columns: number, rows: number): Pairs => {
  const [a, b]: [number[], number[]] = [[], []]
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const cell = r * columns + c
      for (const next of [
        ...(c + 1 < columns ? [cell + 1] : []),
        ...(r + 1 < rows ? [cell + columns] : []),
      ]) {
        a.push(cell)
        b.push(next)
      }
    }
  return { a: Uint32Array.from(a), b: Uint32Array.from(b) }
}

describe('methods that look at the ground', () => {
  it('equal area gives each class as much ground', () => {
    const sorted = Float64Array.of(1, 2, 3, 4, 5, 6)
    expect(
      groups(sorted, breaksOf('equal-area', sorted, 2, { sizes: Float64Array.of(5, 1, 1, 1, 1, 1) })),
    ).toEqual([1, 5])
    expect(
      groups(sorted, breaksOf('equal-area', sorted, 3, { sizes: Float64Array.of(1, 1, 1, 1, 1, 1) })),
    ).toEqual([2, 2, 2])
    expect(
      groups(
        Float64Array.of(1, 1, 1, 2),
        breaksOf('equal-area', [1, 1, 1, 2], 2, { sizes: Float64Array.of(1, 1, 1, 1) }),
      ),
    ).toEqual([3, 1])
  })

  it('least boundary error is the least of all possible classes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 12 }), { minLength: 4, maxLength: 12 }),
        fc.array(fc.tuple(fc.nat(11), fc.nat(11)), { maxLength: 20 }),
        fc.integer({ min: 2, max: 4 }),
        (list, links, k) => {
          const sorted = Float64Array.from(list).sort()
          const kept = links.filter(([p, q]) => p < q && q < sorted.length)
          const neighbours: Pairs = {
            a: Uint32Array.from(kept, ([p]) => p),
            b: Uint32Array.from(kept, ([, q]) => q),
          }
          const loss = (counts: number[]) => {
            const classes = counts.flatMap((count, c) => new Array<number>(count).fill(c))
            return kept.reduce(
              (sum, [p, q]) => sum + (classes[p] === classes[q] ? Math.abs(sorted[p] - sorted[q]) : 0),
              0,
            )
          }
          expect(loss(groups(sorted, breaksOf('boundary-error', sorted, k, { neighbours })))).toBeCloseTo(
            bestCut(sorted, k, loss),
            9,
          )
        },
      ),
      { numRuns: 200 },
    )
  })

  it('boundary accuracy is 1 where classes part the largest differences', () => {
    const line = { a: Uint32Array.of(0, 1, 2), b: Uint32Array.of(1, 2, 3) }
    expect(boundaryAccuracy(Float64Array.of(1, 2, 8, 9), [0, 0, 1, 1], line)).toBe(1)
    expect(boundaryAccuracy(Float64Array.of(1, 2, 8, 9), [0, 1, 1, 1], line)).toBeCloseTo(1 / 6, 12)
    expect(
      boundaryAccuracy(Float64Array.of(1, 2), [0, 0], { a: Uint32Array.of(0), b: Uint32Array.of(1) }),
    ).toBeNaN()
  })

  it("Moran's I is that of its formula: clustered, alternating and worked by hand", () => {
    const side = 6
    const board = Float64Array.from(
      { length: side * side },
      (_, i) => ((i % side) + Math.floor(i / side)) % 2,
    )
    expect(moransI(board, gridPairs(side, side))?.i).toBeCloseTo(-1, 12)
    const halves = moransI(
      Float64Array.from({ length: side * side }, (_, i) => (i % side < 3 ? 0 : 1)),
      gridPairs(side, side),
    )
    expect(halves?.i).toBeCloseTo(0.8, 12)
    expect(halves?.expected).toBeCloseTo(-1 / 35, 12)
    expect(halves?.z).toBeGreaterThan(5)
    // Four in a row, 1 2 3 4: products of deviations 0.75 − 0.25 + 0.75, squares 5, so I = 4 ∕ 3 · 1.25 ∕ 5.
    expect(
      moransI(Float64Array.of(1, 2, 3, 4), { a: Uint32Array.of(0, 1, 2), b: Uint32Array.of(1, 2, 3) })?.i,
    ).toBeCloseTo(1 / 3, 12)
    expect(moransI(Float64Array.of(1, 1, 1, 1), gridPairs(2, 2))).toBeNull()
  })
})

const lists = fc.array(
  fc.oneof(fc.double({ min: -1e4, max: 1e4, noNaN: true }), fc.integer({ min: -5, max: 5 }), fc.constant(0)),
  { minLength: 2, maxLength: 60 },
)
const anyMethod = fc.constantFrom<MethodId>(...computedIds)
const anyCount = fc.integer({ min: minClasses, max: maxClasses })

describe('two-sided data', () => {
  it('have a break at the middle, whatever the method, and every value in a class', () => {
    fc.assert(
      fc.property(lists, anyMethod, anyCount, fc.boolean(), (list, method, classes, rounded) => {
        const values = Float64Array.from(list)
        const result = classify(values, { method, classes, rounded, midpoint: { at: 'zero', value: 0 } })
        if (!result || !(Math.min(...list) < 0 && Math.max(...list) > 0)) return
        expect(result.breaks).toContain(0)
        expect(result.counts.reduce((a, b) => a + b, 0)).toBe(list.length)
        expect(result.middle?.below).toBe(result.breaks.filter((b) => b < 0).length)
      }),
    )
  })

  it('get as many classes on both sides where there are enough values', () => {
    const values = Float64Array.from({ length: 100 }, (_, i) => (i < 50 ? i - 50 : 3 * (i - 49)))
    for (const method of ['quantile', 'natural-breaks', 'equal-interval'] as const) {
      const result = classify(values, { method, classes: 6, midpoint: { at: 'zero', value: 0 } })
      expect([result?.counts.length, result?.middle]).toEqual([6, { value: 0, below: 3 }])
    }
    expect(
      classify(values, { method: 'equal-interval', classes: 4, midpoint: { at: 'typed', value: 50 } })
        ?.breaks,
    ).toEqual([-50, 0, 50, 100, 150])
    expect(
      classify(values, { method: 'quantile', classes: 4, midpoint: { at: 'median', value: 0 } })?.middle
        ?.value,
    ).toBe(1)
  })

  it('are one-sided where all values lie on one side', () => {
    const result = classify(Float64Array.of(3, 4, 5, 6), {
      method: 'quantile',
      classes: 2,
      midpoint: { at: 'zero', value: 0 },
    })
    expect(result?.middle).toEqual({ value: 0, below: 0 })
    expect(result?.counts).toEqual([2, 2])
  })
})

describe('locked breaks', () => {
  it('stay while the method fits the others around them', () => {
    fc.assert(
      fc.property(
        lists,
        anyMethod,
        anyCount,
        fc.array(fc.double({ min: -5000, max: 5000, noNaN: true }), { maxLength: 3 }),
        (list, method, classes, locked) => {
          const rounded = list.length % 2 === 0
          const result = classify(Float64Array.from(list), { method, classes, locked, rounded })
          if (!result) return
          const [min, max] = [Math.min(...list), Math.max(...list)]
          for (const b of locked) if (b > min && b < max) expect(result.breaks).toContain(b)
          expect(result.counts.reduce((a, b) => a + b, 0)).toBe(list.length)
          for (let i = 2; i < result.breaks.length - 1; i++)
            expect(result.breaks[i]).toBeGreaterThan(result.breaks[i - 1])
        },
      ),
    )
  })

  it('leave the rest as good as it can be', () => {
    const sorted = sortedOf('cars')
    const result = classify(sorted, { method: 'natural-breaks', classes: 4, locked: [50] })
    if (!result) throw new Error('There are values.')
    const distinct = [...new Set(sorted)]
    let best = -Infinity
    for (const cut of cuts(distinct.length, 4))
      if (cut.some((i) => distinct[i] === 50))
        best = Math.max(
          best,
          varianceFit(
            sorted,
            groups(
              sorted,
              cut.map((i) => distinct[i]),
            ),
          ),
        )
    expect(result.gvf).toBeCloseTo(best, 10)
  })
})

describe('values set aside and ends', () => {
  const apart = (from: number, to = from): SetAside => ({
    id: `${from}`,
    from,
    to,
    colour: '#ffffff',
    hatched: false,
    label: '',
  })
  it('are counted apart and do not move the breaks', () => {
    const values = Float64Array.of(0, 0, 0, 1, 2, 3, 4, NaN, 99)
    const result = classify(values, {
      method: 'equal-interval',
      classes: 3,
      setAside: [apart(0), apart(50, 100)],
    })
    expect(result).toMatchObject({
      breaks: [1, 2, 3, 4],
      counts: [1, 1, 2],
      aside: [3, 1],
      missing: 1,
      outside: 0,
    })
    expect(
      classify(Float64Array.of(0, 0), { method: 'quantile', classes: 2, setAside: [apart(0)] }),
    ).toBeNull()
  })

  it('belong to the class above or below a break, as is said', () => {
    const values = Float64Array.of(1, 2, 2, 3)
    const manual = { method: 'manual' as const, classes: 2, manualBreaks: [2] }
    expect(classify(values, manual)?.counts).toEqual([1, 3])
    expect(classify(values, { ...manual, inclusive: 'upper' })?.counts).toEqual([3, 1])
    expect([
      classIndex([1, 2, 3], 2),
      classIndex([1, 2, 3], 2, 'upper'),
      classIndex([1, 2, 3], 1, 'upper'),
      classIndex([1, 2, 3], 3.1, 'upper'),
    ]).toEqual([1, 0, 0, -1])
  })
})
