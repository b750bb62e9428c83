import type { Geometry, Position } from 'geojson'

/** A curve is followed by straight edges that turn by no more than this, degrees. */
const turnDegrees = 3
const mostNesting = 8

/** What was met while reading: curves were linearised. */
export type WkbTally = { curves: number }

/**
 * Well-known binary (ISO 13249-3, OGC 06-103r4, and its extended form), all types with heights and measures
 * behind x and y; circular strings and what is made of them become straight edges that follow them. Empty shapes
 * give null.
 * @throws RangeError where it breaks off or counts more than it holds
 */
export function readWkb(bytes: Uint8Array, tally: WkbTally = { curves: 0 }): Geometry | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let at = 0

  function shape(depth: number): Geometry | null {
    if (depth > mostNesting) throw new RangeError('Shapes are nested too deeply.')
    const little = view.getUint8(at) === 1
    const raw = view.getUint32(at + 1, little)
    at += 5
    const extended = (raw & 0xe0000000) >>> 0
    if (extended & 0x20000000) at += 4
    const code = raw & 0x0fffffff
    const more =
      extended & 0xc0000000
        ? (extended & 0x80000000 ? 1 : 0) + (extended & 0x40000000 ? 1 : 0)
        : [0, 1, 1, 2][Math.floor(code / 1000)]
    if (more === undefined) throw new RangeError('The type of a shape is not known.')
    const size = 2 + more
    const count = (least: number): number => {
      const n = view.getUint32(at, little)
      at += 4
      if (n * least > bytes.length - at) throw new RangeError('A shape counts more than it holds.')
      return n
    }
    const position = (): Position => {
      const place = Array.from({ length: size }, (_, i) => view.getFloat64(at + 8 * i, little))
      at += 8 * size
      return place
    }
    const path = (): Position[] => Array.from({ length: count(8 * size) }, position)
    const rings = (): Position[][] => Array.from({ length: count(4) }, path)
    const members = (): Geometry[] =>
      Array.from({ length: count(5) }, () => shape(depth + 1)).filter((one) => one !== null)
    switch (code % 1000) {
      case 1: {
        const place = position()
        return place.some((v) => Number.isNaN(v)) ? null : { type: 'Point', coordinates: place }
      }
      case 2:
        return line(path())
      case 3:
        return polygon(rings())
      case 4:
        return many('MultiPoint', members(), (one) => (one.type === 'Point' ? [one.coordinates] : []))
      case 5:
      case 11:
        return many('MultiLineString', members(), (one) =>
          one.type === 'LineString' ? [one.coordinates] : [],
        )
      case 6:
      case 12:
      case 15:
      case 16:
        return many('MultiPolygon', members(), (one) => (one.type === 'Polygon' ? [one.coordinates] : []))
      case 7: {
        const parts = members()
        return parts.length ? { type: 'GeometryCollection', geometries: parts } : null
      }
      case 8:
        tally.curves++
        return line(alongArcs(path()))
      case 9:
        return line(joined(members()))
      case 10: {
        const parts = members().map((one) => (one.type === 'LineString' ? one.coordinates : []))
        return polygon(parts)
      }
      case 17:
        return polygon(rings())
      default:
        throw new RangeError('The type of a shape is not known.')
    }
  }
  return shape(0)
}

const line = (coordinates: Position[]): Geometry | null =>
  coordinates.length ? { type: 'LineString', coordinates } : null
const polygon = (coordinates: Position[][]): Geometry | null =>
  coordinates.length ? { type: 'Polygon', coordinates } : null

function many(type: string, members: Geometry[], partsOf: (one: Geometry) => unknown[]): Geometry | null {
  const coordinates = members.flatMap(partsOf)
  return coordinates.length ? ({ type, coordinates } as Geometry) : null
}

/** Pieces of a compound curve, each beginning where the last one ended. */
function joined(members: Geometry[]): Position[] {
  return members.flatMap((one, i) => (one.type === 'LineString' ? one.coordinates.slice(i ? 1 : 0) : []))
}

/** A circular string, every second position lying in the middle of an arc, as straight edges. */
function alongArcs(places: Position[]): Position[] {
  const out: Position[] = places.slice(0, 1)
  for (let i = 0; i + 2 < places.length; i += 2) out.push(...arc(places[i], places[i + 1], places[i + 2]))
  return out
}

/** Positions along the circle through three of them, without the first. A full circle has both ends in one place. */
function arc(a: Position, b: Position, c: Position): Position[] {
  const full = a[0] === c[0] && a[1] === c[1]
  const centre = full ? [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2] : centreOf(a, b, c)
  if (!centre) return [b, c]
  const [x, y] = centre
  const radius = Math.hypot(a[0] - x, a[1] - y)
  const angle = (p: Position) => Math.atan2(p[1] - y, p[0] - x)
  const turn = (from: number, to: number) => {
    const raw = (to - from) % (2 * Math.PI)
    return raw < 0 ? raw + 2 * Math.PI : raw
  }
  const start = angle(a)
  const left = full || turn(start, angle(b)) < turn(start, angle(c))
  const part = left ? turn(start, angle(c)) : -turn(angle(c), start)
  const whole = full ? 2 * Math.PI : part
  const steps = Math.max(2, Math.ceil(Math.abs(whole) / ((turnDegrees * Math.PI) / 180)))
  return Array.from({ length: steps }, (_, k): Position => {
    if (k === steps - 1) return c
    const at = start + (whole * (k + 1)) / steps
    return [x + radius * Math.cos(at), y + radius * Math.sin(at)]
  })
}

/** The middle of the circle through three positions; null where they lie on a line. */
function centreOf([ax, ay]: Position, [bx, by]: Position, [cx, cy]: Position): [number, number] | null {
  const [dx, dy, ex, ey] = [bx - ax, by - ay, cx - ax, cy - ay]
  const d = 2 * (dx * ey - dy * ex)
  if (d === 0) return null
  const [p, q] = [dx * dx + dy * dy, ex * ex + ey * ey]
  return [ax + (ey * p - dy * q) / d, ay + (dx * q - ex * p) / d]
}
