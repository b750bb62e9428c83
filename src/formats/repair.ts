import type { Geometry, Position } from 'geojson'
import { unionOf, type Polygons } from '@/core/geo/polygon-clipping'
import { geometryFromShapes } from '@/core/geo/shapes'
import { holesLieInside, polygonsByEvenOdd } from '@/core/geo/even-odd'
import { flatPolygons } from '@/core/geo/sphere/flat'
import { surfaceInside } from '@/core/geo/sphere/sine-integral'
import { unwrap } from '@/core/geo/sphere/unwrap'
import type { ShapeNote } from '@/core/data/reading'
import { selfCrossings } from './self-crossings'
import { withoutCrossings } from './untangle'

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
  const given = shape.type === 'Polygon' ? [shape.coordinates] : shape.coordinates
  const dropped: ShapeNote[] = []
  const polygons = given.flatMap((rings) => {
    const kept = rings.map((ring) => repairRing(ring, row, dropped)).filter((ring) => ring !== null)
    return kept.length ? [kept] : []
  })
  const place = given[0][0]?.[0] as Position | undefined
  // An area that has collapsed keeps its place: it may carry a symbol or a label.
  if (!polygons.length && place) return { type: 'Polygon', coordinates: [collapsed(given.flat(2))] }
  notes.push(...dropped)
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

/** What was found in one polygon: how often its rings cross themselves, and the rings without crossings. */
type Loosened = { rings: Position[][]; count: number; at: Position | null }

/** The polygons as they are where no ring crosses itself, else untangled; null where that cannot be done. */
function untangled(
  polygons: Polygons,
  { row, notes, effort }: { row: number; notes: ShapeNote[]; effort: Effort },
): Polygons | null {
  const out: Polygons = []
  let [count, at] = [0, null as Position | null]
  for (const rings of polygons) {
    const loose = loosened(rings, mostCrossings + 1 - count)
    count += loose.count
    at ??= loose.at
    effort.crossings += loose.count
    if (count > mostCrossings || effort.crossings > mostCrossingsOfAll) {
      notes.push({ row, what: 'crosses itself too often to be untangled and was left out', at })
      return null
    }
    if (loose.count === 0) out.push(...withHolesInside(rings, row, notes))
    else {
      const mended = polygonsByEvenOdd(loose.rings) ?? clipped(rings)
      if (!mended) {
        notes.push({ row, what: 'could not be mended and was left out', at })
        return null
      }
      out.push(...mended)
    }
  }
  if (count) {
    const change = surfaceOfPolygons(out) - surfaceOfPolygons(polygons)
    notes.push({ row, what: 'untangled a ring that crosses itself', at, change })
  }
  return out
}

function loosened(rings: Position[][], most: number): Loosened {
  const out: Loosened = { rings: [], count: 0, at: null }
  for (const ring of rings) {
    const found = selfCrossings(ring, most - out.count)
    out.count += found.count
    out.at ??= found.places[0] ?? null
    if (out.count > most) break
    if (found.count) out.rings.push(...withoutCrossings(ring, found))
    else out.rings.push(ring)
  }
  return out
}

/** A polygon some of whose holes lie beside it: by the rule of even and odd these are polygons as well. */
function withHolesInside(rings: Position[][], row: number, notes: ShapeNote[]): Polygons {
  if (holesLieInside(rings)) return [rings]
  const mended = polygonsByEvenOdd(rings)
  if (!mended) return [rings]
  const change = surfaceOfPolygons(mended) - surfaceOfPolygons([rings])
  notes.push({ row, what: 'has a hole beside its area, which is taken for an area', at: rings[0][0], change })
  return mended
}

/** A polygon that goes round a pole and crosses itself, put together in the plane. */
function clipped(rings: Position[][]): Polygons | null {
  try {
    return unionOf(inPlane([rings]))
  } catch {
    return null
  }
}

/** Square metres that polygons enclose, holes taken off; rings that go round the axis count for nothing. */
const surfaceOfPolygons = (polygons: Polygons): number =>
  polygons.reduce(
    (sum, rings) =>
      sum + rings.reduce((rest, ring, r) => (r ? rest - ringSurface(ring) : ringSurface(ring)), 0),
    0,
  )

function ringSurface(ring: Position[]): number {
  const { places, turns } = unwrap(ring)
  return turns === 0 ? Math.abs(surfaceInside(places)) : 0
}

/** Polygons in the plane, where some step across the date line; else as they are. */
function inPlane(polygons: Polygons): Polygons {
  const steps = polygons
    .flat()
    .some((ring) => ring.some(([lon], i) => i > 0 && Math.abs(lon - ring[i - 1][0]) > 180))
  if (!steps) return polygons
  const placed = geometryFromShapes([{ type: 'MultiPolygon', coordinates: polygons }])
  return placed.kind === 'areas' ? flatPolygons(placed, 0) : polygons
}

/** A ring without area between the first and the farthest of some places. */
function collapsed(places: Position[]): Position[] {
  const [[x, y]] = places
  const far = places.reduce((best, one) =>
    Math.hypot(one[0] - x, one[1] - y) > Math.hypot(best[0] - x, best[1] - y) ? one : best,
  )
  return [[x, y], [(x + far[0]) / 2, (y + far[1]) / 2], far, [x, y]]
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
