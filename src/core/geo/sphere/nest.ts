import type { Position } from 'geojson'
import { eastward } from './longitudes'

/** A closed ring on the globe, the inside on its left, first place and last the same. */
export type Ring = Position[]

type Shape = { ring: Ring; turns: number; area: number; globe: boolean }

/**
 * Rings as polygons, each with the outer ring first: a ring anticlockwise around its inside makes a polygon,
 * rings round the globe make one together, and holes go to the smallest ring around them.
 */
export function nest(rings: Ring[]): Ring[][] {
  const shapes = rings.map(measured)
  const round = shapes.filter(({ turns, globe }) => turns !== 0 || globe)
  const outer = shapes.filter(({ turns, globe, area }) => !turns && !globe && area > 0)
  const holes = shapes.filter(({ turns, globe, area }) => !turns && !globe && area < 0)
  const polygons = outer.map(({ ring }) => [ring])
  // The frame of the globe, where there is one, comes first.
  const rest = round.sort((a, b) => Number(b.globe) - Number(a.globe)).map(({ ring }) => ring)
  const bySize = [...outer.keys()].sort((a, b) => outer[a].area - outer[b].area)
  for (const { ring } of holes) {
    const home = bySize.find((i) => encloses(outer[i].ring, ring))
    if (home !== undefined) polygons[home].push(ring)
    else if (rest.length) rest.push(ring)
    else polygons.push([ring])
  }
  return rest.length ? [rest, ...polygons] : polygons
}

function measured(ring: Ring): Shape {
  let [x, area, globe] = [ring[0][0], 0, true]
  for (let i = 1; i < ring.length; i++) {
    const next = x + eastward(ring[i - 1][0], ring[i][0])
    area += (x - ring[0][0]) * (ring[i][1] - ring[0][1]) - (next - ring[0][0]) * (ring[i - 1][1] - ring[0][1])
    x = next
    if (ring[i][0] !== 180 && Math.abs(ring[i][1]) < 90) globe = false
  }
  const lats = globe ? ring.map(([, lat]) => lat) : []
  return {
    ring,
    area,
    turns: Math.round((x - ring[0][0]) / 360),
    globe: globe && Math.min(...lats) <= -90 && Math.max(...lats) >= 90,
  }
}

/** Whether a ring that goes round no pole lies around another that it does not cross. */
function encloses(outer: Ring, inner: Ring): boolean {
  // A place of the inner ring that is no vertex of the outer one; all of them touch where rings are the same.
  const corners = new Set(outer.map(([lon, lat]) => `${lon} ${lat}`))
  const [lon, lat] = inner.find((place) => !corners.has(`${place[0]} ${place[1]}`)) ?? inner[0]
  let inside = false
  for (let i = 1; i < outer.length; i++) {
    const [a, b] = [eastward(lon, outer[i - 1][0]), eastward(lon, outer[i][0])]
    if (a > 0 === b > 0 || Math.abs(b - a) > 180) continue
    if (outer[i - 1][1] + ((outer[i][1] - outer[i - 1][1]) * (0 - a)) / (b - a) > lat) inside = !inside
  }
  return inside
}
