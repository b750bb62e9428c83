import Flatbush from 'flatbush'
import type { Geometry, Position } from 'geojson'
import { edgesCross } from '@/core/geo/edges-cross'
import { unionOf, type Polygons } from '@/core/geo/polygon-clipping'
import { geometryFromShapes } from '@/core/geo/shapes'
import { flatPolygons } from '@/core/geo/sphere/flat'
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
  const repeats = ring.some((p, i) => i > 0 && p[0] === ring[i - 1][0] && p[1] === ring[i - 1][1])
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

/** Pairs of edges may lie near each other by the million without a crossing; no more are looked at than this. */
const mostPairs = 20_000_000
/** In rings of so few edges every pair is looked at. */
const fewEdges = 24

/**
 * How often the edges of a ring cross, counted up to `most`, and where first. Neighbouring edges share an end
 * and do not count. Edges run the shorter way round the globe, so that rings may step across the date line.
 */
export function selfCrossings(ring: Position[], most: number): { count: number; first: Position | null } {
  const n = ring.length - 1
  let [count, pairs, first] = [0, 0, null as Position | null]
  if (n < 4) return { count, first }
  const path = unrolled(ring)
  const look = (i: number, j: number): void => {
    pairs++
    const [a, b] = i < j ? [i, j] : [j, i]
    if (b <= a + 1 || (a === 0 && b === n - 1)) return
    const place = edgesCross(path, a, b)
    if (!place) return
    count++
    first ??= place
  }
  if (n <= fewEdges) {
    for (let i = 0; i < n; i++) for (let j = i + 2; j < n && count < most; j++) look(i, j)
    return { count, first }
  }
  const grid = gridOf(path, n)
  if (!grid) {
    const index = new Flatbush(n)
    for (let i = 0; i < n; i++) index.add(...boxOf(path, i))
    index.finish()
    for (let i = 0; i < n && count < most && pairs < mostPairs; i++)
      index.search(...boxOf(path, i), (j) => {
        if (j > i) look(i, j)
        return false
      })
    return { count, first }
  }
  const { starts, edges, cellOf } = grid
  for (let cell = 0; cell + 1 < starts.length && count < most && pairs < mostPairs; cell++)
    for (let p = starts[cell]; p < starts[cell + 1]; p++)
      for (let q = p + 1; q < starts[cell + 1] && count < most; q++) {
        const [i, j] = [edges[p], edges[q]]
        // Two edges may share several cells; they are looked at in the first of them.
        if (boxesMeet(path, i, j) && cellOf(i, j) === cell) look(i, j)
      }
  return { count, first }
}

/** Longitudes and latitudes by turns, longitudes counted on across the date line. */
function unrolled(ring: Position[]): Float64Array {
  const path = new Float64Array(2 * ring.length)
  let turned = 0
  for (let i = 0; i < ring.length; i++) {
    const [lon, lat] = ring[i]
    if (i > 0) {
      const step = lon - ring[i - 1][0]
      if (step > 180 && step < 360) turned -= 360
      else if (step < -180 && step > -360) turned += 360
    }
    path[2 * i] = lon + turned
    path[2 * i + 1] = lat
  }
  return path
}

type Grid = { starts: Uint32Array; edges: Uint32Array; cellOf: (i: number, j: number) => number }

/** Edges by the cells of a grid that their boxes touch; null where that would be far more than there are edges. */
function gridOf(path: Float64Array, n: number): Grid | null {
  let [west, south, east, north] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let v = 0; v <= n; v++) {
    west = Math.min(west, path[2 * v])
    east = Math.max(east, path[2 * v])
    south = Math.min(south, path[2 * v + 1])
    north = Math.max(north, path[2 * v + 1])
  }
  const [width, height] = [Math.max(east - west, 1e-12), Math.max(north - south, 1e-12)]
  const size = Math.sqrt((width * height) / n)
  const columns = Math.max(1, Math.min(4 * n, Math.ceil(width / size)))
  const rows = Math.max(1, Math.min(4 * n, Math.ceil(height / size)))
  if (columns * rows > 8 * n + 64) return null
  const column = (x: number) => Math.min(columns - 1, Math.floor(((x - west) / width) * columns))
  const row = (y: number) => Math.min(rows - 1, Math.floor(((y - south) / height) * rows))
  const starts = new Uint32Array(columns * rows + 1)
  let total = 0
  const eachCell = (i: number, visit: (cell: number) => void) => {
    const [ax, bx, ay, by] = [path[2 * i], path[2 * i + 2], path[2 * i + 1], path[2 * i + 3]]
    const [c0, c1] = ax < bx ? [column(ax), column(bx)] : [column(bx), column(ax)]
    const [r0, r1] = ay < by ? [row(ay), row(by)] : [row(by), row(ay)]
    for (let r = r0; r <= r1; r++) for (let c = c0; c <= c1; c++) visit(r * columns + c)
  }
  for (let i = 0; i < n; i++) {
    eachCell(i, (cell) => {
      starts[cell + 1]++
      total++
    })
    if (total > 8 * n + 64) return null
  }
  for (let cell = 0; cell < columns * rows; cell++) starts[cell + 1] += starts[cell]
  const edges = new Uint32Array(total)
  const next = starts.slice()
  for (let i = 0; i < n; i++) eachCell(i, (cell) => (edges[next[cell]++] = i))
  return {
    starts,
    edges,
    cellOf: (i, j) => {
      const [ax, ay] = boxOf(path, i)
      const [bx, by] = boxOf(path, j)
      return row(Math.max(ay, by)) * columns + column(Math.max(ax, bx))
    },
  }
}

const boxOf = (path: Float64Array, i: number): [number, number, number, number] => [
  Math.min(path[2 * i], path[2 * i + 2]),
  Math.min(path[2 * i + 1], path[2 * i + 3]),
  Math.max(path[2 * i], path[2 * i + 2]),
  Math.max(path[2 * i + 1], path[2 * i + 3]),
]

function boxesMeet(path: Float64Array, i: number, j: number): boolean {
  const [a, b, c, d] = [path[2 * i], path[2 * i + 2], path[2 * j], path[2 * j + 2]]
  if ((a > b ? a : b) < (c < d ? c : d) || (c > d ? c : d) < (a < b ? a : b)) return false
  const [e, f, g, h] = [path[2 * i + 1], path[2 * i + 3], path[2 * j + 1], path[2 * j + 3]]
  return (e > f ? e : f) >= (g < h ? g : h) && (g > h ? g : h) >= (e < f ? e : f)
}
