import { geodesicMetres } from '@/core/projection/ground'
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
