import type { MultiLineString, MultiPolygon, Position } from 'geojson'
import { createProjection } from '@/core/projection/projection'
import { contoursOf, linesOf, type LevelRings } from './contours'
import type { Grid, Lattice } from './grid'

type Ring = { places: Float64Array; area: number; box: [number, number, number, number] }

/** From cells of a lattice to degrees; places that the plane does not show are drawn in to its middle. */
function degreesIn({ plane, x0, y0, cell }: Lattice): (column: number, row: number) => Position {
  const projection = createProjection(plane)
  return (column, row) => {
    const [x, y] = [x0 + column * cell, y0 + row * cell]
    for (let share = 1; share > 0.5; share -= 0.005) {
      const place = projection.invert(x * share, y * share)
      if (place) return place
    }
    return [plane.centre[0], plane.centre[1]]
  }
}

const toDegrees = (places: Float64Array, at: (column: number, row: number) => Position): Position[] =>
  Array.from({ length: places.length / 2 }, (_, i) => at(places[2 * i], places[2 * i + 1]))

/**
 * The ground between each level and the next, as areas with holes; the last is all above the highest. Neighbouring ones
 * share their border place by place. Null where there is none.
 * @param levels ascending
 */
export function bandsOf(grid: Grid, levels: readonly number[]): (MultiPolygon | null)[] {
  const contours = contoursOf(grid, levels)
  const at = degreesIn(grid)
  return contours.map((lower, k) => {
    const upper = contours[k + 1] as LevelRings | undefined
    const rings = [...ringsOf(lower, 1), ...(upper ? ringsOf(upper, -1) : [])]
    // What is higher lies on the right: in y downwards outer rings of a band have areas above zero.
    const outer = rings.filter(({ area }) => area > 0).sort((a, b) => a.area - b.area)
    const polygons = new Map(outer.map((ring) => [ring, [ring]]))
    for (const hole of rings.filter(({ area }) => area < 0)) {
      const around = outer.find((ring) => -hole.area < ring.area && holds(ring, hole))
      if (around) polygons.get(around)?.push(hole)
    }
    if (!outer.length) return null
    return {
      type: 'MultiPolygon',
      coordinates: outer.map((ring) => (polygons.get(ring) ?? []).map(({ places }) => toDegrees(places, at))),
    }
  })
}

/** The lines of each level; null where it has none. */
export function isolinesOf(grid: Grid, levels: readonly number[]): (MultiLineString | null)[] {
  const at = degreesIn(grid)
  return contoursOf(grid, levels).map((one) => {
    const lines = linesOf(one)
    return lines.length
      ? { type: 'MultiLineString', coordinates: lines.map((places) => toDegrees(places, at)) }
      : null
  })
}

/** Rings of a level with their areas in cells; a sign of −1 runs them the other way. */
function ringsOf({ rings }: LevelRings, sign: 1 | -1): Ring[] {
  return rings.flatMap(({ places }): Ring[] => {
    let [area, x0, y0, x1, y1] = [0, Infinity, Infinity, -Infinity, -Infinity]
    for (let i = 0; i + 3 < places.length; i += 2) {
      const [x, y] = [places[i], places[i + 1]]
      area += x * places[i + 3] - places[i + 2] * y
      if (x < x0) x0 = x
      if (x > x1) x1 = x
      if (y < y0) y0 = y
      if (y > y1) y1 = y
    }
    // What has no area, such as a single place that just reaches a level, is no ground.
    if (Math.abs(area) < 1e-9) return []
    return [{ places: sign > 0 ? places : reversed(places), area: (sign * area) / 2, box: [x0, y0, x1, y1] }]
  })
}

function reversed(places: Float64Array): Float64Array {
  const out = new Float64Array(places.length)
  for (let i = 0; i < places.length; i += 2) {
    out[i] = places[places.length - 2 - i]
    out[i + 1] = places[places.length - 1 - i]
  }
  return out
}

/** Whether a ring holds another that does not cross it. */
function holds(outer: Ring, inner: Ring): boolean {
  const [ax, ay, bx, by] = outer.box
  const [cx, cy, dx, dy] = inner.box
  if (cx < ax || cy < ay || dx > bx || dy > by) return false
  // Rings may touch in a corner: the first place that does not lie on the outer one decides.
  for (let i = 0; i < inner.places.length; i += 2) {
    const side = sideOf(outer.places, inner.places[i], inner.places[i + 1])
    if (side !== 0) return side > 0
  }
  return true
}

/** 1 for a place inside of a ring, −1 outside, 0 for one of its corners. */
function sideOf(ring: Float64Array, x: number, y: number): number {
  let inside = false
  for (let i = 0; i + 3 < ring.length; i += 2) {
    const [ax, ay, bx, by] = [ring[i], ring[i + 1], ring[i + 2], ring[i + 3]]
    if (ax === x && ay === y) return 0
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside
  }
  return inside ? 1 : -1
}
