import type { Tell } from './buffer'
import { eachEdge, edgeIndex, type EdgeIndex, type Found } from './edge-index'
import { edgesCross } from './edges-cross'
import { featureAt } from './feature-at'
import { featureCount, type Geometry } from './geometry'
import { eastward } from './sphere/longitudes'

/** For each feature the nearest of others (−1 without one) and the distance along the ground, metres (NaN). */
export type Nearest = { features: Int32Array; metres: Float64Array }

/**
 * The nearest feature of another geometry for each feature, along geodesics on WGS 84 (Karney 2013): 0 where one
 * lies in the other or they touch. Of points, every point is measured from; of lines and areas all of their edges.
 */
export function nearestFeatures(from: Geometry, to: Geometry, tell: Tell = () => undefined): Nearest {
  const size = featureCount(from)
  const features = new Int32Array(size).fill(-1)
  const metres = new Float64Array(size).fill(NaN)
  const others = edgeIndex(to)
  const inside = from.kind === 'areas' ? firstInside(from, to) : null
  for (let f = 0; f < size; f++) {
    if (f % 64 === 0) tell(f / size)
    const held = inside?.get(f)
    const found = held === undefined ? nearestTo(from, f, { to, others }) : { feature: held, metres: 0 }
    if (!found) continue
    features[f] = found.feature
    metres[f] = found.metres
  }
  return { features, metres }
}

/** For areas in which a part of another feature begins, that feature. */
function firstInside(areas: Geometry, to: Geometry): Map<number, number> {
  const inside = new Map<number, number>()
  for (let f = 0; f < featureCount(to); f++) {
    let before: readonly number[] = []
    eachEdge(to, f, (a, b) => {
      const begins = a !== before
      before = b
      if (!begins) return
      const area = featureAt(areas, ...a)
      if (area >= 0 && !inside.has(area)) inside.set(area, f)
    })
  }
  return inside
}

function nearestTo(
  from: Geometry,
  f: number,
  { to, others }: { to: Geometry; others: EdgeIndex },
): Found | null {
  let best: Found | null = null
  const take = (found: Found | null) => {
    if (found && (!best || found.metres < best.metres)) best = found
  }
  const own: number[] = []
  eachEdge(from, f, (a, b) => own.push(...a, ...b))
  for (let i = 0; i < own.length && nearestSoFar(best) > 0; i += 4) {
    const [lon, lat] = [own[i], own[i + 1]]
    const begins = own[i - 2] !== lon || own[i - 1] !== lat
    const at = begins || from.kind === 'points' ? featureAt(to, lon, lat) : -1
    if (at >= 0) take({ feature: at, metres: 0 })
    else take(others.nearest(lon, lat, nearestSoFar(best)))
    // The end of a path is the beginning of no other edge.
    if (from.kind === 'lines' && (own[i + 2] !== own[i + 4] || own[i + 3] !== own[i + 5]))
      take(others.nearest(own[i + 2], own[i + 3], nearestSoFar(best)))
  }
  if (from.kind === 'points' || from.kind === 'none' || !own.length || nearestSoFar(best) === 0) return best
  // The shortest way may also begin inside an edge, and end at a corner of the other feature.
  const mine = edgeIndex(from, f)
  const looked = new Set<number>()
  for (let i = 0; i < own.length && nearestSoFar(best) > 0; i += 4) {
    const edge = own.slice(i, i + 4)
    const { middle, half } = middleOfEdge(edge)
    let crossed = -1
    others.within(...middle, half + nearestSoFar(best), (e) => {
      if (crossed < 0 && cross(edge, others.ends.subarray(4 * e, 4 * e + 4))) crossed = others.features[e]
      if (looked.has(e)) return
      looked.add(e)
      for (const k of [0, 2]) {
        const [lon, lat] = others.ends.subarray(4 * e + k, 4 * e + k + 2)
        const found = mine.nearest(lon, lat, nearestSoFar(best))
        if (found) take({ feature: others.features[e], metres: found.metres })
      }
    })
    if (crossed >= 0) return { feature: crossed, metres: 0 }
  }
  return best
}

const nearestSoFar = (best: Found | null): number => best?.metres ?? Infinity

/** The middle of an edge, and half of its length, metres, at most. */
function middleOfEdge([lonA, latA, lonB, latB]: number[]): { middle: [number, number]; half: number } {
  const [span, rise] = [eastward(lonA, lonB), latB - latA]
  const perDegree = 111_700
  return {
    middle: [lonA + span / 2, latA + rise / 2],
    half: (Math.hypot(span, rise) / 2) * perDegree,
  }
}

function cross(own: number[], other: ArrayLike<number>): boolean {
  const to = (lon: number) => own[0] + eastward(own[0], lon)
  const coords = Float64Array.of(
    own[0],
    own[1],
    to(own[2]),
    own[3],
    to(other[0]),
    other[1],
    to(other[0]) + eastward(other[0], other[2]),
    other[3],
  )
  return edgesCross(coords, 0, 2) !== null
}
