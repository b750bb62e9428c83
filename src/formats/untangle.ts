import type { Position } from 'geojson'
import { unwrap } from '@/core/geo/sphere/unwrap'
import type { Crossings } from './self-crossings'

/** A vertex of a ring (`vertex` its number), or a crossing on the edge behind that vertex. */
type Stop = { vertex: number; crossing: number }

/**
 * A closed ring that crosses itself as closed rings that touch at most: at each crossing the two courses change places
 * (Seifert 1934), so that nothing is crossed, every edge stays and what lies inside an odd number of rings lies inside
 * the ring by the rule of even and odd.
 */
export function withoutCrossings(ring: Position[], crossings: Crossings): Position[][] {
  const stops = stopsOf(ring, crossings)
  const meets: number[] = new Array<number>(2 * crossings.count).fill(-1)
  stops.forEach(({ crossing }, k) => {
    if (crossing >= 0) meets[2 * crossing + (meets[2 * crossing] < 0 ? 0 : 1)] = k
  })
  const next = (k: number): number => {
    const { crossing } = stops[k]
    if (crossing < 0) return (k + 1) % stops.length
    const [one, other] = [meets[2 * crossing], meets[2 * crossing + 1]]
    return ((k === one ? other : one) + 1) % stops.length
  }
  const unrolled = unwrap(ring).places
  const placeOf = ({ vertex, crossing }: Stop): Position => {
    if (crossing < 0) return ring[vertex]
    // In the longitudes that the file has there.
    const [lon, lat] = crossings.places[crossing]
    return [lon + ring[vertex][0] - unrolled[vertex][0], lat]
  }
  const seen = new Uint8Array(stops.length)
  const loops: Position[][] = []
  for (let start = 0; start < stops.length; start++) {
    if (seen[start]) continue
    const loop: Position[] = []
    for (let k = start; !seen[k]; k = next(k)) {
      seen[k] = 1
      loop.push(placeOf(stops[k]))
    }
    if (loop.length > 2) loops.push([...loop, loop[0]])
  }
  return loops
}

/** All vertices but the closing one, and behind each the crossings on its edge as they come. */
function stopsOf(ring: Position[], { count, pairs, places }: Crossings): Stop[] {
  const onEdge = new Map<number, number[]>()
  for (let k = 0; k < 2 * count; k++) {
    const list = onEdge.get(pairs[k])
    if (list) list.push(k >> 1)
    else onEdge.set(pairs[k], [k >> 1])
  }
  const unrolled = unwrap(ring).places
  const stops: Stop[] = []
  for (let vertex = 0; vertex + 1 < ring.length; vertex++) {
    stops.push({ vertex, crossing: -1 })
    const [[x0, y0], [x1, y1]] = [unrolled[vertex], unrolled[vertex + 1]]
    const along = (crossing: number): number =>
      (places[crossing][0] - x0) * (x1 - x0) + (places[crossing][1] - y0) * (y1 - y0)
    const here = onEdge.get(vertex)?.sort((a, b) => along(a) - along(b)) ?? []
    for (const crossing of here) stops.push({ vertex, crossing })
  }
  return stops
}
