import type { Position } from 'geojson'
import { eachVertex, type Arcs, type Areas } from '../geometry'
import { eastward } from './longitudes'
import { crossingsNorth, isWholeGlobe, latitudeOf, ringShape } from './rings'

/** A closed ring on the globe, the inside on its left, first place and last the same. */
export type Ring = Position[]

/** Rings as polygons, each with the outer ring first. */
export function nest(rings: Ring[]): Ring[][] {
  const starts = new Uint32Array(rings.length + 1)
  rings.forEach((ring, r) => (starts[r + 1] = starts[r] + ring.length))
  const coords = new Float64Array(2 * starts[rings.length])
  let at = 0
  for (const ring of rings)
    for (const place of ring) {
      coords[at++] = place[0]
      coords[at++] = place[1]
    }
  const nested = nestRings(
    { coords, starts },
    rings.map((_, r) => [r]),
  )
  return nested.map((polygon) => polygon.map(([r]) => rings[r]))
}

/**
 * Rings, given by the arcs that they run along, as polygons: one that runs anticlockwise around its inside makes a
 * polygon; of those round the globe each cap makes one and each band between two; holes go to the smallest ring
 * around them.
 */
export function nestRings(arcs: Arcs, rings: number[][]): number[][][] {
  if (rings.length < 2) return rings.map((ring) => [ring])
  const ringStarts = new Uint32Array(rings.length + 1)
  rings.forEach((ring, r) => (ringStarts[r + 1] = ringStarts[r] + ring.length))
  const loose: Areas = {
    kind: 'areas',
    arcs,
    refs: Int32Array.from(rings.flat()),
    ringStarts,
    polygonStarts: Uint32Array.of(0, rings.length),
    featureStarts: Uint32Array.of(0, 1),
  }
  const shapes = rings.map((_, r) => ringShape(loose, r))
  const round: { ring: number; lat: number }[] = []
  const outer: number[] = []
  const holes: number[] = []
  let globe: number[] | null = null
  shapes.forEach(({ turns, area }, r) => {
    if (isWholeGlobe(loose, r)) globe = [r]
    else if (turns) round.push({ ring: r, lat: latitudeOf(loose, r) })
    else if (area > 0) outer.push(r)
    else holes.push(r)
  })
  outer.sort((a, b) => shapes[a].area - shapes[b].area)
  const members = new Map(outer.map((r) => [r, [r]]))
  const bands = bandsOf(round, (r) => shapes[r].turns)
  for (const hole of holes) {
    const [lon, lat] = placeOn(loose, hole)
    const home = outer.find((r) => {
      const { south, north } = shapes[r]
      return lat >= south && lat <= north && crossingsNorth(loose, [r, r + 1], lon, lat) % 2 === 1
    })
    // How many of the rings round the globe lie to the south says in which band a hole lies.
    const below = round.filter(
      ({ ring }) => crossingsNorth(loose, [ring, ring + 1], lon, lat) % 2 === 0,
    ).length
    const list: number[] | undefined =
      (home !== undefined && members.get(home)) || globe || bands.find((one) => one.below === below)?.rings
    if (list) list.push(hole)
    else members.set(hole, [hole])
  }
  const polygons = [...(globe ? [globe] : []), ...bands.map((band) => band.rings), ...members.values()]
  return polygons.map((polygon) => polygon.map((r) => rings[r]))
}

/**
 * Rings round the globe, which are sorted from south to north, as caps and bands, with the number of rings to the
 * south of a place inside each.
 */
function bandsOf(
  round: { ring: number; lat: number }[],
  turnsOf: (ring: number) => number,
): { rings: number[]; below: number }[] {
  round.sort((a, b) => a.lat - b.lat)
  const bands: { rings: number[]; below: number }[] = []
  for (let i = 0; i < round.length; i++) {
    const { ring } = round[i]
    // Westward, the inside lies to the south; eastward to the north, up to the next ring or the pole.
    if (turnsOf(ring) < 0) bands.push({ rings: [ring], below: i })
    else if (i + 1 < round.length && turnsOf(round[i + 1].ring) < 0)
      bands.push({ rings: [ring, round[i + 1].ring], below: ++i })
    else bands.push({ rings: [ring], below: i + 1 })
  }
  return bands
}

/** The middle of a ring's first edge: rings touch at their vertices at most. */
function placeOn(areas: Areas, ring: number): [number, number] {
  const { coords } = areas.arcs
  const first: number[] = []
  eachVertex(areas, ring, (v) => {
    if (first.length < 2) first.push(v)
  })
  const [a, b] = first
  const lon = coords[2 * a]
  return [lon + eastward(lon, coords[2 * b]) / 2, (coords[2 * a + 1] + coords[2 * b + 1]) / 2]
}
