import type { Geometry as Shape, Position } from 'geojson'
import { planarArea } from '../planar-area'
import { eastward, wrapped } from './longitudes'
import { nest, type Ring } from './nest'

/** A shape on the globe; `sewn` where its rings run with the inside on their left for certain. */
export type OnSphere = { shape: Shape; sewn: boolean }

/**
 * A shape as the store holds it: longitudes over −180 up to 180, every edge the shorter way round, and areas in
 * one piece where a file cuts them at the date line (RFC 7946, section 3.1.9), or at Greenwich where longitudes
 * run up to 360, or closes them along a pole. The shape itself where nothing is to be done.
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
      return plain({ ...given, coordinates: shortEdges(given.coordinates).map(inRange) })
    case 'MultiLineString':
      return plain({ ...given, coordinates: given.coordinates.map((path) => shortEdges(path).map(inRange)) })
    case 'Polygon':
      return sewn([given.coordinates], given)
    default:
      return sewn(given.coordinates, given)
  }
}

/** Degrees within which a coordinate lies on the date line or a pole; files are rounded. */
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

/** A place exactly on the date line, at a pole, or on the last meridian of 360, where it lies beside them. */
function snapped(place: Position): Position {
  const [lon, lat] = [place[0], place[1]]
  if (Math.abs(lon) < 180 - snap && Math.abs(lat) <= 90 - snap) return place
  return [
    [-180, 180, 360].find((line) => Math.abs(lon - line) < snap) ?? lon,
    Math.abs(lat) > 90 - snap ? 90 * Math.sign(lat) : lat,
  ]
}

/** An edge over more degrees than this goes across the date line, not the long way through the map. */
const surelyAcross = 300

/**
 * Edges of half a turn and more, cut into pieces that are not: along the map, which is what a file means that
 * draws a frame; those that are nearly a whole turn, and those near a pole, are steps across the date line.
 */
function shortEdges(path: Position[]): Position[] {
  if (!path.some(([lon], i) => i > 0 && Math.abs(lon - path[i - 1][0]) >= 180)) return path
  const out: Position[] = []
  path.forEach(([lon, lat], i) => {
    const [lon0, lat0] = path[Math.max(0, i - 1)]
    const span = Math.abs(lon - lon0)
    const turn = Math.abs(span - 360) < 1e-9 && !(atPole(lat) && atPole(lat0))
    const across = span >= surelyAcross || Math.max(Math.abs(lat), Math.abs(lat0)) > 80
    if (span >= 180 && (turn || !across)) {
      const pieces = Math.ceil(span / 90)
      for (let k = 1; k < pieces; k++)
        out.push([lon0 + ((lon - lon0) * k) / pieces, lat0 + ((lat - lat0) * k) / pieces])
    }
    out.push([lon, lat])
  })
  return out
}

/**
 * Whether an edge of a ring belongs to a topology in which shapes are cut: along the date line or half round a
 * pole, or the long way through the map.
 */
export function isCutEdge([lon0, lat0]: Position, [lon, lat]: Position): boolean {
  const [a, b] = [snapped([lon0, lat0]), snapped([lon, lat])]
  if (a[0] === b[0] && (Math.abs(a[0]) === 180 || a[0] === 360)) return true
  const span = Math.abs(b[0] - a[0])
  if (span < 180) return false
  // Near a pole, edges go round it by large steps.
  const nearPole = Math.max(Math.abs(a[1]), Math.abs(b[1])) > 80
  return (span < surelyAcross && !nearPole) || Math.abs(span - 360) < 1e-9 || (atPole(a[1]) && atPole(b[1]))
}

function sewn(polygons: Position[][][], given: Shape): OnSphere {
  const raw = polygons.map((polygon) => polygon.map((ring) => shortEdges(ring.map(snapped))))
  const flat = raw.flat()
  // Where longitudes run up to 360, the cut is at Greenwich.
  const line = flat.some((ring) => ring.some(([lon]) => lon === 360)) ? 0 : 180
  const isOnLine = (lon: number): boolean => (line ? Math.abs(lon) === 180 : lon === 0 || lon === 360)
  // A ring without a step across the date line lies in the plane as it was drawn.
  const planar = flat.every((ring) =>
    ring.every(([lon], i) => i === 0 || Math.abs(lon - ring[i - 1][0]) < 180 || alongPole(ring, i)),
  )
  const cut = flat.some((ring) =>
    ring.some(([lon], i) => i > 0 && ((isOnLine(lon) && isOnLine(ring[i - 1][0])) || alongPole(ring, i))),
  )
  const rings = raw.map((polygon) =>
    polygon.map((ring, r): Ring => {
      const places = withoutPole(ring, isOnLine).map(inRange)
      return planar && planarArea(ring) < 0 === (r === 0) ? places.reverse() : places
    }),
  )
  if (planar && cut) return { shape: shapeOf(nest(stitch(rings.flat(), line)), given), sewn: true }
  // Nothing to sew; which side is inside is found out from the rings.
  return { shape: shapeOf(rings, given), sewn: false }
}

const shapeOf = (polygons: Position[][][], { type }: Shape): Shape =>
  polygons.length === 1 && type === 'Polygon'
    ? { type: 'Polygon', coordinates: polygons[0] }
    : { type: 'MultiPolygon', coordinates: polygons }

/** Half the globe and more along a pole: no line at all, but how a map in the plane is closed. */
const alongPole = (ring: Position[], i: number): boolean =>
  atPole(ring[i][1]) && ring[i][1] === ring[i - 1][1] && Math.abs(ring[i][0] - ring[i - 1][0]) >= 180

/** Of a run along a pole that closes the map from side to side, its two ends alone. */
function withoutPole(ring: Position[], isOnLine: (lon: number) => boolean): Position[] {
  const inside = new Set<number>()
  for (let i = 0; i < ring.length; i++) {
    if (!atPole(ring[i][1]) || !isOnLine(ring[i][0])) continue
    let end = i + 1
    while (end < ring.length && ring[end][1] === ring[i][1] && !isOnLine(ring[end][0])) end++
    if (end < ring.length && ring[end][1] === ring[i][1]) for (let k = i + 1; k < end; k++) inside.add(k)
  }
  return inside.size ? ring.filter((_, i) => !inside.has(i)) : ring
}

type Strand = { places: Position[]; from: number; to: number }

/**
 * Rings with the parts along the date line taken out that run there both ways, and what is left joined end to
 * end. A ring that vanishes in doing so was the frame of the whole map.
 */
function stitch(rings: Ring[], line: number): Ring[] {
  const whole: Ring[] = []
  const strands: Strand[] = []
  const north: [number, number][] = []
  const south: [number, number][] = []
  const onLine = (ring: Ring, i: number): boolean => ring[i][0] === line && ring[i - 1][0] === line
  const onTheLine = (lat: number): Position => [line, lat]
  let frames = 0
  for (const ring of rings) {
    const cuts: number[] = []
    for (let i = 1; i < ring.length; i++) if (onLine(ring, i)) cuts.push(i)
    if (!cuts.length) {
      whole.push(ring)
      continue
    }
    if (cuts.length === ring.length - 1) frames++
    for (const i of cuts) {
      const [a, b] = [ring[i - 1][1], ring[i][1]]
      if (b > a) north.push([a, b])
      else if (b < a) south.push([b, a])
    }
    cuts.forEach((start, k) => {
      const end = cuts[(k + 1) % cuts.length]
      // From the end of one part along the line to the beginning of the next, round the closing vertex.
      const places: Position[] = []
      const count = (end - 1 - start + ring.length - 1) % (ring.length - 1)
      for (let j = 0; j <= count; j++) places.push(ring[((start + j - 1) % (ring.length - 1)) + 1])
      if (count > 0) strands.push({ places, from: places[0][1], to: places[count][1] })
    })
  }
  const [up, down] = leftOver(north, south, strands)
  for (const [a, b] of up) strands.push({ places: [onTheLine(a), onTheLine(b)], from: a, to: b })
  for (const [a, b] of down) strands.push({ places: [onTheLine(b), onTheLine(a)], from: b, to: a })
  const joined = join(strands)
  if (frames && !joined.some((ring) => turnsOf(ring) !== 0))
    joined.unshift([
      [180, -90],
      [180, 90],
      [180, -90],
    ])
  return [...joined, ...whole]
}

const turnsOf = (ring: Ring): number =>
  Math.round(ring.reduce((sum, [lon], i) => (i ? sum + eastward(ring[i - 1][0], lon) : sum), 0) / 360)

/** The stretches of latitude that are run along one way only, cut at every end of a strand. */
function leftOver(
  north: [number, number][],
  south: [number, number][],
  strands: Strand[],
): [[number, number][], [number, number][]] {
  const ends = [
    ...new Set([...north, ...south].flat().concat(strands.flatMap(({ from, to }) => [from, to]))),
  ].sort((a, b) => a - b)
  const up: [number, number][] = []
  const down: [number, number][] = []
  const times = (list: [number, number][], a: number, b: number) =>
    list.filter(([from, to]) => from <= a && to >= b).length
  for (let i = 1; i < ends.length; i++) {
    const [a, b] = [ends[i - 1], ends[i]]
    const rest = times(north, a, b) - times(south, a, b)
    for (let k = 0; k < Math.abs(rest); k++) (rest > 0 ? up : down).push([a, b])
  }
  return [up, down]
}

/** Strands joined end to end into closed rings. */
function join(strands: Strand[]): Ring[] {
  const open = new Map<number, Strand[]>()
  for (const strand of strands) open.set(strand.from, [...(open.get(strand.from) ?? []), strand])
  const rings: Ring[] = []
  const used = new Set<Strand>()
  for (const first of strands) {
    if (used.has(first)) continue
    const ring: Position[] = [...first.places]
    used.add(first)
    let at = first.to
    while (at !== first.from) {
      const next = open.get(at)?.find((strand) => !used.has(strand))
      if (!next) break
      used.add(next)
      ring.push(...next.places.slice(1))
      at = next.to
    }
    // Ends that fit nothing are closed straight, along the line that they lie on.
    if (ring[0][0] !== ring[ring.length - 1][0] || ring[0][1] !== ring[ring.length - 1][1]) ring.push(ring[0])
    if (ring.length >= 4) rings.push(ring)
  }
  return rings
}
