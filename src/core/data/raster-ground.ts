import type { GroundSteps } from '@/core/grid/relief/gradient'
import { geodesicMetres, metresPerDegree } from '@/core/projection/ground'
import { toDegrees } from '@/core/projection/reference'
import type { Raster } from './raster'

/** How wide a held cell is on the ground, about: the square root of its share of the edge's extent. */
export function cellMetres({ edge, columns, rows }: Raster): number {
  let [west, south, east, north] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let i = 0; i < edge.length; i += 2) {
    west = Math.min(west, edge[i])
    east = Math.max(east, edge[i])
    south = Math.min(south, edge[i + 1])
    north = Math.max(north, edge[i + 1])
  }
  const middle = (south + north) / 2
  const wide = geodesicMetres([west, middle], [Math.min(east, west + 179), middle])
  const high = geodesicMetres([west, south], [west, north])
  return Math.max(1e-6, Math.sqrt((wide / columns) * (high / rows)))
}

/** The middle of what lies within a raster's edge, degrees. */
export function middleOfRaster({ edge }: Pick<Raster, 'edge'>): [lon: number, lat: number] {
  const [lons, lats] = [edge.filter((_, i) => i % 2 === 0), edge.filter((_, i) => i % 2 === 1)]
  return [(Math.min(...lons) + Math.max(...lons)) / 2, (Math.min(...lats) + Math.max(...lats)) / 2]
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
