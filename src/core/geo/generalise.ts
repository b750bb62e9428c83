import { createMemory, numberOf } from '@/core/memory/memory'
import type { Arcs } from './geometry'
import type { Projected } from './projected'
import { takeFeatures } from './take-features'

const rememberArcs = createMemory<Arcs, Arcs>('thinned arcs', { maxBytes: 128 * 2 ** 20 })
const rememberTaken = createMemory<Projected, Projected>('thinned parts', { maxBytes: 32 * 2 ** 20 })
const rememberWhole = createMemory<Arcs, Projected>('thinned geometry', { maxBytes: 2 ** 20 })

/**
 * Drops vertices that cannot be told apart at an output's resolution, those nearer than `toleranceMetres` to
 * the last one kept and those within half of it of a straight line. Ends of arcs stay, so shared borders stay
 * shared. The tolerance is taken down to a power of √2, so that zooming a little reuses the last result.
 */
export function generalise(projected: Projected, toleranceMetres: number): Projected {
  if (projected.kind === 'none' || projected.kind === 'points' || !(toleranceMetres > 0)) return projected
  const tolerance = 2 ** (Math.floor(2 * Math.log2(toleranceMetres)) / 2)
  const { taken } = projected
  if (taken)
    return rememberTaken(projected, String(tolerance), () =>
      takeFeatures(generalise(taken.from, toleranceMetres), taken.rows),
    )
  const arcs = rememberArcs(projected.arcs, String(tolerance), () => thinned(projected.arcs, tolerance))
  return rememberWhole(arcs, `${numberOf(projected.refs)}`, () => ({ ...projected, arcs }))
}

/**
 * Two passes over each arc: vertices nearer than the tolerance to the last one kept go, then those that lie
 * within half of it of the line through the others (Douglas and Peucker 1973). Both ends of an arc stay.
 */
export function thinned({ coords, starts }: Pick<Arcs, 'coords' | 'starts'>, tolerance: number): Arcs {
  const out = new Float64Array(coords.length)
  const outStarts = new Uint32Array(starts.length)
  const limit = tolerance * tolerance
  let n = 0
  for (let arc = 0; arc + 1 < starts.length; arc++) {
    const first = n
    const last = starts[arc + 1] - 1
    let [px, py] = [Infinity, Infinity]
    for (let v = starts[arc]; v <= last; v++) {
      const x = coords[2 * v]
      const y = coords[2 * v + 1]
      if (v < last && (x - px) ** 2 + (y - py) ** 2 < limit) continue
      out[n++] = px = x
      out[n++] = py = y
    }
    n = 2 * straighten(out, first / 2, n / 2, limit / 4)
    outStarts[arc + 1] = n / 2
  }
  return { coords: out.slice(0, n), starts: outStarts }
}

let stack = new Uint32Array(256)
let keep = new Uint8Array(1024)

/**
 * Takes out, in place, the vertices from `from` up to `to` whose squared distance from the chords that are left
 * is under `limit`. Returns where the vertices now end.
 */
function straighten(coords: Float64Array, from: number, to: number, limit: number): number {
  const count = to - from
  if (count < 3) return to
  if (keep.length < count) keep = new Uint8Array(2 * count)
  if (stack.length < 2 * count) stack = new Uint32Array(4 * count)
  keep.fill(0, 0, count)
  keep[0] = keep[count - 1] = 1
  let top = 0
  stack[top++] = 0
  stack[top++] = count - 1
  while (top > 0) {
    const b = stack[--top]
    const a = stack[--top]
    const middle = farthest(coords, from + a, from + b, limit) - from
    if (middle < 0) continue
    keep[middle] = 1
    if (middle - a > 1) top = push(top, a, middle)
    if (b - middle > 1) top = push(top, middle, b)
  }
  let end = from
  for (let i = 0; i < count; i++) {
    if (!keep[i]) continue
    coords[2 * end] = coords[2 * (from + i)]
    coords[2 * end + 1] = coords[2 * (from + i) + 1]
    end++
  }
  return end
}

function push(top: number, a: number, b: number): number {
  stack[top] = a
  stack[top + 1] = b
  return top + 2
}

/** The vertex between two others that is farthest from their chord, where that is over the limit; −1 where none is. */
function farthest(coords: Float64Array, a: number, b: number, limit: number): number {
  const [x, y] = [coords[2 * a], coords[2 * a + 1]]
  const [dx, dy] = [coords[2 * b] - x, coords[2 * b + 1] - y]
  const length = dx * dx + dy * dy
  let [most, at] = [limit, -1]
  for (let v = a + 1; v < b; v++) {
    const [u, w] = [coords[2 * v] - x, coords[2 * v + 1] - y]
    const along = length > 0 ? Math.min(1, Math.max(0, (u * dx + w * dy) / length)) : 0
    const off = (u - along * dx) ** 2 + (w - along * dy) ** 2
    if (off > most) [most, at] = [off, v]
  }
  return at
}
