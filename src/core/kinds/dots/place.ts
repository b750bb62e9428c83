import type { Position } from 'geojson'
import { authalicLatitude, authalicRadius, geodeticLatitude } from '@/core/projection/authalic'
import type { Random } from '@/core/grid/random'

const degrees = 180 / Math.PI

/** The closest that dots lie is at first so much of the distance of as many dots in an even net of triangles. */
const firstShare = 0.75
/** After so many places without room the distance shrinks. */
const misses = 40
const shrinks = 0.93
/** So many places are tried before ground is given up that a mask leaves no room in. */
const mostTries = 400
/** Ground that is there but small takes many tries. */
const mostSearched = 40_000
/** So often a place is thrown into the box around a piece before it is looked for along a parallel. */
const mostThrows = 100

type Keep = (lon: number, lat: number) => boolean

/** Where dots were put: longitude and latitude by turns, and how many had to leave the ground that is kept. */
export type Placed = { lonLat: Float64Array; strayed: number }

/**
 * Puts `count` dots into an area (polygons in the plane of longitude and latitude, holes after the outer ring), at
 * random by ground area but evenly: none comes closer to another than a distance that shrinks only where there is no
 * more room (dart throwing with a relaxed radius, McCool and Fiume 1992). With `keep` dots lie only where it is true,
 * as far as the area has such ground.
 */
export function placeDots(
  polygons: readonly Position[][][],
  count: number,
  { random, keep }: { random: Random; keep?: Keep },
): Placed {
  const lonLat = new Float64Array(2 * count)
  let strayed = 0
  const pieces = polygons.map(pieceOf).filter(({ area }) => area > 0)
  if (!count || !pieces.length) return { lonLat: lonLat.fill(NaN), strayed: 0 }
  const draw = drawer(pieces, random)
  const share = keep ? shareKept(draw, keep) : 1
  const most = share > 0 ? mostSearched : 0
  const total = pieces.reduce((sum, { area }) => sum + area, 0) * (share || 1)
  const net = createNet(firstShare * Math.sqrt((2 * total) / (Math.sqrt(3) * count)), count)
  for (let n = 0; n < count; n++) {
    let missed = 0
    let searched = 0
    for (;;) {
      const place = draw()
      const isKept = !keep || keep(place.lon, place.lat)
      // Where none of many places is kept there is no such ground, and any place does.
      if (!isKept && searched < most) {
        searched++
        continue
      }
      if (net.isFree(place)) {
        net.add(place)
        if (!isKept) strayed++
        lonLat[2 * n] = place.lon
        lonLat[2 * n + 1] = place.lat
        break
      }
      if (++missed % misses === 0) net.shrink()
    }
  }
  return { lonLat, strayed }
}

/** A place with its coordinates in a plane that is true to area, metres. */
type Place = { lon: number; lat: number; x: number; y: number }

type Piece = {
  /** Ground area in the plane of the sines of authalic latitudes, m². */
  area: number
  west: number
  east: number
  /** Sines of authalic latitudes. */
  low: number
  high: number
  holds: (lon: number, lat: number) => boolean
  /** Where a parallel enters and leaves it, in pairs from the west. */
  crossings: (lat: number) => number[]
}

const sineOf = (lat: number): number => Math.sin(authalicLatitude(lat / degrees))
const latOf = (sine: number): number => geodeticLatitude(Math.asin(Math.max(-1, Math.min(1, sine)))) * degrees

function pieceOf(rings: Position[][]): Piece {
  let [west, east, south, north] = [Infinity, -Infinity, Infinity, -Infinity]
  for (const [lon, lat] of rings[0] ?? []) {
    west = Math.min(west, lon)
    east = Math.max(east, lon)
    south = Math.min(south, lat)
    north = Math.max(north, lat)
  }
  let twice = 0
  rings.forEach((ring, r) => {
    let own = 0
    for (let i = 0; i + 1 < ring.length; i++)
      own += (ring[i + 1][0] - ring[i][0]) * (sineOf(ring[i][1]) + sineOf(ring[i + 1][1]))
    twice += r === 0 ? Math.abs(own) : -Math.abs(own)
  })
  return {
    area: (Math.max(0, twice / 2) / degrees) * authalicRadius ** 2,
    west,
    east,
    low: sineOf(south),
    high: sineOf(north),
    ...within(rings, south, north),
  }
}

/** Whether a place lies in rings, by even crossings of the edges in its band of latitudes, and these crossings. */
function within(rings: Position[][], south: number, north: number): Pick<Piece, 'holds' | 'crossings'> {
  const edges: [number, number, number, number][] = []
  for (const ring of rings)
    for (let i = 0; i + 1 < ring.length; i++)
      if (ring[i][1] !== ring[i + 1][1]) edges.push([ring[i][0], ring[i][1], ring[i + 1][0], ring[i + 1][1]])
  const count = Math.max(1, Math.min(4096, edges.length))
  const height = (north - south) / count || 1
  const bandOf = (lat: number): number => Math.max(0, Math.min(count - 1, Math.floor((lat - south) / height)))
  const bands: number[][] = Array.from({ length: count }, () => [])
  edges.forEach(([, y0, , y1], i) => {
    for (let b = bandOf(Math.min(y0, y1)); b <= bandOf(Math.max(y0, y1)); b++) bands[b].push(i)
  })
  const crossings = (lat: number): number[] =>
    bands[bandOf(lat)]
      .flatMap((i) => {
        const [x0, y0, x1, y1] = edges[i]
        return y0 > lat !== y1 > lat ? [x0 + ((lat - y0) / (y1 - y0)) * (x1 - x0)] : []
      })
      .sort((a, b) => a - b)
  const holds = (lon: number, lat: number): boolean => {
    let inside = false
    for (const i of bands[bandOf(lat)]) {
      const [x0, y0, x1, y1] = edges[i]
      if (y0 > lat !== y1 > lat && lon < x0 + ((lat - y0) / (y1 - y0)) * (x1 - x0)) inside = !inside
    }
    return inside
  }
  return { holds, crossings }
}

/** Draws places evenly by ground area. */
function drawer(pieces: Piece[], random: Random): () => Place {
  const total = pieces.reduce((sum, { area }) => sum + area, 0)
  const middle = Math.cos(Math.asin((pieces[0].low + pieces[0].high) / 2)) || 1e-3
  const ends = new Float64Array(pieces.length)
  pieces.reduce((sum, { area }, i) => (ends[i] = sum + area), 0)
  const placeAt = (lon: number, lat: number, sine: number): Place => ({
    lon,
    lat,
    // Stretched so that ground distances about the middle of the area are true in both directions.
    x: (authalicRadius * lon * middle) / degrees,
    y: (authalicRadius * sine) / middle,
  })
  return () => {
    const piece = pieces[Math.min(pieces.length - 1, firstAbove(ends, random() * total))]
    const sineIn = (): number => piece.low + random() * (piece.high - piece.low)
    for (let i = 0; i < mostThrows; i++) {
      const lon = piece.west + random() * (piece.east - piece.west)
      const sine = sineIn()
      const lat = latOf(sine)
      if (piece.holds(lon, lat)) return placeAt(lon, lat, sine)
    }
    // A sliver in its box: along a parallel it is met at once.
    for (let i = 0; i < mostThrows; i++) {
      const sine = sineIn()
      const lat = latOf(sine)
      const spans = piece.crossings(lat)
      if (spans.length < 2) continue
      const at = 2 * Math.floor((random() * spans.length) / 2)
      return placeAt(spans[at] + random() * (spans[at + 1] - spans[at]), lat, sine)
    }
    const sine = (piece.low + piece.high) / 2
    return placeAt((piece.west + piece.east) / 2, latOf(sine), sine)
  }
}

/** The first of ascending numbers that is larger, by halving. */
function firstAbove(ends: Float64Array, value: number): number {
  let [low, high] = [0, ends.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (ends[middle] > value) high = middle
    else low = middle + 1
  }
  return low
}

const shareKept = (draw: () => Place, keep: Keep): number => {
  let kept = 0
  for (let i = 0; i < mostTries; i++) {
    const { lon, lat } = draw()
    if (keep(lon, lat)) kept++
  }
  return kept / mostTries
}

/**
 * Dots by the cells of a grid, so that only those near a place are looked at. Cells are found by a hash; where two
 * cells share one, dots of both are looked at, which changes nothing.
 */
function createNet(distance: number, count: number) {
  const cell = Math.max(distance, 1e-6)
  const size = 2 ** Math.ceil(Math.log2(2 * count + 16))
  /** The dot put last into a cell, and the one before it; −1 for none. */
  const last = new Int32Array(size).fill(-1)
  const before = new Int32Array(count)
  const xs = new Float64Array(count)
  const ys = new Float64Array(count)
  let used = 0
  let least = distance
  const slot = (column: number, row: number): number =>
    ((Math.imul(column, 73_856_093) ^ Math.imul(row, 19_349_663)) >>> 0) & (size - 1)
  return {
    shrink: (): void => void (least *= shrinks),
    add({ x, y }: Place): void {
      const at = slot(Math.floor(x / cell), Math.floor(y / cell))
      before[used] = last[at]
      last[at] = used
      xs[used] = x
      ys[used] = y
      used++
    },
    isFree({ x, y }: Place): boolean {
      const column = Math.floor(x / cell)
      const row = Math.floor(y / cell)
      const square = least * least
      for (let r = row - 1; r <= row + 1; r++)
        for (let c = column - 1; c <= column + 1; c++)
          for (let i = last[slot(c, r)]; i >= 0; i = before[i]) {
            const dx = xs[i] - x
            const dy = ys[i] - y
            if (dx * dx + dy * dy < square) return false
          }
      return true
    },
  }
}
