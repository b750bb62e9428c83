import Flatbush from 'flatbush'
import type { Geometry, Position } from 'geojson'
import { unionOf, type Polygons } from '@/core/geo/polygon-clipping'
import type { ShapeNote } from '@/core/data/reading'

/** Crossings that are untangled in one shape, and in all of a file; more take longer than anybody waits. */
const mostCrossings = 1500
const mostCrossingsOfAll = 10_000

/** What mending has cost in the file so far. */
export type Effort = { crossings: number }

/**
 * A shape that can be relied on: rings closed, repeated positions dropped, rings that cross themselves
 * untangled. Null where nothing is left, or where it cannot be mended: the other rows do not suffer for it.
 */
export function repairShape(
  shape: Geometry | null,
  row: number,
  notes: ShapeNote[],
  effort: Effort = { crossings: 0 },
): Geometry | null {
  if (!shape || (shape.type !== 'GeometryCollection' && !shape.coordinates.length)) {
    notes.push({ row, what: 'has no shape', at: null })
    return null
  }
  if (shape.type !== 'Polygon' && shape.type !== 'MultiPolygon') return shape
  const polygons = (shape.type === 'Polygon' ? [shape.coordinates] : shape.coordinates).flatMap((rings) => {
    const kept = rings.map((ring) => repairRing(ring, row, notes)).filter((ring) => ring !== null)
    return kept.length ? [kept] : []
  })
  const out = untangled(polygons, { row, notes, effort })
  if (!out) return null
  if (!out.length) {
    notes.push({ row, what: 'has no shape', at: null })
    return null
  }
  return out.length === 1
    ? { type: 'Polygon', coordinates: out[0] }
    : { type: 'MultiPolygon', coordinates: out }
}

/** The polygons as they are where no ring crosses itself, else untangled; null where that cannot be done. */
function untangled(
  polygons: Polygons,
  { row, notes, effort }: { row: number; notes: ShapeNote[]; effort: Effort },
): Polygons | null {
  let [count, at] = [0, null as Position | null]
  for (const ring of polygons.flat()) {
    const found = selfCrossings(ring, mostCrossings + 1 - count)
    count += found.count
    at ??= found.first
  }
  if (count === 0) return polygons
  effort.crossings += count
  if (count > mostCrossings || effort.crossings > mostCrossingsOfAll) {
    notes.push({ row, what: 'crosses itself too often to be untangled and was left out', at })
    return null
  }
  try {
    const mended = unionOf(polygons)
    notes.push({ row, what: 'untangled a ring that crosses itself', at })
    return mended
  } catch {
    notes.push({ row, what: 'could not be mended and was left out', at })
    return null
  }
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

/** Boxes of edges may overlap by the million without a crossing; no more pairs are looked at than this. */
const mostPairs = 20_000_000

/**
 * How often the edges of a ring cross, counted up to `most`, and where first. Neighbouring edges share an end
 * and do not count.
 */
export function selfCrossings(ring: Position[], most: number): { count: number; first: Position | null } {
  const n = ring.length - 1
  if (n < 4) return { count: 0, first: null }
  const index = new Flatbush(n)
  for (let i = 0; i < n; i++) index.add(...boxOf(ring[i], ring[i + 1]))
  index.finish()
  let [count, pairs, first] = [0, 0, null as Position | null]
  for (let i = 0; i < n && count < most && pairs < mostPairs; i++)
    index.search(...boxOf(ring[i], ring[i + 1]), (j) => {
      pairs++
      if (j <= i + 1 || (i === 0 && j === n - 1)) return false
      const place = crossing(ring[i], ring[i + 1], ring[j], ring[j + 1])
      if (place) {
        count++
        first ??= place
      }
      return false
    })
  return { count, first }
}

const boxOf = (a: Position, b: Position): [number, number, number, number] => [
  Math.min(a[0], b[0]),
  Math.min(a[1], b[1]),
  Math.max(a[0], b[0]),
  Math.max(a[1], b[1]),
]

function crossing(a: Position, b: Position, c: Position, d: Position): Position | null {
  const side = (p: Position, q: Position, r: Position) =>
    Math.sign((q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]))
  if (side(a, b, c) * side(a, b, d) >= 0 || side(c, d, a) * side(c, d, b) >= 0) return null
  const t =
    ((c[0] - a[0]) * (d[1] - c[1]) - (c[1] - a[1]) * (d[0] - c[0])) /
    ((b[0] - a[0]) * (d[1] - c[1]) - (b[1] - a[1]) * (d[0] - c[0]))
  return [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])]
}
