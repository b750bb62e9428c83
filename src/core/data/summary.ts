export type NumberSummary = {
  count: number
  missing: number
  min: number
  max: number
  sum: number
  mean: number
  lowerQuartile: number
  median: number
  upperQuartile: number
  standardDeviation: number
  skewness: number
}

/** Present values in ascending order. */
export const presentSorted = (values: Float64Array): Float64Array =>
  values.filter((v) => Number.isFinite(v)).sort()

/**
 * Summary of the present values. Standard deviation and skewness are the population's (moments about the
 * mean); skewness is m₃ / m₂^1.5.
 */
export function summarise(values: Float64Array): NumberSummary {
  const sorted = presentSorted(values)
  const count = sorted.length
  const missing = values.length - count
  if (!count)
    return {
      count,
      missing,
      min: NaN,
      max: NaN,
      sum: NaN,
      mean: NaN,
      lowerQuartile: NaN,
      median: NaN,
      upperQuartile: NaN,
      standardDeviation: NaN,
      skewness: NaN,
    }
  const sum = sorted.reduce((total, v) => total + v, 0)
  const mean = sum / count
  let [m2, m3] = [0, 0]
  for (const v of sorted) {
    m2 += (v - mean) ** 2 / count
    m3 += (v - mean) ** 3 / count
  }
  return {
    count,
    missing,
    min: sorted[0],
    max: sorted[count - 1],
    sum,
    mean,
    lowerQuartile: quantileSorted(sorted, 0.25),
    median: quantileSorted(sorted, 0.5),
    upperQuartile: quantileSorted(sorted, 0.75),
    standardDeviation: Math.sqrt(m2),
    skewness: m2 > 0 ? m3 / m2 ** 1.5 : 0,
  }
}

/** Linear interpolation between order statistics (Hyndman and Fan 1996, type 7). */
export function quantileSorted(sorted: Float64Array, p: number): number {
  const position = (sorted.length - 1) * p
  const below = Math.floor(position)
  const above = Math.min(below + 1, sorted.length - 1)
  const share = position - below
  // Both parts by themselves: their difference may be larger than any number.
  return sorted[below] * (1 - share) + sorted[above] * share
}

export type Bin = { from: number; to: number; count: number }

/**
 * Bins of equal width between the extremes; by default their number follows Freedman and Diaconis (1981), 8
 * to 60.
 */
export function histogram(values: Float64Array, wanted?: number): Bin[] {
  const sorted = presentSorted(values)
  if (!sorted.length) return []
  const [min, max] = [sorted[0], sorted[sorted.length - 1]]
  if (min === max) return [{ from: min, to: max, count: sorted.length }]
  // Parts of the two ends, whose difference may be larger than any number.
  const at = (share: number): number => min * (1 - share) + max * share
  const shareOf = (v: number): number => (v / 2 - min / 2) / (max / 2 - min / 2)
  const spread = quantileSorted(sorted, 0.75) - quantileSorted(sorted, 0.25)
  const width = (2 * spread) / Math.cbrt(sorted.length)
  const bins = wanted ?? Math.max(8, Math.min(60, width > 0 ? Math.ceil(max / width - min / width) : 30))
  const counts = new Array<number>(bins).fill(0)
  for (const v of sorted) counts[Math.min(bins - 1, Math.floor(shareOf(v) * bins))]++
  return counts.map((count, i) => ({
    from: at(i / bins),
    to: at((i + 1) / bins),
    count,
  }))
}

/**
 * Pearson's correlation of two lists over the rows in which both are present; NaN under three rows or without
 * spread.
 */
export function correlation(a: Float64Array, b: Float64Array): number {
  const rows = [...a.keys()].filter((i) => Number.isFinite(a[i]) && Number.isFinite(b[i]))
  if (rows.length < 3) return NaN
  const mean = (values: Float64Array) => rows.reduce((sum, i) => sum + values[i], 0) / rows.length
  const [ma, mb] = [mean(a), mean(b)]
  let [ab, aa, bb] = [0, 0, 0]
  for (const i of rows) {
    ab += (a[i] - ma) * (b[i] - mb)
    aa += (a[i] - ma) ** 2
    bb += (b[i] - mb) ** 2
  }
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : NaN
}

/** Rows of the lowest and highest values, `count` of each, the most extreme first. */
export function extremeRows(values: Float64Array, count: number): { lowest: number[]; highest: number[] } {
  const rows = [...values.keys()]
    .filter((i) => Number.isFinite(values[i]))
    .sort((i, j) => values[i] - values[j] || i - j)
  return { lowest: rows.slice(0, count), highest: rows.slice(-count).reverse() }
}
