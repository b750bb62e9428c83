import { gridPlace, rasterAt, type Raster } from '@/core/data/raster'
import { toMetres } from '@/core/geo/paper'
import type { GroundSteps, Heights } from '@/core/grid/relief/gradient'
import { fromDegrees } from '@/core/projection/reference'
import type { DrawContext } from '../kind'
import type { PaperGrid } from '../paint-cells'

/** Places are reckoned exactly at every so many cells, and in between them by straight lines. */
const every = 8

/** Heights at cells on paper, with a margin round them, and what a step from cell to cell is on the ground. */
export type Sample = {
  heights: Heights
  steps: GroundSteps
  /** Cells of margin on each side. */
  margin: number
  /** Ground metres across a cell in the middle. */
  cellM: number
}

/** Semi-major axis, m, and the square of the eccentricity of the ellipsoid (WGS 84). */
const [axis, e2] = [6_378_137, 0.006694379990141316]

/** Metres to a degree of longitude and of latitude, at a latitude: the radii of curvature of the ellipsoid. */
function metresPerDegree(lat: number): [east: number, north: number] {
  const phi = (lat * Math.PI) / 180
  const w = 1 - e2 * Math.sin(phi) ** 2
  const prime = axis / Math.sqrt(w)
  return [(prime * Math.cos(phi) * Math.PI) / 180, ((prime * (1 - e2)) / w) * (Math.PI / 180)]
}

/**
 * Heights of a band of a raster where cells lie on paper. Sampling knows nothing of light: it is the same for every
 * shading.
 */
export function sampleHeights(
  { raster, band }: { raster: Raster; band: number },
  { box, cellMm, columns, rows }: PaperGrid,
  margin: number,
  { projection, to }: Pick<DrawContext, 'projection' | 'to'>,
): Sample {
  const [wide, high] = [columns + 2 * margin, rows + 2 * margin]
  const toSystem = fromDegrees(raster.crs)
  const lonLat = (column: number, row: number): [number, number] | null =>
    projection.invert(...toMetres(to, box.x + (column - margin) * cellMm, box.y + (row - margin) * cellMm))
  const [across, down] = [Math.ceil(wide / every) + 1, Math.ceil(high / every) + 1]
  // Places and steps at the corners of blocks of cells: own column and row, and four lengths on the ground.
  const corners = new Float64Array(6 * across * down).fill(NaN)
  for (let r = 0; r < down; r++)
    for (let c = 0; c < across; c++) {
      const [x, y] = [c * every, r * every]
      const [here, right, below] = [lonLat(x, y), lonLat(x + 1, y), lonLat(x, y + 1)]
      const [left, above] = [lonLat(x - 1, y), lonLat(x, y - 1)]
      if (!here || !right || !below || !left || !above) continue
      const [east, north] = metresPerDegree(here[1])
      const own = gridPlace(raster, ...toSystem(here[0], here[1]))
      const lons = (a: number, b: number): number => (((((b - a) % 360) + 540) % 360) - 180) / 2
      corners.set(
        [
          ...own,
          lons(left[0], right[0]) * east,
          ((right[1] - left[1]) / 2) * north,
          lons(above[0], below[0]) * east,
          ((below[1] - above[1]) / 2) * north,
        ],
        6 * (r * across + c),
      )
    }
  const between = (x: number, y: number, k: number): number => {
    const [c, r] = [Math.min(across - 2, Math.floor(x / every)), Math.min(down - 2, Math.floor(y / every))]
    const [u, v] = [x / every - c, y / every - r]
    const at = (i: number, j: number) => corners[6 * ((r + j) * across + c + i) + k]
    return (at(0, 0) * (1 - u) + at(1, 0) * u) * (1 - v) + (at(0, 1) * (1 - u) + at(1, 1) * u) * v
  }
  const values = new Float64Array(wide * high)
  for (let r = 0; r < high; r++)
    for (let c = 0; c < wide; c++)
      values[r * wide + c] = rasterAt(
        raster,
        band,
        between(c + 0.5, r + 0.5, 0),
        between(c + 0.5, r + 0.5, 1),
      )
  const steps: GroundSteps = (column, row, out) => {
    for (let k = 0; k < 4; k++) out[k] = between(column + 0.5, row + 0.5, k + 2)
  }
  const middle = new Float64Array(4)
  steps(wide / 2, high / 2, middle)
  return {
    heights: { values, columns: wide, rows: high },
    steps,
    margin,
    cellM: Math.hypot(middle[0], middle[1]),
  }
}
