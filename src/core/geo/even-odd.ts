import type { Position } from 'geojson'
import { planarArea } from './planar-area'
import type { Polygons } from './polygon-clipping'
import { unwrap } from './sphere/unwrap'

type Loop = { ring: Position[]; places: Position[]; size: number; box: [number, number, number, number] }

/**
 * Closed rings that do not cross as polygons by the rule of even and odd: a ring inside an even number of others is
 * the outside of a polygon, one inside an odd number a hole in the smallest of them. Rings without area are left out.
 * Null where a ring goes round the axis, of which this rule says nothing.
 */
export function polygonsByEvenOdd(rings: Position[][]): Polygons | null {
  const loops: Loop[] = []
  for (const ring of rings) {
    const { places, turns } = unwrap(ring)
    if (turns !== 0) return null
    const size = Math.abs(planarArea(places))
    if (size > 0) loops.push(besides({ ring, places, size, box: boxOf(places) }, loops[0]))
  }
  // The smallest first, so that the first ring around another is the nearest.
  loops.sort((a, b) => a.size - b.size)
  const around = loops.map((loop, i) => loops.filter((other, k) => k > i && holds(other, loop)))
  const polygons = new Map<Loop, Position[][]>()
  loops.forEach((loop, i) => {
    if (around[i].length % 2 === 0) polygons.set(loop, [loop.ring])
  })
  loops.forEach((loop, i) => {
    const home = around[i].length % 2 === 1 && polygons.get(around[i][0])
    if (home) home.push(loop.ring)
  })
  return [...polygons.values()].reverse()
}

/** A loop counted from the same turn as another: a file may cross the date line in one and not in the other. */
function besides(loop: Loop, first: Loop | undefined): Loop {
  if (!first) return loop
  const middle = ({ box }: Loop): number => (box[0] + box[2]) / 2
  const turn = 360 * Math.round((middle(first) - middle(loop)) / 360)
  if (turn === 0) return loop
  const places = loop.places.map(([x, y]): Position => [x + turn, y])
  return { ...loop, places, box: boxOf(places) }
}

function boxOf(places: Position[]): Loop['box'] {
  const box: Loop['box'] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const [x, y] of places) {
    if (x < box[0]) box[0] = x
    if (y < box[1]) box[1] = y
    if (x > box[2]) box[2] = x
    if (y > box[3]) box[3] = y
  }
  return box
}

/** Whether a loop lies around another: they touch at vertices at most, so that the middle of an edge tells. */
function holds(outer: Loop, inner: Loop): boolean {
  const [a, b] = outer === inner ? [] : [outer.box, inner.box]
  if (!a || !b || b[0] < a[0] || b[1] < a[1] || b[2] > a[2] || b[3] > a[3]) return false
  const [[ax, ay], [bx, by]] = inner.places
  return isInside(outer.places, (ax + bx) / 2, (ay + by) / 2)
}

function isInside(ring: Position[], x: number, y: number): boolean {
  let inside = false
  for (let i = 1; i < ring.length; i++) {
    const [[ax, ay], [bx, by]] = [ring[i - 1], ring[i]]
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside
  }
  return inside
}

/** Whether the first ring of a polygon lies around all others, as far as their boxes tell. */
export function holesLieInside(rings: Position[][]): boolean {
  if (rings.length < 2) return true
  const [outer, ...holes] = rings.map((ring) => boxOf(unwrap(ring).places))
  const within = (box: Loop['box']): boolean => {
    const turn = 360 * Math.round((outer[0] + outer[2] - box[0] - box[2]) / 720)
    const hair = 1e-9
    return (
      box[0] + turn >= outer[0] - hair &&
      box[2] + turn <= outer[2] + hair &&
      box[1] >= outer[1] - hair &&
      box[3] <= outer[3] + hair
    )
  }
  return holes.every(within)
}
