import type { Projected } from './projected'

const cache = new WeakMap<Projected, Map<number, Projected>>()

/**
 * Drops vertices that cannot be told apart at an output's resolution: a vertex goes when it lies nearer than
 * `toleranceMetres` to the last one kept. Ends of arcs stay, so shared borders stay shared. The tolerance is
 * taken down to a power of √2, so that zooming a little reuses the last result.
 */
export function generalise(projected: Projected, toleranceMetres: number): Projected {
  if (projected.kind === 'none' || projected.kind === 'points' || !(toleranceMetres > 0)) return projected
  const tolerance = 2 ** (Math.floor(2 * Math.log2(toleranceMetres)) / 2)
  const known = cache.get(projected) ?? new Map<number, Projected>()
  cache.set(projected, known)
  let result = known.get(tolerance)
  if (!result) {
    result = { ...projected, arcs: thin(projected.arcs, tolerance) }
    if (known.size > 5) known.clear()
    known.set(tolerance, result)
  }
  return result
}

function thin({ coords, starts }: { coords: Float64Array; starts: Uint32Array }, tolerance: number) {
  const out = new Float64Array(coords.length)
  const outStarts = new Uint32Array(starts.length)
  const limit = tolerance * tolerance
  let n = 0
  for (let arc = 0; arc + 1 < starts.length; arc++) {
    const last = starts[arc + 1] - 1
    let [px, py] = [Infinity, Infinity]
    for (let v = starts[arc]; v <= last; v++) {
      const [x, y] = [coords[2 * v], coords[2 * v + 1]]
      if (v < last && (x - px) ** 2 + (y - py) ** 2 < limit) continue
      out[n++] = px = x
      out[n++] = py = y
    }
    outStarts[arc + 1] = n / 2
  }
  return { coords: out.slice(0, n), starts: outStarts }
}
