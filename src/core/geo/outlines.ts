import type { Outline } from '@/core/scene/outline'
import { arcNeighbours, eachVertex, ringRange, type Areas } from './geometry'
import type { Projected } from './projected'

/** Projected metres to paper millimetres: paper = metres × mmPerMetre + shift. */
export type PaperTransform = { mmPerMetre: number; dx: number; dy: number }

export type PaperWindow = { x: number; y: number; width: number; height: number }

/**
 * The outline of some features on paper, with the subpaths that belong to each. Features that lie wholly outside
 * `window` are left out.
 */
export function featureOutline(projected: Projected, features: ArrayLike<number>, to: PaperTransform, window: PaperWindow): { outline: Outline; offsets: Uint32Array; kept: number[] } {
  if (projected.kind !== 'areas' && projected.kind !== 'lines') throw new TypeError('Points have no outline.')
  let size = 0
  for (let i = 0; i < features.length; i++) {
    const [from, end] = ringRange(projected, features[i])
    for (let k = projected.ringStarts[from]; k < projected.ringStarts[end]; k++) {
      const arc = projected.refs[k] < 0 ? ~projected.refs[k] : projected.refs[k]
      size += projected.arcs.starts[arc + 1] - projected.arcs.starts[arc]
    }
  }
  const coords = new Float64Array(2 * size)
  const starts: number[] = [0]
  const offsets: number[] = [0]
  const kept: number[] = []
  const source = projected.arcs.coords
  let n = 0
  for (let i = 0; i < features.length; i++) {
    const [from, end] = ringRange(projected, features[i])
    const rewind = [n, starts.length]
    let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
    for (let r = from; r < end; r++) {
      eachVertex(projected, r, (v) => {
        const x = source[2 * v] * to.mmPerMetre + to.dx
        const y = source[2 * v + 1] * to.mmPerMetre + to.dy
        if (x < x0) x0 = x
        if (x > x1) x1 = x
        if (y < y0) y0 = y
        if (y > y1) y1 = y
        coords[n++] = x
        coords[n++] = y
      })
      starts.push(n / 2)
    }
    if (x1 < window.x || y1 < window.y || x0 > window.x + window.width || y0 > window.y + window.height) {
      n = rewind[0]
      starts.length = rewind[1]
      continue
    }
    kept.push(features[i])
    offsets.push(starts.length - 1)
  }
  return { outline: { kind: 'rings', coords: coords.slice(0, n), starts: Uint32Array.from(starts), closed: projected.kind === 'areas' }, offsets: Uint32Array.from(offsets), kept }
}

/** Every border once, each a line of its own; `which` chooses borders between two areas, coasts, or both. */
export function borderOutline(areas: Projected, which: 'between' | 'outer' | 'all', to: PaperTransform, window: PaperWindow): Outline {
  if (areas.kind !== 'areas') throw new TypeError('Only areas have borders.')
  const sides = neighboursOf(areas)
  const { coords: source, starts: arcStarts } = areas.arcs
  const coords = new Float64Array(source.length)
  const starts: number[] = [0]
  let n = 0
  for (let arc = 0; arc + 1 < arcStarts.length; arc++) {
    if (sides[2 * arc] < 0) continue
    const between = sides[2 * arc + 1] >= 0
    if (which !== 'all' && between !== (which === 'between')) continue
    const rewind = n
    let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
    for (let v = arcStarts[arc]; v < arcStarts[arc + 1]; v++) {
      const x = source[2 * v] * to.mmPerMetre + to.dx
      const y = source[2 * v + 1] * to.mmPerMetre + to.dy
      if (x < x0) x0 = x
      if (x > x1) x1 = x
      if (y < y0) y0 = y
      if (y > y1) y1 = y
      coords[n++] = x
      coords[n++] = y
    }
    if (x1 < window.x || y1 < window.y || x0 > window.x + window.width || y0 > window.y + window.height) n = rewind
    else starts.push(n / 2)
  }
  return { kind: 'rings', coords: coords.slice(0, n), starts: Uint32Array.from(starts), closed: false }
}

const neighbours = new WeakMap<Int32Array, Int32Array>()

/** Neighbours depend on the references alone, which projecting and generalising leave as they are. */
function neighboursOf(areas: Areas): Int32Array {
  const known = neighbours.get(areas.refs)
  if (known) return known
  const found = arcNeighbours(areas)
  neighbours.set(areas.refs, found)
  return found
}
