import { eachVertex, type Areas, type Lines } from '../geometry'
import { eastward } from './longitudes'

/**
 * A closed ring on the globe: how often it goes round the axis (1 eastward, −1 westward, 0 for one that goes
 * round neither pole), twice the area that it encloses in square degrees of longitude and latitude (positive
 * when it runs anticlockwise; of no use where it goes round), the longitudes that it spans, unwrapped from its
 * first vertex, and its latitudes.
 */
export type RingShape = {
  turns: number
  area: number
  west: number
  east: number
  south: number
  north: number
}

/** @param ring which ring of `areas` */
export function ringShape(areas: Areas | Lines, ring: number): RingShape {
  const { coords } = areas.arcs
  const shape: RingShape = { turns: 0, area: 0, west: Infinity, east: -Infinity, south: 90, north: -90 }
  let [x, lon, lat] = [NaN, NaN, NaN]
  let [first, turned] = [0, 0]
  // Counted from the first vertex, so that small rings far from the origin lose no figures.
  let [x0, y0] = [0, 0]
  eachVertex(areas, ring, (v) => {
    const [nextLon, nextLat] = [coords[2 * v], coords[2 * v + 1]]
    if (Number.isNaN(x)) {
      x = first = x0 = nextLon
      y0 = nextLat
    } else {
      // Whole turns are added, so that longitudes keep their figures.
      turned += Math.round((eastward(lon, nextLon) - (nextLon - lon)) / 360)
      const next = nextLon + 360 * turned
      shape.area += (x - x0) * (nextLat - y0) - (next - x0) * (lat - y0)
      x = next
    }
    if (x < shape.west) shape.west = x
    if (x > shape.east) shape.east = x
    if (nextLat < shape.south) shape.south = nextLat
    if (nextLat > shape.north) shape.north = nextLat
    lon = nextLon
    lat = nextLat
  })
  shape.turns = Number.isNaN(x) ? 0 : Math.round((x - first) / 360)
  return shape
}

/**
 * A ring along the date line from pole to pole and back: it encloses the whole globe, from which holes are
 * taken.
 */
export function isWholeGlobe(areas: Areas, ring: number): boolean {
  const { coords } = areas.arcs
  const ref = areas.refs[areas.ringStarts[ring]]
  const start = areas.arcs.starts[ref < 0 ? ~ref : ref]
  if (coords[2 * start] !== 180 && Math.abs(coords[2 * start + 1]) < 90) return false
  let [onLine, south, north] = [true, false, false]
  eachVertex(areas, ring, (v) => {
    if (coords[2 * v + 1] <= -90) south = true
    else if (coords[2 * v + 1] >= 90) north = true
    else if (coords[2 * v] !== 180) onLine = false
  })
  return onLine && south && north
}

/** Whether polygon `p` holds the north pole, its rings being turned with the inside on their left. */
export function holdsNorthPole(areas: Areas, p: number): boolean {
  let turns = 0
  for (let r = areas.polygonStarts[p]; r < areas.polygonStarts[p + 1]; r++) {
    if (r === areas.polygonStarts[p] && isWholeGlobe(areas, r)) return true
    turns += ringShape(areas, r).turns
  }
  return turns > 0
}

/**
 * How often rings cross the meridian of a place to the north of it. Which way an arc is run along does not
 * matter for that, so that both neighbours of a border reckon with the same numbers and a place near it lies in
 * one of them only.
 */
export function crossingsNorth(
  areas: Areas,
  rings: [from: number, to: number],
  lon: number,
  lat: number,
): number {
  const { refs, ringStarts } = areas
  const { coords, starts } = areas.arcs
  let count = 0
  for (let k = ringStarts[rings[0]]; k < ringStarts[rings[1]]; k++) {
    const arc = refs[k] < 0 ? ~refs[k] : refs[k]
    const last = 2 * (starts[arc + 1] - 1)
    let before = eastward(lon, coords[2 * starts[arc]])
    for (let i = 2 * starts[arc]; i < last; i += 2) {
      const x = before
      const next = (before = eastward(lon, coords[i + 2]))
      if (x > 0 === next > 0) continue
      // The far side of the globe is no crossing.
      const [step, rest] = [next - x, 0 - x]
      if (step > 180 || step < -180) continue
      if (coords[i + 1] + ((coords[i + 3] - coords[i + 1]) * rest) / step > lat) count++
    }
  }
  return count
}

/** Whether polygon `p` holds a place, given whether it holds the north pole. */
export const polygonHolds = (
  areas: Areas,
  p: number,
  [lon, lat]: readonly [number, number],
  north: boolean,
): boolean =>
  (crossingsNorth(areas, [areas.polygonStarts[p], areas.polygonStarts[p + 1]], lon, lat) % 2 === 1) !== north

/**
 * Turns rings so that the inside lies on their left, whatever the file's winding. A ring that goes round
 * neither pole encloses what is inside it in longitude and latitude. Of rings round the globe, two bound the
 * band between them; one bounds the cap in which its holes lie or, without holes, the smaller one, unless
 * `trusted` says of the feature that its directions are known to be right.
 */
export function turnRings(areas: Areas, trusted: (feature: number) => boolean = () => false): void {
  for (let f = 0; f + 1 < areas.featureStarts.length; f++)
    turnPolygons(areas, [areas.featureStarts[f], areas.featureStarts[f + 1]], trusted(f))
}

function turnPolygons(areas: Areas, [from, to]: [number, number], trusted: boolean): void {
  const { polygonStarts } = areas
  for (let p = from; p < to; p++) {
    const around: { ring: number; shape: RingShape }[] = []
    for (let r = polygonStarts[p]; r < polygonStarts[p + 1]; r++) {
      const shape = ringShape(areas, r)
      if (r === polygonStarts[p] && shape.area === 0 && isWholeGlobe(areas, r)) continue
      if (shape.turns) around.push({ ring: r, shape })
      else if (shape.area < 0 === (r === polygonStarts[p])) turnRing(areas, r)
    }
    if (around.length && !trusted) turnRound(areas, p, around)
  }
}

function turnRing({ refs, ringStarts }: Areas, ring: number): void {
  const run = refs.subarray(ringStarts[ring], ringStarts[ring + 1])
  run.reverse()
  for (let k = 0; k < run.length; k++) run[k] = ~run[k]
}

function turnRound(areas: Areas, p: number, around: { ring: number; shape: RingShape }[]): void {
  const bySouth = around
    .map(({ ring, shape }) => ({ ring, turns: shape.turns, lat: latitudeOf(areas, ring) }))
    .sort((a, b) => a.lat - b.lat)
  // From south to north: into the inside at each ring that runs east, out of it at each that runs west.
  const south = bySouth.length % 2 === 1 && !northIsInside(areas, p, bySouth[bySouth.length - 1].ring)
  bySouth.forEach(({ ring, turns }, i) => {
    const east = (i % 2 === 0) !== south
    if (turns > 0 !== east) turnRing(areas, ring)
  })
}

/** The mean latitude of a ring round the globe, by longitude. */
export function latitudeOf(areas: Areas, ring: number): number {
  let [sum, lon, lat] = [0, NaN, NaN]
  eachVertex(areas, ring, (v) => {
    const [nextLon, nextLat] = [areas.arcs.coords[2 * v], areas.arcs.coords[2 * v + 1]]
    if (!Number.isNaN(lon)) sum += (eastward(lon, nextLon) * (lat + nextLat)) / 2
    lon = nextLon
    lat = nextLat
  })
  return (sum / 360) * Math.sign(ringShape(areas, ring).turns || 1)
}

/** Of one ring round the globe: whether its holes lie north of it; without holes, whether that cap is smaller. */
function northIsInside(areas: Areas, p: number, ring: number): boolean {
  const { coords, starts } = areas.arcs
  for (let r = areas.polygonStarts[p]; r < areas.polygonStarts[p + 1]; r++) {
    if (ringShape(areas, r).turns) continue
    const ref = areas.refs[areas.ringStarts[r]]
    const v = starts[ref < 0 ? ~ref : ref]
    return crossingsNorth(areas, [ring, ring + 1], coords[2 * v], coords[2 * v + 1]) % 2 === 0
  }
  return latitudeOf(areas, ring) > 0
}
