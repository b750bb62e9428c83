import { between, type BreakMethod, type Pairs } from './break-method'

/**
 * Minimum boundary error (Cromley 1996): the classes with the least sum of differences between neighbouring
 * areas of the same class, so that the borders between colours lie where the values differ most. Exact:
 * dynamic programming over the different values; the best start of the last class never moves back as its end
 * moves on, because adding a value to a longer class adds at least as many differences as adding it to a
 * shorter one, so each row is found by dividing and conquering, the sum being kept while its ends move.
 * Without neighbours it gives no breaks.
 */
export const boundaryError: BreakMethod = (sorted, classes, { neighbours }) => {
  if (!neighbours) return []
  const firsts: number[] = []
  for (let i = 0; i < sorted.length; i++) if (i === 0 || sorted[i] > sorted[i - 1]) firsts.push(i)
  const m = firsts.length
  const k = Math.min(classes, m)
  const cost = movingCost(sorted, firsts, neighbours)
  let previous = Float64Array.from({ length: m }, (_, end) => cost(0, end))
  const limits: Int32Array[] = []
  for (let q = 1; q < k; q++) {
    const current = new Float64Array(m).fill(Infinity)
    const limit = new Int32Array(m)
    const fill = (from: number, to: number, low: number, high: number): void => {
      if (from > to) return
      const end = (from + to) >> 1
      let [best, at] = [Infinity, Math.max(low, q)]
      for (let start = Math.max(low, q); start <= Math.min(high, end); start++) {
        const sum = previous[start - 1] + cost(start, end)
        if (sum < best) [best, at] = [sum, start]
      }
      current[end] = best
      limit[end] = at
      fill(from, end - 1, low, at)
      fill(end + 1, to, at, high)
    }
    fill(q, m - 1, q, m - 1)
    limits.push(limit)
    previous = current
  }
  const breaks: number[] = []
  for (let q = k - 2, end = m - 1; q >= 0; q--) {
    const start = limits[q][end]
    breaks.unshift(between(sorted[firsts[start - 1]], sorted[firsts[start]]))
    end = start - 1
  }
  return breaks
}

/**
 * The sum of differences between neighbours whose values both lie from the `start`-th to the `end`-th
 * different one, kept while these move.
 */
function movingCost(
  sorted: Float64Array,
  firsts: number[],
  { a, b }: Pairs,
): (start: number, end: number) => number {
  const m = firsts.length
  const rank = new Uint32Array(sorted.length)
  for (let v = 0; v < m; v++) for (let i = firsts[v]; i < (firsts[v + 1] ?? sorted.length); i++) rank[i] = v
  const others: number[][] = Array.from({ length: m }, () => [])
  a.forEach((i, e) => {
    const [low, high] = [rank[i], rank[b[e]]].sort((x, y) => x - y)
    if (low === high) return
    others[low].push(high)
    others[high].push(low)
  })
  const difference = (x: number, y: number) => Math.abs(sorted[firsts[x]] - sorted[firsts[y]])
  let [from, to, sum] = [0, -1, 0]
  const touch = (v: number, sign: 1 | -1) => {
    for (const other of others[v]) if (other >= from && other <= to) sum += sign * difference(v, other)
  }
  return (start, end) => {
    while (to < end) touch(++to, 1)
    while (from > start) touch(--from, 1)
    while (to > end) touch(to--, -1)
    while (from < start) touch(from++, -1)
    return Math.max(0, sum)
  }
}
