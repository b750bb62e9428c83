import { extentOf } from '@/core/geo/extent'
import type { Extent, Geometry } from '@/core/geo/geometry'
import type { GroundSteps } from '@/core/grid/relief/gradient'
import { createMemory } from '@/core/memory/memory'
import { geodesicMetres, metresPerDegree } from '@/core/projection/ground'
import { fromDegrees, toDegrees } from '@/core/projection/reference'
import { gridPlace, type Raster } from './raster'
import { finestLevel, levelHeld } from './raster-cells'

/** The smallest extent about a raster's edge, over the date line as well; degrees. */
export function extentOfRaster({ edge }: Pick<Raster, 'edge'>): Extent {
  const geometry: Geometry = { kind: 'points', coords: edge, featureStarts: new Uint32Array(0) }
  return extentOf([geometry]) ?? [0, 0, 0, 0]
}

/** How wide a held cell is on the ground, about: the square root of its share of the edge's extent. */
export function cellMetres({ edge, columns, rows }: Raster): number {
  const [west, south, east, north] = extentOfRaster({ edge })
  const middle = (south + north) / 2
  // Geodesics go the shorter way round: half of what goes round the globe is measured twice.
  const half = geodesicMetres([west, middle], [(west + east) / 2, middle])
  const high = geodesicMetres([west, south], [west, north])
  return Math.max(1e-6, Math.sqrt(((2 * half) / columns) * (high / rows)))
}

/** Held columns in a round of the globe; 0 for a raster in a projected system. */
export const periodOf = ({ crs, transform }: Raster): number => (crs ? 0 : 360 / Math.abs(transform[1] || 1))

/** Whether a raster goes once round the globe, so that its last column lies beside the first. */
export const goesRound = (raster: Raster): boolean =>
  !raster.crs && Math.abs(raster.columns - periodOf(raster)) < 0.75

/** How wide the finest cell that can be read is on the ground, about. */
export const finestMetres = (raster: Raster): number =>
  cellMetres(raster) * 2 ** (finestLevel(raster) - levelHeld(raster))

/** The middle of what lies within a raster's edge, degrees. */
export function middleOfRaster(raster: Pick<Raster, 'edge'>): [lon: number, lat: number] {
  const [west, south, east, north] = extentOfRaster(raster)
  return [(west + east) / 2, (south + north) / 2]
}

/** Where the middle of a held cell lies, degrees; fractions of cells are allowed. */
export function cellDegrees(raster: Raster): (column: number, row: number) => [lon: number, lat: number] {
  const [t0, t1, t2, t3, t4, t5] = raster.transform
  const back = toDegrees(raster.crs)
  return (column, row) => {
    const [c, r] = [column + 0.5, row + 0.5]
    return back(t0 + t1 * c + t2 * r, t3 + t4 * c + t5 * r)
  }
}

/** The other way round: column and row of the held cells at a place in degrees, over the date line as well. */
export function cellPlace(raster: Raster): (lon: number, lat: number) => [column: number, row: number] {
  const toSystem = fromDegrees(raster.crs)
  const period = periodOf(raster)
  return (lon, lat) => {
    const [column, row] = gridPlace(raster, ...toSystem(lon, lat))
    // A place on the last edge of what goes round the globe stays there.
    const rounds = period && (column < 0 || column > period) ? Math.floor(column / period) : 0
    return [column - period * rounds, row]
  }
}

/** What a step of one held cell is on the ground, for gradients in the raster's own rows and columns. */
export function groundStepsOf(raster: Raster): GroundSteps {
  const place = cellDegrees(raster)
  return (column, row, out) => {
    const [lon, lat] = place(column, row)
    const [east, north] = metresPerDegree(lat)
    const [right, below] = [place(column + 1, row), place(column, row + 1)]
    const [left, above] = [place(column - 1, row), place(column, row - 1)]
    const lons = (a: number, b: number): number => (((((b - a) % 360) + 540) % 360) - 180) / 2
    out[0] = lons(left[0], right[0]) * east
    out[1] = ((right[1] - left[1]) / 2) * north
    out[2] = lons(above[0], below[0]) * east
    out[3] = ((below[1] - above[1]) / 2) * north
    if (lon !== lon) out.fill(NaN)
  }
}

/** Places along each side of a raster at which the ground under a cell is measured; between them it changes evenly. */
const measured = 33

/**
 * The ground under a held cell, m²: in degrees by its row, in other systems between cells that are measured. NaN where
 * a cell lies nowhere.
 */
export function cellGround(raster: Raster): (column: number, row: number) => number {
  const { columns, rows, crs, transform } = raster
  const steps = groundStepsOf(raster)
  const out = new Float64Array(4)
  const exact = (column: number, row: number): number => {
    steps(column, row, out)
    return Math.abs(out[0] * out[3] - out[1] * out[2])
  }
  if (!crs && transform[2] === 0 && transform[4] === 0) {
    const byRow = Float64Array.from({ length: rows }, (_, row) => {
      const lat = transform[3] + transform[5] * (row + 0.5)
      const [east, north] = metresPerDegree(lat)
      return Math.abs(transform[1] * east * transform[5] * north)
    })
    return (_, row) => byRow[row]
  }
  const at = (k: number, cells: number): number => ((cells - 1) * k) / (measured - 1)
  const ground = Float64Array.from({ length: measured * measured }, (_, i) =>
    exact(at(i % measured, columns), at(Math.floor(i / measured), rows)),
  )
  return (column, row) => {
    const x = columns > 1 ? (column * (measured - 1)) / (columns - 1) : 0
    const y = rows > 1 ? (row * (measured - 1)) / (rows - 1) : 0
    const [c, r] = [Math.min(measured - 2, Math.floor(x)), Math.min(measured - 2, Math.floor(y))]
    const [u, v, k] = [x - c, y - r, r * measured + c]
    return (
      (ground[k] * (1 - u) + ground[k + 1] * u) * (1 - v) +
      (ground[k + measured] * (1 - u) + ground[k + measured + 1] * u) * v
    )
  }
}

const remember = createMemory<Float32Array, Float32Array>('ground of cells', { maxBytes: 32 * 2 ** 20 })

/** The ground under each held cell, m², row by row; the same for all bands, and kept with the raster. */
export const groundOfCells = (raster: Raster): Float32Array =>
  remember(raster.values, '', () => {
    const { columns, rows } = raster
    const ground = cellGround(raster)
    return Float32Array.from({ length: columns * rows }, (_, i) =>
      ground(i % columns, Math.floor(i / columns)),
    )
  })
