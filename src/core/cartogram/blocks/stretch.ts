/** A symmetric matrix, a b over b c. */
export type Spread = [a: number, b: number, c: number]

/** A linear map, by rows. */
export type Linear = [number, number, number, number]

export const unmoved: Linear = [1, 0, 0, 1]

/** The centre of places and how they spread about it (their covariance). */
export function spreadOf(places: Iterable<[x: number, y: number]>): {
  n: number
  x: number
  y: number
  spread: Spread
} {
  let [n, x, y] = [0, 0, 0]
  const spread: Spread = [0, 0, 0]
  // Means and products are carried along (Welford 1962), since places lie far from the origin.
  for (const [px, py] of places) {
    n++
    const [dx, dy] = [px - x, py - y]
    x += dx / n
    y += dy / n
    spread[0] += dx * (px - x)
    spread[1] += dx * (py - y)
    spread[2] += dy * (py - y)
  }
  return { n, x, y, spread: n ? (spread.map((sum) => sum / n) as Spread) : spread }
}

/**
 * The linear map that gives one spread the proportions of another: it turns as little as may be, and keeps areas.
 * Spreads without an extent are left as they are.
 */
export function proportioned(from: Spread, to: Spread): Linear {
  const [f, t] = [rootOf(from), rootOf(to)]
  if (!f || !t) return unmoved
  const [a, b, c] = f
  const det = a * c - b * b
  const [ia, ib, ic] = [c / det, -b / det, a / det]
  const out: Linear = [
    t[0] * ia + t[1] * ib,
    t[0] * ib + t[1] * ic,
    t[1] * ia + t[2] * ib,
    t[1] * ib + t[2] * ic,
  ]
  const size = Math.sqrt(Math.abs(out[0] * out[3] - out[1] * out[2]))
  return size > 0 ? (out.map((value) => value / size) as Linear) : unmoved
}

/** The square root of a symmetric matrix, which is symmetric; null where it has none of full rank. */
function rootOf([a, b, c]: Spread): Spread | null {
  const det = a * c - b * b
  if (!(det > 1e-9 * (a + c) ** 2)) return null
  const s = Math.sqrt(det)
  const t = Math.sqrt(a + c + 2 * s)
  return [(a + s) / t, b / t, (c + s) / t]
}
