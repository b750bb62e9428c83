/** All methods take values in ascending order and a number of classes, and give the inner breaks, ascending. */
export type BreakMethod = (sorted: Float64Array, classes: number) => number[]

/** Classes of equal width between the extremes. */
export const equalInterval: BreakMethod = (sorted, classes) => {
  const [min, max] = [sorted[0], sorted[sorted.length - 1]]
  return Array.from({ length: classes - 1 }, (_, i) => min + ((max - min) * (i + 1)) / classes)
}

/**
 * Classes of equal size, as nearly as ties allow: the limit nearest to each share that lies between two different
 * values is taken, so equal values never fall in different classes.
 */
export const quantile: BreakMethod = (sorted, classes) => {
  const n = sorted.length
  const breaks: number[] = []
  let previous = 0
  for (let i = 1; i < classes; i++) {
    const limit = nearestStep(sorted, (n * i) / classes, previous)
    if (limit === null) break
    breaks.push(between(sorted[limit - 1], sorted[limit]))
    previous = limit
  }
  return breaks
}

/** The index nearest to `target` and above `after` where the sorted values step up; null when there is none. */
function nearestStep(sorted: Float64Array, target: number, after: number): number | null {
  const steps = (i: number) => i > after && i < sorted.length && sorted[i - 1] < sorted[i]
  const around = Math.round(target)
  for (let d = 0; d < sorted.length; d++) {
    // Of two limits equally near, the one on the target's own side comes first.
    const order = around <= target ? [around + d, around - d] : [around - d, around + d]
    const found = order.find(steps)
    if (found !== undefined) return found
  }
  return null
}

/**
 * Natural breaks: the classes with the least sum of squared deviations from their means, exactly. Dynamic
 * programming after Fisher (1958) and Wang and Song (2011), with the divide-and-conquer step that the monotone
 * position of the best limit allows; O(k n log n) time. Equal values stay together.
 */
export const naturalBreaks: BreakMethod = (sorted, classes) => {
  const { values, weights } = distinct(sorted)
  const m = values.length
  const k = Math.min(classes, m)
  const cost = deviationCost(values, weights)
  let previous = new Float64Array(m)
  for (let i = 0; i < m; i++) previous[i] = cost(0, i)
  const limits: Int32Array[] = []
  for (let q = 1; q < k; q++) {
    const current = new Float64Array(m).fill(Infinity)
    const limit = new Int32Array(m)
    // Only the last row's last entry is needed, so the last pass looks at it alone.
    if (q === k - 1) fillBest(previous, current, limit, cost, q, m - 1, m - 1, q, m - 1)
    else fillBest(previous, current, limit, cost, q, q, m - 1, q, m - 1)
    limits.push(limit)
    previous = current
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

type Cost = (from: number, to: number) => number

/** Best last class for every end in `low…high`, knowing that its start lies in `from…to`. */
function fillBest(previous: Float64Array, current: Float64Array, limit: Int32Array, cost: Cost, q: number, low: number, high: number, from: number, to: number): void {
  if (low > high) return
  const middle = (low + high) >> 1
  let best = Infinity
  let at = from
  const last = Math.min(middle, to)
  for (let start = last; start >= from; start--) {
    const tail = cost(start, middle)
    if (tail >= best) break
    const total = previous[start - 1] + tail
    if (total < best) {
      best = total
      at = start
    }
  }
  current[middle] = best
  limit[middle] = at
  fillBest(previous, current, limit, cost, q, low, middle - 1, from, at)
  fillBest(previous, current, limit, cost, q, middle + 1, high, at, to)
}

function deviationCost(values: Float64Array, weights: Float64Array): Cost {
  const m = values.length
  const shift = values[m >> 1]
  const w = new Float64Array(m + 1)
  const s = new Float64Array(m + 1)
  const s2 = new Float64Array(m + 1)
  for (let i = 0; i < m; i++) {
    const v = values[i] - shift
    w[i + 1] = w[i] + weights[i]
    s[i + 1] = s[i] + weights[i] * v
    s2[i + 1] = s2[i] + weights[i] * v * v
  }
  return (from, to) => {
    const sum = s[to + 1] - s[from]
    return Math.max(0, s2[to + 1] - s2[from] - (sum * sum) / (w[to + 1] - w[from]))
  }
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

/** A limit between two neighbouring values: above the lower one and not above the higher one, whatever the rounding. */
const between = (low: number, high: number): number => {
  const middle = low + (high - low) / 2
  return middle > low ? middle : high
}
