import { createMemory, numberOf } from '@/core/memory/memory'
import type { Arcs } from './geometry'
import type { Projected } from './projected'
import { takeFeatures } from './take-features'

const rememberArcs = createMemory<Arcs, Arcs>('thinned arcs', { maxBytes: 128 * 2 ** 20 })
const rememberTaken = createMemory<Projected, Projected>('thinned parts', { maxBytes: 32 * 2 ** 20 })
const rememberWhole = createMemory<Arcs, Projected>('thinned geometry', { maxBytes: 2 ** 20 })

/**
 * Drops vertices that cannot be told apart at an output's resolution: a vertex goes when it lies nearer than
 * `toleranceMetres` to the last one kept. Ends of arcs stay, so shared borders stay shared. The tolerance is
 * taken down to a power of √2, so that zooming a little reuses the last result.
 */
export function generalise(projected: Projected, toleranceMetres: number): Projected {
  if (projected.kind === 'none' || projected.kind === 'points' || !(toleranceMetres > 0)) return projected
  const tolerance = 2 ** (Math.floor(2 * Math.log2(toleranceMetres)) / 2)
  const { taken } = projected
  if (taken)
    return rememberTaken(projected, String(tolerance), () =>
      takeFeatures(generalise(taken.from, toleranceMetres), taken.rows),
    )
  const arcs = rememberArcs(projected.arcs, String(tolerance), () => thin(projected.arcs, tolerance))
  return rememberWhole(arcs, `${numberOf(projected.refs)}`, () => ({ ...projected, arcs }))
}

function thin({ coords, starts }: Arcs, tolerance: number): Arcs {
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
