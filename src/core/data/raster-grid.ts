import { extentOf } from '@/core/geo/extent'
import { middlesOf, planeFor, valueAt, type Grid } from '@/core/grid/grid'
import type { Steps } from '@/core/grid/steps'
import { createProjection } from '@/core/projection/projection'
import { cellsOfBand, rasterAt, type Raster } from './raster'
import { cellsOf, finestLevel, levelFor, levelHeld, sizeOf, withSeam } from './raster-cells'
import { cellDegrees, cellMetres, cellPlace, goesRound } from './raster-ground'

/** As many cells as are worth it for a map, whatever is asked for. */
const most = 400_000

/** Side of a cell, m (null for about that of the raster), and how many cells there may be. */
type Wanted = { cellM: number | null; cells?: number }

/** Rows of a grid that are read together. */
const rowsAtOnce = 64

/** A band of a raster on a grid of an equal-area plane, from the level of detail that has cells of about its size. */
export function* gridOfRaster(raster: Raster, band: number, wanted: Wanted): Steps<Grid | null> {
  const lattice = latticeOfRaster(raster, wanted)
  if (!lattice) return null
  const { plane, x0, y0, cell, columns, rows } = lattice
  const projection = createProjection(plane)
  const values = new Float64Array(columns * rows)
  const place = cellPlace(raster)
  const level = levelFor(raster, cell / cellMetres(raster))
  const scale = 2 ** (levelHeld(raster) - level)
  const places = new Float64Array(2 * columns * rowsAtOnce)
  const round = goesRound(raster)
  for (let top = 0; top < rows; top += rowsAtOnce) {
    yield top / rows
    const count = columns * Math.min(rowsAtOnce, rows - top)
    const window = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity }
    for (let i = 0; i < count; i++) {
      const [c, r] = [i % columns, top + Math.floor(i / columns)]
      const at = projection.invert(x0 + (c + 0.5) * cell, y0 + (r + 0.5) * cell)
      const [x, y] = at ? place(...at) : [NaN, NaN]
      places[2 * i] = x
      places[2 * i + 1] = y
      if (!(x >= 0 && y >= 0 && x <= raster.columns && y <= raster.rows)) continue
      if (x < window.left) window.left = x
      if (x > window.right) window.right = x
      if (y < window.top) window.top = y
      if (y > window.bottom) window.bottom = y
    }
    const room = 2 / scale
    const read = cellsOf(raster, {
      ...{ band, level },
      window: {
        ...{ left: round ? 0 : window.left - room, right: round ? raster.columns : window.right + room },
        ...{ top: window.top - room, bottom: window.bottom + room },
      },
    })
    const cells = round ? withSeam(read) : read
    for (let i = 0; i < count; i++)
      values[top * columns + i] = rasterAt(
        cells,
        0,
        places[2 * i] * scale - cells.left,
        places[2 * i + 1] * scale - cells.top,
      )
  }
  return { ...lattice, values }
}

/** The cells of `gridOfRaster`, without their values. */
export function latticeOfRaster(
  raster: Raster,
  { cellM, cells = most }: Wanted,
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
  const { columns: wide, rows: high } = sizeOf(raster, finestLevel(raster))
  const own = Math.sqrt(ground / Math.min(cells, wide * high))
  const cell = Math.max(cellM ?? own, Math.sqrt(ground / Math.max(most, cells)))
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

/**
 * How many lines of a raster's own cells are lost on a coarser grid: those round a single held cell that is higher or
 * lower than the eight about it, at levels (multiples of `step`) that it reaches and the nine nearest cells of the
 * grid do not.
 */
export function linesLost(raster: Raster, band: number, grid: Grid, step: number): number {
  const cells = cellsOfBand(raster, band)
  const { columns, rows } = raster
  const place = cellDegrees(raster)
  const projection = createProjection(grid.plane)
  const around = [-columns - 1, -columns, -columns + 1, -1, 1, columns - 1, columns, columns + 1]
  let lost = 0
  for (let row = 1; row < rows - 1; row++)
    for (let column = 1; column < columns - 1; column++) {
      const at = row * columns + column
      const value = cells[at]
      const isPeak = around.every((step) => cells[at + step] < value)
      if (!isPeak && !around.every((step) => cells[at + step] > value)) continue
      const [x, y] = projection.project(...place(column, row))
      const near = valuesAround(grid, (x - grid.x0) / grid.cell, (y - grid.y0) / grid.cell)
      if (!near.length) continue
      const levels = isPeak
        ? Math.floor(value / step) - Math.floor(Math.max(...near) / step)
        : Math.ceil(Math.min(...near) / step) - Math.ceil(value / step)
      lost += Math.max(0, levels)
    }
  return lost
}

/** The values of the nine cells of a grid about a place in it. */
function valuesAround({ columns, rows, values }: Grid, x: number, y: number): number[] {
  const near: number[] = []
  for (let r = Math.floor(y) - 1; r <= Math.floor(y) + 1; r++)
    for (let c = Math.floor(x) - 1; c <= Math.floor(x) + 1; c++) {
      const value = r >= 0 && c >= 0 && r < rows && c < columns ? values[r * columns + c] : NaN
      if (!Number.isNaN(value)) near.push(value)
    }
  return near
}
