import type { PlaneAreas } from './plane'
import type { CartogramForm } from './spec'

/** How good a layout is. */
export type Judged = {
  /** Pairs of areas with a common border, and how many of them still touch. */
  pairs: number
  touching: number
  /** Mean distance that areas were moved, and the mean distance across an area, m on the map. */
  shiftM: number
  acrossM: number
  /** Root mean square of the change of direction to neighbours, degrees. */
  turnedDeg: number
}

/** Two that stand apart by less than this share of the smaller one touch. */
const near = 0.06

/** @param reach radius, or half a side, of each; own shapes that change size touch where these discs would */
export function judged(
  { centres, areas, links }: PlaneAreas,
  at: Float64Array,
  reach: Float64Array,
  form: CartogramForm,
): Judged {
  const there = [...reach.keys()].filter((f) => reach[f] > 0)
  const bordering = links.filter(({ a, b, gap }) => gap === 0 && reach[a] > 0 && reach[b] > 0)
  let [touching, turned] = [0, 0]
  for (const { a, b } of bordering) {
    const [dx, dy] = [at[2 * b] - at[2 * a], at[2 * b + 1] - at[2 * a + 1]]
    if (touch([Math.abs(dx), Math.abs(dy)], [reach[a], reach[b]], form)) touching++
    const before = Math.atan2(centres[2 * b + 1] - centres[2 * a + 1], centres[2 * b] - centres[2 * a])
    const change = Math.abs(Math.atan2(dy, dx) - before)
    turned += Math.min(change, 2 * Math.PI - change) ** 2
  }
  const mean = (of: (f: number) => number) =>
    there.length ? there.reduce((sum, f) => sum + of(f), 0) / there.length : NaN
  return {
    pairs: bordering.length,
    touching,
    shiftM: mean((f) => Math.hypot(at[2 * f] - centres[2 * f], at[2 * f + 1] - centres[2 * f + 1])),
    acrossM: mean((f) => 2 * Math.sqrt(areas[f] / Math.PI)),
    turnedDeg: (Math.sqrt(turned / (bordering.length || 1)) * 180) / Math.PI,
  }
}

type Pair = [number, number]

function touch([dx, dy]: Pair, [a, b]: Pair, form: CartogramForm): boolean {
  // Borders are stretched, and nothing else.
  if (form === 'continuous') return true
  const room = near * 2 * Math.min(a, b)
  if (form === 'squares') {
    const [ox, oy] = [dx - a - b, dy - a - b]
    // Corners that meet are no border.
    return Math.max(ox, oy) <= room && Math.min(ox, oy) < -room
  }
  if (form === 'square tiles') return dx + dy <= 2.1 * Math.max(a, b)
  return Math.hypot(dx, dy) <= a + b + room
}
