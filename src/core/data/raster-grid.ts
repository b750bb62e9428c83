import { extentOf } from '@/core/geo/extent'
import { middlesOf, planeFor, valueAt, type Grid } from '@/core/grid/grid'
import type { Steps } from '@/core/grid/steps'
import { createProjection } from '@/core/projection/projection'
import { fromDegrees } from '@/core/projection/reference'
import { gridPlace, rasterAt, type Raster } from './raster'

/** As many cells as are worth it, whatever is asked for. */
const most = 400_000

/**
 * A band of a raster on a grid of an equal-area plane.
 * @param cellM side of a cell, m; null takes as many cells as the raster has, at most `cells`
 */
export function* gridOfRaster(
  raster: Raster,
  band: number,
  { cellM, cells = most }: { cellM: number | null; cells?: number },
): Steps<Grid | null> {
  const lattice = latticeOfRaster(raster, { cellM, cells })
  if (!lattice) return null
  const { plane, x0, y0, cell, columns, rows } = lattice
  const projection = createProjection(plane)
  const values = new Float64Array(columns * rows)
  const toSystem = fromDegrees(raster.crs)
  for (let r = 0; r < rows; r++) {
    yield r / rows
    for (let c = 0; c < columns; c++) {
      const at = projection.invert(x0 + (c + 0.5) * cell, y0 + (r + 0.5) * cell)
      values[r * columns + c] = at
        ? rasterAt(raster, band, ...gridPlace(raster, ...toSystem(at[0], at[1])))
        : NaN
    }
  }
  return { ...lattice, values }
}

/** The cells of `gridOfRaster`, without their values. */
export function latticeOfRaster(
  raster: Raster,
  { cellM, cells = most }: { cellM: number | null; cells?: number },
): Omit<Grid, 'values'> | null {
  const { edge } = raster
  const extent = extentOf([{ kind: 'points', coords: edge, featureStarts: new Uint32Array(0) }])
  if (!extent) return null
  const plane = planeFor(extent)
  const projection = createProjection(plane)
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let i = 0; i < edge.length; i += 2) {
    const [x, y] = projection.project(edge[i], edge[i + 1])
    if (!Number.isFinite(x)) continue
    x0 = Math.min(x0, x)
    x1 = Math.max(x1, x)
    y0 = Math.min(y0, y)
    y1 = Math.max(y1, y)
  }
  const ground = (x1 - x0) * (y1 - y0)
  const own = Math.sqrt(ground / Math.min(cells, raster.columns * raster.rows))
  const cell = Math.max(cellM ?? own, Math.sqrt(ground / most))
  if (!(cell > 0)) return null
  const [columns, rows] = [x1 - x0, y1 - y0].map((side) => Math.max(2, Math.ceil(side / cell)))
  return { plane, x0, y0, cell, columns, rows }
}

/** A grid as a raster in degrees with about as many cells; null where it goes round the globe. */
export function rasterOfGrid(grid: Grid): Raster | null {
  const middles = middlesOf(grid)
  const coords = middles.filter((_, i) => !Number.isNaN(middles[i]))
  const extent = extentOf([{ kind: 'points', coords, featureStarts: new Uint32Array(0) }])
  if (!extent || extent[2] - extent[0] > 300) return null
  const [west, south, east, north] = extent
  const { columns, rows } = grid
  const projection = createProjection(grid.plane)
  const [dx, dy] = [(east - west) / columns, (north - south) / rows]
  const values = new Float32Array(columns * rows)
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++)
      values[r * columns + c] = valueAt(
        grid,
        ...projection.project(west + (c + 0.5) * dx, north - (r + 0.5) * dy),
      )
  const steps = 20
  const edge = Array.from({ length: steps + 1 }, (_, i) => {
    const [x, y] = [west + ((east - west) * i) / steps, south + ((north - south) * i) / steps]
    return [x, south, x, north, west, y, east, y]
  }).flat()
  return {
    crs: '',
    columns,
    rows,
    bands: 1,
    transform: Float64Array.of(west, dx, 0, north, 0, -dy),
    values,
    edge: Float64Array.from(edge),
    fileSize: Uint32Array.of(columns, rows),
  }
}
