import type { Extent } from '@/core/geo/geometry'
import { extentOf } from '@/core/geo/extent'
import { coordsOf, type Geometry } from '@/core/geo/geometry'
import { createMemory } from '@/core/memory/memory'
import { authalicRadius } from '@/core/projection/authalic'
import type { ProjectionSpec } from '@/core/projection/catalogue'
import { createProjection } from '@/core/projection/projection'

/**
 * Numbers on a regular grid in an equal-area plane, in metres. `x0`, `y0` is the upper left corner of the grid (y grows
 * downwards), `cell` the side of a cell; values are those at the middles of cells, row by row from the top, NaN where
 * there is none. As the plane keeps areas, every cell stands for the same area on the ground.
 */
export type Grid = {
  plane: ProjectionSpec
  x0: number
  y0: number
  cell: number
  columns: number
  rows: number
  values: Float64Array
}

/** Where a grid lies, without its values. */
export type Lattice = Omit<Grid, 'values'>

/** Wider data than this, in degrees from their middle, are laid out on a map of the world. */
const widestCapDeg = 60

/**
 * An equal-area plane for some data: Lambert's azimuthal one about their middle, in which distances up to 500 km from
 * it are true to a part in a thousand, or, for data wider than 60 degrees from it, the Equal Earth map of the world.
 */
export function planeFor([west, south, east, north]: Extent): ProjectionSpec {
  const middle = (west + east) / 2
  const lat = (south + north) / 2
  const spec = { parallels: [0, 0] as [number, number] }
  const wide = Math.max((north - south) / 2, ((east - west) / 2) * Math.cos((lat * Math.PI) / 180))
  if (wide > widestCapDeg || east - west > 240)
    return { ...spec, id: 'equal-earth', centre: [middle > 180 ? middle - 360 : middle, 0] }
  return { ...spec, id: 'lambert-azimuthal-equal-area', centre: [middle > 180 ? middle - 360 : middle, lat] }
}

const rememberPlaces = createMemory<Float64Array, Float64Array>('places in planes', {
  maxBytes: 48 * 2 ** 20,
})

/**
 * Coordinates of points in a plane; NaN where it does not show them. Those of a list are kept, since a surface that is
 * dragged asks for them at every step: nobody may change them.
 */
export const placesIn = (plane: ProjectionSpec, lonLat: ArrayLike<number>): Float64Array =>
  lonLat instanceof Float64Array
    ? rememberPlaces(lonLat, JSON.stringify(plane), () => projected(plane, lonLat))
    : projected(plane, lonLat)

function projected(plane: ProjectionSpec, lonLat: ArrayLike<number>): Float64Array {
  const projection = createProjection(plane)
  const out = new Float64Array(lonLat.length)
  for (let i = 0; i < lonLat.length; i += 2) {
    const [x, y] = projection.project(lonLat[i], lonLat[i + 1])
    out[i] = x
    out[i + 1] = y
  }
  return out
}

/**
 * The lattice that covers some geometries and a margin round them.
 * @param cell side of a cell, m; enlarged where there would be more than `most` cells
 * @returns null where there is nothing to cover
 */
export function latticeOver(
  geometries: Geometry[],
  { cell, marginM = 0, most = mostCells }: { cell: number; marginM?: number; most?: number },
): Lattice | null {
  const extent = extentOf(geometries)
  if (!extent) return null
  const plane = planeFor(extent)
  const [x0, y0, x1, y1] = boundsIn(plane, geometries)
  if (!(x1 >= x0 && y1 >= y0)) return null
  const [width, height] = [x1 - x0 + 2 * marginM || cell, y1 - y0 + 2 * marginM || cell]
  const side = Math.max(cell, Math.sqrt((width * height) / most), width / longest, height / longest)
  const [columns, rows] = [Math.ceil(width / side), Math.ceil(height / side)].map((n) => Math.max(2, n))
  return {
    plane,
    cell: side,
    columns,
    rows,
    x0: (x0 + x1) / 2 - (columns * side) / 2,
    y0: (y0 + y1) / 2 - (rows * side) / 2,
  }
}

/** More cells than this are seen by nobody, and hold up the drawing. */
export const mostCells = 1_000_000
const longest = 4000

type Bounds = [x0: number, y0: number, x1: number, y1: number]

const rememberBounds = createMemory<Float64Array, Bounds>('bounds in planes', { maxBytes: 2 ** 18 })

/** The bounds of geometries in a plane, by their vertices. */
export function boundsIn(plane: ProjectionSpec, geometries: Geometry[]): Bounds {
  const key = JSON.stringify(plane)
  const all = geometries
    .filter((geometry) => geometry.kind !== 'none')
    .map((geometry) => coordsOf(geometry))
    .map((coords) => rememberBounds(coords, key, () => boundsOf(plane, coords)))
  const least = (side: 0 | 1) => all.reduce((min, bounds) => Math.min(min, bounds[side]), Infinity)
  const most = (side: 2 | 3) => all.reduce((max, bounds) => Math.max(max, bounds[side]), -Infinity)
  return [least(0), least(1), most(2), most(3)]
}

function boundsOf(plane: ProjectionSpec, coords: Float64Array): Bounds {
  const projection = createProjection(plane)
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let i = 0; i < coords.length; i += 2) {
    const [x, y] = projection.project(coords[i], coords[i + 1])
    if (!Number.isFinite(x)) continue
    if (x < x0) x0 = x
    if (x > x1) x1 = x
    if (y < y0) y0 = y
    if (y > y1) y1 = y
  }
  return [x0, y0, x1, y1]
}

/** km² of ground under one cell. */
export const cellKm2 = ({ cell }: Pick<Lattice, 'cell'>): number => (cell / 1000) ** 2

/** The integral of a surface: the sum of its values by km² of ground. */
export function integralOf(grid: Grid): number {
  let sum = 0
  for (const value of grid.values) if (Number.isFinite(value)) sum += value
  return sum * cellKm2(grid)
}

export type GridStatistics = {
  count: number
  missing: number
  min: number
  max: number
  mean: number
  deviation: number
}

/** Figures of the cells that have a value; NaN where none has. */
export function statisticsOf({ values }: Pick<Grid, 'values'>): GridStatistics {
  let [count, min, max, mean, squares] = [0, Infinity, -Infinity, 0, 0]
  for (const value of values) {
    if (!Number.isFinite(value)) continue
    count++
    if (value < min) min = value
    if (value > max) max = value
    // Welford (1962).
    const apart = value - mean
    mean += apart / count
    squares += apart * (value - mean)
  }
  const missing = values.length - count
  if (!count) return { count, missing, min: NaN, max: NaN, mean: NaN, deviation: NaN }
  return { count, missing, min, max, mean, deviation: Math.sqrt(squares / count) }
}

/** Cell by cell, what `of` makes of the values of grids on one lattice. */
export function combined(grids: readonly [Grid, ...Grid[]], of: (...values: number[]) => number): Grid {
  const [first] = grids
  const row = new Array<number>(grids.length)
  const values = new Float64Array(first.values.length)
  for (let i = 0; i < values.length; i++) {
    for (let g = 0; g < grids.length; g++) row[g] = grids[g].values[i]
    values[i] = of(...row)
  }
  return { ...first, values }
}

/**
 * The value at a place of the plane, from the four cells around it; NaN outside of the grid and beside cells without a
 * value. Within half a cell of the edge it is that of the edge.
 */
export function valueAt({ x0, y0, cell, columns, rows, values }: Grid, x: number, y: number): number {
  const [u, v] = [(x - x0) / cell - 0.5, (y - y0) / cell - 0.5]
  if (!(u >= -0.5 && v >= -0.5 && u <= columns - 0.5 && v <= rows - 0.5)) return NaN
  const i = Math.max(0, Math.min(columns - 2, Math.floor(u)))
  const j = Math.max(0, Math.min(rows - 2, Math.floor(v)))
  const a = Math.max(0, Math.min(1, u - i))
  const b = Math.max(0, Math.min(1, v - j))
  const at = j * columns + i
  return (
    (values[at] * (1 - a) + values[at + 1] * a) * (1 - b) +
    (values[at + columns] * (1 - a) + values[at + columns + 1] * a) * b
  )
}

/**
 * The same surface on cells `times` smaller, by cubic convolution (Keys 1981), which goes through the values of the
 * middles; beside cells without a value it is linear. Contours of it are smooth, and as they are contours of one
 * surface they never cross.
 */
export function refined(grid: Grid, times: number): Grid {
  if (times <= 1) return grid
  const { columns, rows, values } = grid
  const [wide, high] = [columns * times, rows * times]
  const across = new Float64Array(wide * rows)
  for (let r = 0; r < rows; r++)
    refineLine(
      (c) => values[r * columns + c],
      columns,
      times,
      (c, v) => (across[r * wide + c] = v),
    )
  const out = new Float64Array(wide * high)
  for (let c = 0; c < wide; c++)
    refineLine(
      (r) => across[r * wide + c],
      rows,
      times,
      (r, v) => (out[r * wide + c] = v),
    )
  return { ...grid, cell: grid.cell / times, columns: wide, rows: high, values: out }
}

function refineLine(
  at: (i: number) => number,
  count: number,
  times: number,
  put: (i: number, value: number) => void,
): void {
  const hold = (i: number) => at(Math.max(0, Math.min(count - 1, i)))
  for (let i = 0; i < count * times; i++) {
    const u = (i + 0.5) / times - 0.5
    const k = Math.floor(u)
    const t = u - k
    const [p, a, b, n] = [hold(k - 1), hold(k), hold(k + 1), hold(k + 2)]
    const cubic = a + 0.5 * t * (b - p + t * (2 * p - 5 * a + 4 * b - n + t * (3 * (a - b) + n - p)))
    // A value that is missing spoils no more than the cells that it lies in.
    const nearer = t < 0.5 ? a : b
    put(i, Number.isNaN(cubic) ? nearer : cubic)
  }
}

/** Places of the middles of all cells in degrees, longitude and latitude by turns; NaN where the plane has none. */
export function middlesOf(lattice: Lattice): Float64Array {
  const projection = createProjection(lattice.plane)
  const out = new Float64Array(2 * lattice.columns * lattice.rows)
  let n = 0
  for (let r = 0; r < lattice.rows; r++)
    for (let c = 0; c < lattice.columns; c++) {
      const place = projection.invert(
        lattice.x0 + (c + 0.5) * lattice.cell,
        lattice.y0 + (r + 0.5) * lattice.cell,
      )
      out[n++] = place ? place[0] : NaN
      out[n++] = place ? place[1] : NaN
    }
  return out
}

/** Whether distances in a plane of these data are those on the ground, to a few parts in a thousand. */
export const isNearlyTrue = ({ id }: ProjectionSpec): boolean => id === 'lambert-azimuthal-equal-area'

/** Degrees of a great circle in metres, on the sphere with the area of the globe. */
export const metresPerDegree = (authalicRadius * Math.PI) / 180
