import { meanOf, type Pairs } from './break-method'

/** Runs of a sorted list that classes of the given sizes take. */
function* runs(counts: number[]): Generator<[number, number]> {
  let from = 0
  for (const count of counts) {
    yield [from, from + count]
    from += count
  }
}

function squaredDeviations(sorted: Float64Array, from: number, to: number): number {
  const mean = meanOf(sorted, from, to)
  let squares = 0
  for (let i = from; i < to; i++) squares += (sorted[i] - mean) ** 2
  return squares
}

function deviations(sorted: Float64Array, from: number, to: number): number {
  const mean = meanOf(sorted, from, to)
  let sum = 0
  for (let i = from; i < to; i++) sum += Math.abs(sorted[i] - mean)
  return sum
}

function fit(
  measure: (sorted: Float64Array, from: number, to: number) => number,
  given: Float64Array,
  counts: number[],
): number {
  const sorted = overRange(given)
  if (!sorted) return 1
  const total = measure(sorted, 0, sorted.length)
  if (!(total > 0)) return 1
  let within = 0
  for (const [from, to] of runs(counts)) if (to > from) within += measure(sorted, from, to)
  return 1 - within / total
}

/** Values as shares of their range, so that squares of very large or small ones stay numbers; null without a range. */
function overRange(sorted: Float64Array): Float64Array | null {
  const [low, high] = [sorted[0], sorted[sorted.length - 1]]
  const half = high / 2 - low / 2
  return half > 0 ? sorted.map((value) => (value / 2 - low / 2) / half) : null
}

/**
 * Goodness of variance fit (Robinson et al. 1984), 0 to 1: 1 − squared deviations from class means ∕ from the
 * mean.
 */
export const varianceFit = (sorted: Float64Array, counts: number[]): number =>
  fit(squaredDeviations, sorted, counts)

/**
 * Tabular accuracy (Jenks and Caspall 1971), 0 to 1: 1 − absolute deviations from class means ∕ from the
 * mean.
 */
export const tabularAccuracy = (sorted: Float64Array, counts: number[]): number =>
  fit(deviations, sorted, counts)

/**
 * Boundary accuracy (Jenks and Caspall 1971), 0 to 1: the differences of values across the borders that
 * separate classes, as a share of what as many of the largest differences come to. NaN where no border
 * separates classes.
 */
export function boundaryAccuracy(sorted: Float64Array, classOf: ArrayLike<number>, { a, b }: Pairs): number {
  const differences: number[] = []
  let [shown, borders] = [0, 0]
  a.forEach((i, e) => {
    const difference = Math.abs(sorted[i] - sorted[b[e]])
    differences.push(difference)
    if (classOf[i] === classOf[b[e]]) return
    shown += difference
    borders++
  })
  if (!borders) return NaN
  const best = differences
    .sort((x, y) => y - x)
    .slice(0, borders)
    .reduce((sum, d) => sum + d, 0)
  return best > 0 ? shown / best : 1
}

/**
 * Moran's I of values over neighbours of equal weight (Moran 1950; Cliff and Ord 1981): near 1 where like
 * lies beside like, near −1 where unlike does. `expected` is what values strewn at random give, `z` how many
 * standard errors lie between, under normality. Null under four values, without neighbours or without spread.
 */
export function moransI(
  values: Float64Array,
  { a, b }: Pairs,
): { i: number; expected: number; z: number } | null {
  const n = values.length
  const mean = meanOf(values)
  let squares = 0
  for (const value of values) squares += (value - mean) ** 2
  if (n < 4 || !a.length || !(squares > 0)) return null
  const degrees = new Float64Array(n)
  let products = 0
  a.forEach((p, e) => {
    products += (values[p] - mean) * (values[b[e]] - mean)
    degrees[p]++
    degrees[b[e]]++
  })
  // Each pair counts in both directions.
  const s0 = 2 * a.length
  const s1 = 4 * a.length
  const s2 = degrees.reduce((sum, d) => sum + (2 * d) ** 2, 0)
  const i = (n / s0) * ((2 * products) / squares)
  const expected = -1 / (n - 1)
  const variance = (n * n * s1 - n * s2 + 3 * s0 * s0) / ((n * n - 1) * s0 * s0) - expected ** 2
  return { i, expected, z: (i - expected) / Math.sqrt(variance) }
}
