import type { Geometry as Shape, Position } from 'geojson'
import { planarArea } from '../planar-area'
import type { Areas } from '../geometry'
import { eastward, wrapped } from './longitudes'
import { nest, type Ring } from './nest'
import { turnRings } from './rings'
import { SineIntegral } from './sine-integral'
import { isWholeGlobeRing, runsAlong, stitch } from './stitch'
import { isWholeTurn, stepOf, unwrap, type Unwrapped } from './unwrap'

/**
 * A shape on the globe; `sewn` where its rings run with the inside on their left for certain, `refused` where pieces
 * were left as the file cuts them, since put together they would not be as large as in the file.
 */
export type OnSphere = { shape: Shape; sewn: boolean; refused?: true }

/**
 * A shape as the store holds it: longitudes over −180 up to 180, every edge the shorter way round, and areas in
 * one piece where a file cuts them at the date line (RFC 7946, section 3.1.9), or at another meridian where
 * longitudes run on, or closes them along a pole. What comes out is as large on the ellipsoid as what the file draws.
 * The shape itself where nothing is to be done.
 */
export function onSphere(given: Shape): OnSphere {
  if (given.type === 'GeometryCollection' || isPlain(given.coordinates)) return { shape: given, sewn: false }
  const plain = (shape: Shape): OnSphere => ({ shape, sewn: false })
  switch (given.type) {
    case 'Point':
      return plain({ ...given, coordinates: inRange(given.coordinates) })
    case 'MultiPoint':
      return plain({ ...given, coordinates: given.coordinates.map(inRange) })
    case 'LineString':
      return plain({ ...given, coordinates: onGlobe(given.coordinates) })
    case 'MultiLineString':
      return plain({ ...given, coordinates: given.coordinates.map((path) => onGlobe(path)) })
    case 'Polygon':
      return sewn([given.coordinates], given)
    default:
      return sewn(given.coordinates, given)
  }
}

/** Degrees within which a coordinate lies on the line that a file is cut at, or on a pole; files are rounded. */
const snap = 1e-7

/** Whether all longitudes lie inside −180 to 180, all latitudes off the poles, and no edge is long. */
function isPlain(coordinates: unknown): boolean {
  const list = coordinates as unknown[]
  if (typeof list[0] === 'number') return list[0] > -180 && list[0] <= 180
  if (!Array.isArray(list[0])) return true
  if (typeof list[0][0] !== 'number') return list.every(isPlain)
  const places = list as Position[]
  let before = NaN
  for (let i = 0; i < places.length; i++) {
    const lon = places[i][0]
    if (!(Math.abs(lon) < 180 - snap && Math.abs(places[i][1]) < 90 - snap) || Math.abs(lon - before) >= 180)
      return false
    before = lon
  }
  return true
}

const inRange = (place: Position): Position =>
  place[0] > -180 && place[0] <= 180 ? place : [wrapped(place[0]), place[1]]
const atPole = (lat: number): boolean => Math.abs(lat) >= 90

/** A place exactly on one of some meridians, or at a pole, where it lies beside it. */
function snapped(place: Position, lines: number[]): Position {
  const [lon, lat] = [place[0], place[1]]
  const at = lines.find((line) => Math.abs(lon - line) < snap)
  const pole = Math.abs(lat) > 90 - snap
  if (at === undefined && !pole) return place
  return [at ?? lon, pole ? 90 * Math.sign(lat) : lat]
}

/** Edges of half a turn and more that go along the map are cut into pieces that are shorter. */
function shortEdges(places: Position[]): Position[] {
  if (!places.some(([lon], i) => i > 0 && Math.abs(lon - places[i - 1][0]) >= 180)) return places
  return places.flatMap(([lon, lat], i): Position[] => {
    const [lon0, lat0] = places[Math.max(0, i - 1)]
    const span = Math.abs(lon - lon0)
    const pieces = span >= 180 && !(atPole(lat) && lat === lat0) ? Math.ceil(span / 90) : 1
    return Array.from({ length: pieces }, (_, k): Position =>
      k + 1 === pieces
        ? [lon, lat]
        : [lon0 + ((lon - lon0) * (k + 1)) / pieces, lat0 + ((lat - lat0) * (k + 1)) / pieces],
    )
  })
}

/** A path of a file, or a ring that was unwrapped, as the store has it: no place stands twice behind itself. */
function onGlobe(path: Position[], raw = true): Position[] {
  const places = shortEdges(raw ? unwrap(path).places : path).map(inRange)
  const out = places.filter(
    ([lon, lat], i) => i === 0 || lon !== places[i - 1][0] || lat !== places[i - 1][1],
  )
  return out.length < 2 ? places : out
}

/**
 * Whether an edge of a ring belongs to a topology in which shapes are cut: along the date line or half round a
 * pole, or the long way through the map; or to one that has two names for a meridian.
 */
export function isCutEdge(from: Position, to: Position): boolean {
  const [a, b] = [snapped(from, [-180, 180, 360]), snapped(to, [-180, 180, 360])]
  if (a[0] === b[0] && (Math.abs(a[0]) === 180 || a[0] === 360)) return true
  if (Math.abs(b[0]) > 180 || isWholeTurn(a[0], b[0])) return true
  const span = Math.abs(b[0] - a[0])
  return span >= 180 && (stepOf(a, b) === b[0] - a[0] || (atPole(a[1]) && atPole(b[1])))
}

/** The meridians that a file may be cut at, by all names that they have in it. */
function linesOf(rings: Position[][]): number[] {
  let [west, east, turn] = [Infinity, -Infinity, NaN]
  for (const ring of rings)
    for (let i = 0; i < ring.length; i++) {
      const lon = ring[i][0]
      if (lon < west) west = lon
      if (lon > east) east = lon
      if (i > 0 && isWholeTurn(lon, ring[i - 1][0])) turn = lon
    }
  if (!Number.isNaN(turn)) return namesOf(turn)
  if (Math.abs(east - west - 360) < snap) return namesOf(east)
  return Math.abs(east - 360) < snap ? namesOf(360) : namesOf(180)
}

const namesOf = (lon: number): number[] => {
  const line = Math.round(wrapped(lon) * 1e7) / 1e7
  const near = Math.abs(Math.abs(line) - 180) < snap ? 180 : line
  return [near - 360, near, near + 360]
}

/**
 * A ring of a file, unwrapped and with the inside on its left, the first of a polygon anticlockwise. `sure` is false
 * where it goes round the axis and nothing in the file says which side is inside.
 */
type RingOfFile = { places: Position[]; turns: number; sure: boolean }

function ringOfFile(ring: Position[], outer: boolean): RingOfFile {
  let read: Unwrapped = unwrap(ring)
  // A ring without area, its steps of a whole turn along parallels, is the frame of a whole map.
  if (read.turns === 0 && read.jumps.length && planarArea(read.places) === 0 && isFrame(ring, read.jumps))
    read = unwrap(ring, true)
  const sided = read.turns === 0 ? read.places : closedAlongPole(ring, read.jumps)
  const turned = sided !== null && planarArea(sided) < 0 === outer
  return {
    places: turned ? [...read.places].reverse() : read.places,
    turns: turned ? -read.turns : read.turns,
    sure: sided !== null,
  }
}

const isFrame = (ring: Position[], jumps: number[]): boolean =>
  jumps.every((i) => ring[i][1] === ring[i - 1][1])

/**
 * A ring round the axis as a file draws it in the plane, where it goes away from its course along a meridian, jumps to
 * the other side of the map and comes back: towards the pole that it holds. Null where it does not.
 */
function closedAlongPole(ring: Position[], jumps: number[]): Position[] | null {
  const along = (i: number): boolean => i > 0 && i < ring.length && ring[i][0] === ring[i - 1][0]
  if (!jumps.some((i) => along(i - 1) || along(i + 1))) return null
  const drawn = unwrap(ring, true)
  return drawn.turns === 0 ? drawn.places : null
}

function sewn(polygons: Position[][][], whole: Shape): OnSphere {
  const lines = linesOf(polygons.flat())
  const line = lines.find((name) => name > -180 && name <= 180) as number
  const read = polygons.map((polygon) =>
    polygon.map((ring, r) =>
      ringOfFile(
        ring.map((place) => snapped(place, lines)),
        r === 0,
      ),
    ),
  )
  const each = read.map((rings) => storedRings(rings, lines))
  const stored = each.filter((rings) => rings.length > 0)
  const isCut = (rings: Ring[]): boolean =>
    rings.some((ring) => ring.some((_, i) => runsAlong(ring, i, line)))
  const cut = stored.filter(isCut)
  const uncut = stored.filter((rings) => !isCut(rings))
  const out = cut.length ? [...uncut, ...nest(stitch(cut.flat(), line))] : uncut
  const given = polygons.map((rings, p) => ({ rings, read: read[p], stored: each[p] }))
  if (!isAsLarge(given, out)) {
    const left = polygons.map((rings) => rings.map((ring) => onGlobe(ring)))
    return { shape: shapeOf(left, whole), sewn: false, refused: true }
  }
  return { shape: shapeOf(out, whole), sewn: true }
}

const shapeOf = (polygons: Position[][][], { type }: Shape): Shape =>
  polygons.length === 1 && type === 'Polygon'
    ? { type: 'Polygon', coordinates: polygons[0] }
    : { type: 'MultiPolygon', coordinates: polygons }

/**
 * The rings of a polygon as the store has them; what has become a line is left out, and holes without a ring
 * around.
 */
function storedRings(rings: RingOfFile[], lines: number[]): Ring[] {
  const placed = rings.map(({ places }) => onGlobe(withoutPole(places, lines), false))
  const kept = placed.filter((ring) => ring.length > 3 || isWholeGlobeRing(ring))
  if (kept[0] !== placed[0]) return []
  return rings.every(({ sure }) => sure) ? kept : turned(kept)
}

/** Rings of a polygon with the inside on their left, where that follows from how they lie to each other alone. */
function turned(rings: Ring[]): Ring[] {
  const starts = new Uint32Array(rings.length + 1)
  rings.forEach((ring, r) => (starts[r + 1] = starts[r] + ring.length))
  const areas: Areas = {
    kind: 'areas',
    arcs: { coords: Float64Array.from(rings.flat(2)), starts },
    refs: Int32Array.from(rings, (_, r) => r),
    ringStarts: Uint32Array.from({ length: rings.length + 1 }, (_, r) => r),
    polygonStarts: Uint32Array.of(0, rings.length),
    featureStarts: Uint32Array.of(0, 1),
  }
  turnRings(areas)
  return rings.map((ring, r) => (areas.refs[r] < 0 ? [...ring].reverse() : ring))
}

/** Of a run along a pole that closes the map from side to side, its two ends alone. */
function withoutPole(ring: Position[], lines: number[]): Position[] {
  const isOnLine = (lon: number): boolean => lines.includes(lon)
  const inside = new Set<number>()
  for (let i = 0; i < ring.length; i++) {
    if (!atPole(ring[i][1]) || !isOnLine(ring[i][0])) continue
    let end = i + 1
    while (end < ring.length && ring[end][1] === ring[i][1] && !isOnLine(ring[end][0])) end++
    if (end < ring.length && ring[end][1] === ring[i][1]) for (let k = i + 1; k < end; k++) inside.add(k)
  }
  return inside.size ? ring.filter((_, i) => !inside.has(i)) : ring
}

/** What may be lost of an area by rounding: one part in a million. */
const leastChange = 1e-6

/**
 * Whether areas as they are stored are as large on the ellipsoid as the file draws them. Those that go round a pole
 * are measured as they were read, the others by the very figures of the file.
 */
function isAsLarge(
  given: { rings: Position[][]; read: RingOfFile[]; stored: Ring[] }[],
  made: Ring[][],
): boolean {
  let [before, after] = [0, 0]
  for (const { rings, read, stored } of given) {
    // Which side of such a ring is inside the file does not say.
    if (read.some(({ sure }) => !sure)) before += surfaceOf(stored, eastward)
    else
      before += surfaceOf(
        read.map((ring, r) => asWritten(rings[r], ring, r === 0)),
        (from, to) => to - from,
      )
  }
  for (const rings of made) after += surfaceOf(rings, eastward)
  return Math.abs(after - before) <= leastChange * Math.abs(before)
}

/** A ring by the figures of the file, turned as it was read; one that goes round a pole as it was read. */
function asWritten(ring: Position[], { places, turns }: RingOfFile, outer: boolean): Position[] {
  if (turns !== 0) return places
  const exact = unwrap(ring).places
  const area = planarArea(exact)
  if (area === 0) return places
  return area < 0 === outer ? exact.reverse() : exact
}

/** The surface that rings of a polygon enclose on the ellipsoid, in squares of the authalic radius. */
function surfaceOf(rings: Position[][], stepBetween: (from: number, to: number) => number): number {
  let [sum, turns] = [0, 0]
  for (const ring of rings) {
    const integral = new SineIntegral()
    ring.forEach(([lon, lat], i) => integral.add(i ? stepBetween(ring[i - 1][0], lon) : 0, lat))
    sum -= integral.value
    turns += integral.turns
    if (isWholeGlobeRing(ring) && stepBetween === eastward) sum += 4 * Math.PI
  }
  return sum + 2 * Math.PI * Math.abs(turns)
}
