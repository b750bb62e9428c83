import Flatbush from 'flatbush'
import type { Geometry, Position } from 'geojson'
import { unionOf } from '@/core/geo/polygon-clipping'
import type { ShapeNote } from '@/core/data/reading'

/**
 * A shape that can be relied on: rings closed, repeated positions dropped, rings that cross themselves
 * untangled. Null where nothing is left.
 */
export function repairShape(shape: Geometry | null, row: number, notes: ShapeNote[]): Geometry | null {
  if (!shape || (shape.type !== 'GeometryCollection' && !shape.coordinates.length)) {
    notes.push({ row, what: 'has no shape', at: null })
    return null
  }
  if (shape.type !== 'Polygon' && shape.type !== 'MultiPolygon') return shape
  const polygons = (shape.type === 'Polygon' ? [shape.coordinates] : shape.coordinates).flatMap((rings) => {
    const kept = rings.map((ring) => repairRing(ring, row, notes)).filter((ring) => ring !== null)
    return kept.length ? [kept] : []
  })
  const tangled = polygons.find((rings) => rings.some((ring) => selfCrossing(ring) !== null))
  let out = polygons
  if (tangled) {
    const at = tangled.map(selfCrossing).find((place) => place !== null) ?? null
    notes.push({ row, what: 'untangled a ring that crosses itself', at })
    out = unionOf(polygons)
  }
  if (!out.length) {
    notes.push({ row, what: 'has no shape', at: null })
    return null
  }
  return out.length === 1
    ? { type: 'Polygon', coordinates: out[0] }
    : { type: 'MultiPolygon', coordinates: out }
}

function repairRing(ring: Position[], row: number, notes: ShapeNote[]): Position[] | null {
  const clean = ring.filter((p, i) => i === 0 || p[0] !== ring[i - 1][0] || p[1] !== ring[i - 1][1])
  const [first, last] = [clean[0], clean[clean.length - 1]]
  if (first && (first[0] !== last[0] || first[1] !== last[1])) {
    notes.push({ row, what: 'closed an open ring', at: first })
    clean.push(first)
  }
  if (clean.length >= 4) return clean
  notes.push({ row, what: 'dropped a ring without an area', at: first ?? null })
  return null
}

/** Where two edges of a ring cross, or null. Neighbouring edges share an end and do not count. */
export function selfCrossing(ring: Position[]): Position | null {
  const n = ring.length - 1
  if (n < 4) return null
  const index = new Flatbush(n)
  for (let i = 0; i < n; i++) {
    const [a, b] = [ring[i], ring[i + 1]]
    index.add(Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[0], b[0]), Math.max(a[1], b[1]))
  }
  index.finish()
  for (let i = 0; i < n; i++) {
    const [a, b] = [ring[i], ring[i + 1]]
    const near = index.search(
      Math.min(a[0], b[0]),
      Math.min(a[1], b[1]),
      Math.max(a[0], b[0]),
      Math.max(a[1], b[1]),
      (j) => j > i + 1 && !(i === 0 && j === n - 1),
    )
    for (const j of near) {
      const place = crossing(a, b, ring[j], ring[j + 1])
      if (place) return place
    }
  }
  return null
}

function crossing(a: Position, b: Position, c: Position, d: Position): Position | null {
  const side = (p: Position, q: Position, r: Position) =>
    Math.sign((q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]))
  if (side(a, b, c) * side(a, b, d) >= 0 || side(c, d, a) * side(c, d, b) >= 0) return null
  const t =
    ((c[0] - a[0]) * (d[1] - c[1]) - (c[1] - a[1]) * (d[0] - c[0])) /
    ((b[0] - a[0]) * (d[1] - c[1]) - (b[1] - a[1]) * (d[0] - c[0]))
  return [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])]
}
