import type { Geometry, Position } from 'geojson'
import { unionOf, type Polygons } from '@/core/geo/polygon-clipping'
import { geometryFromShapes } from '@/core/geo/shapes'
import { flatPolygons } from '@/core/geo/sphere/flat'
import type { ShapeNote } from '@/core/data/reading'
import { selfCrossings } from './self-crossings'

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
    const mended = unionOf(inPlane(polygons))
    notes.push({ row, what: 'untangled a ring that crosses itself', at })
    return mended
  } catch {
    notes.push({ row, what: 'could not be mended and was left out', at })
    return null
  }
}

/** Polygons in the plane, where some step across the date line; else as they are. */
function inPlane(polygons: Polygons): Polygons {
  const steps = polygons
    .flat()
    .some((ring) =>
      ring.some(
        ([lon], i) => i > 0 && Math.abs(lon - ring[i - 1][0]) > 180 && Math.abs(lon - ring[i - 1][0]) < 360,
      ),
    )
  if (!steps) return polygons
  const placed = geometryFromShapes([{ type: 'MultiPolygon', coordinates: polygons }])
  return placed.kind === 'areas' ? flatPolygons(placed, 0) : polygons
}

function repairRing(ring: Position[], row: number, notes: ShapeNote[]): Position[] | null {
  const repeats = hasRepeats(ring)
  let clean = repeats
    ? ring.filter((p, i) => i === 0 || p[0] !== ring[i - 1][0] || p[1] !== ring[i - 1][1])
    : ring
  const [first, last] = [clean[0], clean[clean.length - 1]]
  if (first && (first[0] !== last[0] || first[1] !== last[1])) {
    notes.push({ row, what: 'closed an open ring', at: first })
    clean = [...clean, first]
  }
  if (clean.length >= 4) return clean
  notes.push({ row, what: 'dropped a ring without an area', at: first ?? null })
  return null
}

function hasRepeats(ring: Position[]): boolean {
  for (let i = 1; i < ring.length; i++)
    if (ring[i][0] === ring[i - 1][0] && ring[i][1] === ring[i - 1][1]) return true
  return false
}
