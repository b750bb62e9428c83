import { between, type ValueMethod } from './break-method'

/**
 * Natural breaks: the classes with the least sum of squared deviations from their means, exactly. Dynamic
 * programming after Fisher (1958) and Wang and Song (2011), each row of it in linear time; O(k n) after
 * sorting. Equal values stay together.
 */
export const naturalBreaks: ValueMethod = (sorted, classes) => {
  const { values, weights } = distinct(sorted)
  const m = values.length
  const k = Math.min(classes, m)
  const sums = runningSums(values, weights)
  let previous = new Float64Array(m)
  const starts = new Int32Array(m)
  for (let i = 0; i < m; i++) {
    previous[i] = deviation(sums, 0, i)
    starts[i] = i
  }
  const limits: Int32Array[] = []
  for (let q = 1; q < k; q++) {
    const row = { previous, current: new Float64Array(m).fill(Infinity), limit: new Int32Array(m), sums }
    // Of the last row only the last entry is needed.
    const first = q === k - 1 ? m - 1 : q
    fillMinima(row, first, { step: 1, count: m - first, starts: starts.subarray(q) })
    limits.push(row.limit)
    previous = row.current
  }
  const breaks: number[] = []
  let end = m - 1
  for (let q = k - 2; q >= 0; q--) {
    const start = limits[q][end]
    breaks.unshift(between(values[start - 1], values[start]))
    end = start - 1
  }
  return breaks
}

/**
 * For each end, the least deviation of one class more than in `previous`, and where the last class starts.
 */
type Row = { previous: Float64Array; current: Float64Array; limit: Int32Array; sums: Float64Array }

/** Deviation of the classes up to `end` when the last one starts at `start`. */
function total(previous: Float64Array, sums: Float64Array, start: number, end: number): number {
  if (start > end) return Infinity
  const i = 3 * start
  const j = 3 * end + 3
  const sum = sums[j + 1] - sums[i + 1]
  const last = sums[j + 2] - sums[i + 2] - (sum * sum) / (sums[j] - sums[i])
  return previous[start - 1] + (last > 0 ? last : 0)
}

/**
 * The best start for `count` ends from `first` on, `step` apart, out of ascending `starts`. The best start
 * never moves back as the end moves on, so the least entry of every row of the table of totals is found in
 * linear time (Aggarwal, Klawe, Moran, Shor and Wilber 1987).
 */
function fillMinima(
  row: Row,
  first: number,
  { step, count, starts }: { step: number; count: number; starts: Int32Array },
): void {
  if (count === 0) return
  const kept = promisingStarts(row, first, { step, count, starts })
  fillMinima(row, first + step, { step: 2 * step, count: count >> 1, starts: kept })
  fillBetween(row, first, { step, count, starts: kept })
}

/** The starts that can be best for one of the ends: no more of them than there are ends. */
function promisingStarts(
  { previous, sums }: Row,
  first: number,
  { step, count, starts }: { step: number; count: number; starts: Int32Array },
): Int32Array {
  const kept = new Int32Array(Math.min(count, starts.length))
  let n = 0
  for (let i = 0; i < starts.length; i++) {
    while (n > 0) {
      const end = first + step * (n - 1)
      if (total(previous, sums, kept[n - 1], end) <= total(previous, sums, starts[i], end)) break
      n--
    }
    if (n < count) kept[n++] = starts[i]
  }
  return kept.subarray(0, n)
}

/** Every other end, whose best start lies between those of its neighbours. */
function fillBetween(
  { previous, current, limit, sums }: Row,
  first: number,
  { step, count, starts }: { step: number; count: number; starts: Int32Array },
): void {
  let k = 0
  for (let r = 0; r < count; r += 2) {
    const end = first + step * r
    const last = r + 1 < count ? limit[end + step] : starts[starts.length - 1]
    let best = Infinity
    let at = starts[k]
    for (; ; k++) {
      const value = total(previous, sums, starts[k], end)
      if (value < best) {
        best = value
        at = starts[k]
      }
      if (starts[k] >= last) break
    }
    current[end] = best
    limit[end] = at
  }
}

/**
 * Sums of weights, weighted values and weighted squares before each value, three numbers each, interleaved so
 * that they lie together in memory. Values are taken from the middle one, which keeps the squares small.
 */
function runningSums(values: Float64Array, weights: Float64Array): Float64Array {
  const m = values.length
  const shift = values[m >> 1]
  const sums = new Float64Array(3 * m + 3)
  for (let i = 0; i < m; i++) {
    const v = values[i] - shift
    sums[3 * i + 3] = sums[3 * i] + weights[i]
    sums[3 * i + 4] = sums[3 * i + 1] + weights[i] * v
    sums[3 * i + 5] = sums[3 * i + 2] + weights[i] * v * v
  }
  return sums
}

/** Squared deviations from their mean of the values `from…to`. */
function deviation(sums: Float64Array, from: number, to: number): number {
  const sum = sums[3 * to + 4] - sums[3 * from + 1]
  return Math.max(
    0,
    sums[3 * to + 5] - sums[3 * from + 2] - (sum * sum) / (sums[3 * to + 3] - sums[3 * from]),
  )
}

function distinct(sorted: Float64Array): { values: Float64Array; weights: Float64Array } {
  const values = new Float64Array(sorted.length)
  const weights = new Float64Array(sorted.length)
  let m = 0
  for (let i = 0; i < sorted.length; i++) {
    if (i === 0 || sorted[i] !== sorted[i - 1]) values[m++] = sorted[i]
    weights[m - 1]++
  }
  return { values: values.slice(0, m), weights: weights.slice(0, m) }
}
