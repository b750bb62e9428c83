import geographiclib from 'geographiclib-geodesic'
import { eachVertex, ringRange, type Geometry } from './geometry'
import { eastward, wrapped } from './sphere/longitudes'

const { WGS84 } = geographiclib.Geodesic

/** What is nearest to a place: its feature, and how many metres along the ground. */
export type Found = { feature: number; metres: number }

/**
 * Edges of features, to find the nearest one along the ground. A point is an edge whose ends are the same.
 * `ends` are longitude and latitude of both ends of each, `features` whose it is.
 */
export type EdgeIndex = {
  ends: Float64Array
  features: Int32Array
  /** Calls `visit` with the numbers of all edges that lie within so many metres of a place, and of few more. */
  within(lon: number, lat: number, metres: number, visit: (edge: number) => void): void
  /** The nearest edge that is less than `bound` metres away; null where none is. */
  nearest(lon: number, lat: number, bound?: number): Found | null
}

/** Longer edges are cut for the search, so that a chord lies close to them; degrees. */
const longest = 0.1
/** What a chord may lie off an edge of that length, and off a geodesic by its direction: metres, share. */
const slack = { metres: 5, share: 3e-4 }
/** The edges of some features of a geometry, of all of them by default. */
export function edgeIndex(geometry: Geometry, only?: number): EdgeIndex {
  const ends: number[] = []
  const features: number[] = []
  const add = (feature: number, a: readonly [number, number], b: readonly [number, number]) => {
    ends.push(...a, ...b)
    features.push(feature)
  }
  const [first, last] = only === undefined ? [0, count(geometry)] : [only, only + 1]
  for (let f = first; f < last; f++) eachEdge(geometry, f, (a, b) => add(f, a, b))
  return indexed(Float64Array.from(ends), Int32Array.from(features))
}

const count = (geometry: Geometry): number =>
  geometry.kind === 'none' ? 0 : geometry.featureStarts.length - 1

/** Calls `visit` with the ends of every edge of a feature, long ones cut; a single place is an edge of its own. */
export function eachEdge(
  geometry: Geometry,
  f: number,
  visit: (a: [number, number], b: [number, number]) => void,
): void {
  if (geometry.kind === 'none') return
  if (geometry.kind === 'points') {
    for (let p = geometry.featureStarts[f]; p < geometry.featureStarts[f + 1]; p++) {
      const place: [number, number] = [geometry.coords[2 * p], geometry.coords[2 * p + 1]]
      visit(place, place)
    }
    return
  }
  const { coords } = geometry.arcs
  const [from, to] = ringRange(geometry, f)
  for (let r = from; r < to; r++) {
    let before: [number, number] | null = null
    eachVertex(geometry, r, (v) => {
      const [lon, lat] = [coords[2 * v], coords[2 * v + 1]]
      if (before) {
        const [lon0, lat0]: [number, number] = before
        const [span, rise] = [eastward(lon0, lon), lat - lat0]
        const pieces = Math.max(1, Math.ceil(Math.max(Math.abs(span), Math.abs(rise)) / longest))
        let a = before
        for (let k = 1; k <= pieces; k++) {
          const b: [number, number] =
            k === pieces ? [lon, lat] : [wrapped(lon0 + (span * k) / pieces), lat0 + (rise * k) / pieces]
          visit(a, b)
          a = b
        }
      }
      before = [lon, lat]
    })
  }
}

/** A ball in space around edges `from` up to `to` of `order`, or around two smaller ones. */
type Ball = {
  x: number
  y: number
  z: number
  radius: number
  edges: Int32Array
  parts: [Ball, Ball] | null
}

/** How many edges a ball holds that has no smaller ones inside. */
const leafSize = 12

/** Balls within balls (Omohundro 1989), halved along their longest side. */
function ballOf(edges: Int32Array, places: Float64Array): Ball {
  const low = [Infinity, Infinity, Infinity]
  const high = [-Infinity, -Infinity, -Infinity]
  const middle = (e: number, axis: number) => (places[6 * e + axis] + places[6 * e + axis + 3]) / 2
  for (const e of edges)
    for (let k = 0; k < 6; k++) {
      const at = places[6 * e + k]
      if (at < low[k % 3]) low[k % 3] = at
      if (at > high[k % 3]) high[k % 3] = at
    }
  const [x, y, z] = low.map((at, axis) => (at + high[axis]) / 2)
  let radius = 0
  for (const e of edges)
    for (const k of [0, 3])
      radius = Math.max(
        radius,
        Math.hypot(places[6 * e + k] - x, places[6 * e + k + 1] - y, places[6 * e + k + 2] - z),
      )
  if (edges.length <= leafSize || radius === 0) return { x, y, z, radius, edges, parts: null }
  const sides = high.map((at, axis) => at - low[axis])
  const axis = sides.indexOf(Math.max(...sides))
  const sorted = edges.slice().sort((a, b) => middle(a, axis) - middle(b, axis))
  const half = sorted.length >> 1
  return {
    x,
    y,
    z,
    radius,
    edges,
    parts: [ballOf(sorted.subarray(0, half), places), ballOf(sorted.subarray(half), places)],
  }
}

function indexed(ends: Float64Array, features: Int32Array): EdgeIndex {
  const size = features.length
  const places = new Float64Array(6 * size)
  for (let e = 0; e < size; e++) {
    places.set(geocentric(ends[4 * e], ends[4 * e + 1]), 6 * e)
    places.set(geocentric(ends[4 * e + 2], ends[4 * e + 3]), 6 * e + 3)
  }
  const all = size ? ballOf(Int32Array.from(features.keys()), places) : null

  /** Visits edges by what their chords are away, nearer balls first, as long as the limit allows. */
  const search = (
    place: readonly number[],
    limit: () => number,
    visit: (e: number, chord: number) => void,
  ) => {
    const look = (ball: Ball, away: number) => {
      if (away > limit()) return
      if (!ball.parts) {
        for (const e of ball.edges) visit(e, chordTo(places, 6 * e, place))
        return
      }
      const [a, b] = ball.parts
      const [toA, toB] = [awayFrom(a, place), awayFrom(b, place)]
      if (toA <= toB) {
        look(a, toA)
        look(b, toB)
      } else {
        look(b, toB)
        look(a, toA)
      }
    }
    if (all) look(all, awayFrom(all, place))
  }

  const nearest: EdgeIndex['nearest'] = (lon, lat, bound = Infinity) => {
    const place = geocentric(lon, lat)
    // No chord is longer than its geodesic.
    let least = bound
    let near: [edge: number, chord: number][] = []
    search(
      place,
      () => withSlack(least),
      (e, chord) => {
        if (chord > withSlack(least)) return
        least = Math.min(least, chord)
        near.push([e, chord])
      },
    )
    near = near.filter(([, chord]) => chord <= withSlack(least))
    const found = exactly(
      near.map(([e]) => e),
      { ends, features },
      [lon, lat],
    )
    return found.metres < bound ? found : null
  }
  return {
    ends,
    features,
    within: (lon, lat, metres, visit) =>
      search(
        geocentric(lon, lat),
        () => withSlack(metres),
        (e, chord) => chord <= withSlack(metres) && visit(e),
      ),
    nearest,
  }
}

const withSlack = (chord: number): number => chord * (1 + slack.share) + slack.metres

const awayFrom = ({ x, y, z, radius }: Ball, place: readonly number[]): number =>
  Math.hypot(x - place[0], y - place[1], z - place[2]) - radius

/** Metres through space from a place to the straight edge whose ends stand in `places` from `at`. */
function chordTo(places: Float64Array, at: number, [x, y, z]: readonly number[]): number {
  const [ax, ay, az] = [places[at] - x, places[at + 1] - y, places[at + 2] - z]
  const dx = places[at + 3] - places[at]
  const dy = places[at + 4] - places[at + 1]
  const dz = places[at + 5] - places[at + 2]
  const length = dx * dx + dy * dy + dz * dz
  const along = length ? -(ax * dx + ay * dy + az * dz) / length : 0
  const t = Math.max(0, Math.min(1, along))
  return Math.hypot(ax + t * dx, ay + t * dy, az + t * dz)
}

/** Of some edges the one that is nearest along the ground; edges are straight in longitude and latitude. */
function exactly(
  edges: number[],
  { ends, features }: Pick<EdgeIndex, 'ends' | 'features'>,
  [lon, lat]: [number, number],
): Found {
  const place = geocentric(lon, lat)
  let best: Found = { feature: -1, metres: Infinity }
  for (const e of edges) {
    const [lonA, latA, lonB, latB] = ends.subarray(4 * e, 4 * e + 4)
    const [span, rise] = [eastward(lonA, lonB), latB - latA]
    const at = (t: number): [number, number] => [lonA + span * t, latA + rise * t]
    const t = span === 0 && rise === 0 ? 0 : lowest((s) => distance(geocentric(...at(s)), place))
    const [lonT, latT] = at(t)
    const metres = WGS84.Inverse(lat, lon, latT, lonT).s12 ?? Infinity
    if (metres < best.metres || (metres === best.metres && features[e] < best.feature))
      best = { feature: features[e], metres }
  }
  return best
}

const golden = (Math.sqrt(5) - 1) / 2

/** Where from 0 to 1 a function with one dip is lowest (golden section search, Kiefer 1953). */
function lowest(value: (t: number) => number): number {
  let [low, high] = [0, 1]
  let [a, b] = [1 - golden, golden]
  let [atA, atB] = [value(a), value(b)]
  while (high - low > 1e-7) {
    if (atA <= atB) {
      ;[high, b, atB] = [b, a, atA]
      a = high - golden * (high - low)
      atA = value(a)
    } else {
      ;[low, a, atA] = [a, b, atB]
      b = low + golden * (high - low)
      atB = value(b)
    }
  }
  const middle = (low + high) / 2
  return [0, 1].reduce((best, end) => (value(end) <= value(best) ? end : best), middle)
}

const distance = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])

const radians = Math.PI / 180

/** Metres from the middle of the WGS 84 ellipsoid. */
function geocentric(lon: number, lat: number): [number, number, number] {
  const [sin, cos] = [Math.sin(lat * radians), Math.cos(lat * radians)]
  const eccentricity = WGS84.f * (2 - WGS84.f)
  const normal = WGS84.a / Math.sqrt(1 - eccentricity * sin * sin)
  return [
    normal * cos * Math.cos(lon * radians),
    normal * cos * Math.sin(lon * radians),
    normal * (1 - eccentricity) * sin,
  ]
}
