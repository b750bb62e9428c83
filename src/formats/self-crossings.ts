import Flatbush from 'flatbush'
import type { Position } from 'geojson'
import { edgesCross } from '@/core/geo/edges-cross'

/** Pairs of edges may lie near each other by the million without a crossing; no more are looked at than this. */
const mostPairs = 20_000_000
/** In rings of so few edges every pair is looked at. */
const fewEdges = 24

/** How often the edges of a ring cross, and where first. */
export type Crossings = { count: number; first: Position | null }

/** Looks at two edges of a path; tells whether that is enough. */
type Look = (i: number, j: number) => boolean

/**
 * How often the edges of a ring cross, counted up to `most`, and where first. Neighbouring edges share an end
 * and do not count. Edges run the shorter way round the globe, so that rings may step across the date line.
 */
export function selfCrossings(ring: Position[], most: number): Crossings {
  const n = ring.length - 1
  if (n < 4) return { count: 0, first: null }
  const path = unrolled(ring)
  return n <= fewEdges ? amongFew(path, n, most) : amongMany(path, n, most)
}

/** Most rings of islands are short; every pair of their edges is looked at, without anything else made for it. */
function amongFew(path: Float64Array, n: number, most: number): Crossings {
  const found: Crossings = { count: 0, first: null }
  for (let i = 0; i < n; i++)
    for (let j = i + 2; j < n && found.count < most; j++) {
      if ((i === 0 && j === n - 1) || !boxesMeet(path, i, j)) continue
      const place = edgesCross(path, i, j)
      if (!place) continue
      found.count++
      found.first ??= place
    }
  return found
}

function amongMany(path: Float64Array, n: number, most: number): Crossings {
  const found: Crossings = { count: 0, first: null }
  let pairs = 0
  const look: Look = (i, j) => {
    pairs++
    const [a, b] = i < j ? [i, j] : [j, i]
    if (b > a + 1 && (a > 0 || b < n - 1)) {
      const place = edgesCross(path, a, b)
      if (place) {
        found.count++
        found.first ??= place
      }
    }
    return found.count >= most || pairs >= mostPairs
  }
  if (!pairsOfGrid(path, n, look)) pairsOfIndex(path, n, look)
  return found
}

function pairsOfIndex(path: Float64Array, n: number, look: Look): void {
  const index = new Flatbush(n)
  for (let i = 0; i < n; i++) index.add(...boxOf(path, i))
  index.finish()
  let enough = false
  for (let i = 0; i < n && !enough; i++)
    index.search(...boxOf(path, i), (j) => {
      if (j > i && !enough) enough = look(i, j)
      return false
    })
}

/** Lists of numbers that are used again for every ring: there may be thousands, and most are small. */
const rooms = new Map<string, Float64Array | Uint32Array>()

/** Room for at least so many numbers, with whatever stood there before. */
function room<T extends Float64Array | Uint32Array>(
  name: string,
  size: number,
  Kind: { new (size: number): T },
): T {
  const known = rooms.get(name)
  if (known && known.length >= size) return known as T
  const made = new Kind(2 * size)
  rooms.set(name, made)
  return made
}

/** Longitudes and latitudes by turns, longitudes counted on across the date line. */
function unrolled(ring: Position[]): Float64Array {
  const path = room('path', 2 * ring.length, Float64Array)
  let turned = 0
  for (let i = 0; i < ring.length; i++) {
    const lon = ring[i][0]
    if (i > 0) {
      const step = lon - ring[i - 1][0]
      if (step > 180 && step < 360) turned -= 360
      else if (step < -180 && step > -360) turned += 360
    }
    path[2 * i] = lon + turned
    path[2 * i + 1] = ring[i][1]
  }
  return path
}

/**
 * Looks at pairs of edges whose boxes meet, found by the cells of a grid that the boxes touch; does nothing and tells
 * so where edges touch far more cells than there are edges.
 */
function pairsOfGrid(path: Float64Array, n: number, look: Look): boolean {
  const grid = gridOf(path, n)
  if (!grid) return false
  const { starts, edges, columnOf, rowOf, columns, cells } = grid
  for (let cell = 0; cell < cells; cell++) {
    const end = starts[cell + 1]
    for (let p = starts[cell]; p + 1 < end; p++) {
      const i = edges[p]
      for (let q = p + 1; q < end; q++) {
        const j = edges[q]
        // Edges that follow each other share an end.
        if (j === i + 1 || !boxesMeet(path, i, j)) continue
        // Two edges may share several cells; they are looked at in the first of them.
        const column = Math.max(least(columnOf, i), least(columnOf, j))
        const row = Math.max(least(rowOf, i), least(rowOf, j))
        if (row * columns + column === cell && look(i, j)) return true
      }
    }
  }
  return true
}

type Grid = {
  /** Edges of each cell, those of cell `c` from `starts[c]` on. */
  starts: Uint32Array
  edges: Uint32Array
  /** Column and row of each vertex. */
  columnOf: Uint32Array
  rowOf: Uint32Array
  columns: number
  cells: number
}

const least = (of: Uint32Array, edge: number): number => (of[edge] < of[edge + 1] ? of[edge] : of[edge + 1])
const most = (of: Uint32Array, edge: number): number => (of[edge] > of[edge + 1] ? of[edge] : of[edge + 1])

function gridOf(path: Float64Array, n: number): Grid | null {
  let [west, south, east, north] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let v = 0; v <= n; v++) {
    const [x, y] = [path[2 * v], path[2 * v + 1]]
    if (x < west) west = x
    if (x > east) east = x
    if (y < south) south = y
    if (y > north) north = y
  }
  const [width, height] = [Math.max(east - west, 1e-12), Math.max(north - south, 1e-12)]
  // Rough rings crowd in few cells, the more of them the longer they are; some cells more than edges keep pairs few.
  const size = Math.sqrt((width * height) / (3 * n))
  const columns = Math.max(1, Math.min(4 * n, Math.ceil(width / size)))
  const rows = Math.max(1, Math.min(4 * n, Math.ceil(height / size)))
  if (columns * rows > 8 * n + 64) return null
  const columnOf = room('columnOf', n + 1, Uint32Array)
  const rowOf = room('rowOf', n + 1, Uint32Array)
  for (let v = 0; v <= n; v++) {
    columnOf[v] = Math.min(columns - 1, Math.floor(((path[2 * v] - west) / width) * columns))
    rowOf[v] = Math.min(rows - 1, Math.floor(((path[2 * v + 1] - south) / height) * rows))
  }
  const starts = room('starts', columns * rows + 1, Uint32Array).fill(0, 0, columns * rows + 1)
  let total = 0
  for (let i = 0; i < n; i++) {
    const [c1, r1] = [most(columnOf, i), most(rowOf, i)]
    for (let r = least(rowOf, i); r <= r1; r++)
      for (let c = least(columnOf, i); c <= c1; c++) {
        starts[r * columns + c + 1]++
        total++
      }
    if (total > 8 * n + 64) return null
  }
  for (let cell = 0; cell < columns * rows; cell++) starts[cell + 1] += starts[cell]
  const edges = room('edges', total, Uint32Array)
  const next = room('next', columns * rows + 1, Uint32Array)
  next.set(starts.subarray(0, columns * rows + 1))
  for (let i = 0; i < n; i++) {
    const [c1, r1] = [most(columnOf, i), most(rowOf, i)]
    for (let r = least(rowOf, i); r <= r1; r++)
      for (let c = least(columnOf, i); c <= c1; c++) edges[next[r * columns + c]++] = i
  }
  return { starts, edges, columnOf, rowOf, columns, cells: columns * rows }
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
