import { featureAt } from '@/core/geo/feature-at'
import type { Geometry } from '@/core/geo/geometry'
import { coverAt } from './cover'
import type { Ground } from './erosion'
import type { Land } from './land'
import { degreesOf, type Km } from './mesh'
import { terrainAt } from './terrain'
import { writeHeights, writeKinds } from './tiff'
import { utmGrid } from './utm-grid'

export const noHeight = -9999
const epsg = 32626

/** What the rasters of the country are made from. */
export type Made = { land: Land; ground: Ground; districts: Geometry }

/** Heights of the land as a GeoTIFF in UTM zone 26 north, whole metres, the sea left empty. */
export function reliefTiff({ land, ground, districts }: Made): Uint8Array {
  const grid = utmGrid(200)
  const values = new Int16Array(grid.columns * grid.rows).fill(noHeight)
  grid.visit((i, at) => {
    const there = terrainAt(ground, at)
    // About the coast the border of the land decides.
    if (!there || (there.coast && featureAt(districts, ...degreesOf(at)) < 0)) return
    values[i] = Math.max(1, Math.round(there.metres + roughness(at, land, there.steep)))
  })
  return writeHeights(values, grid, { epsg, empty: noHeight })
}

/** What grows on the land, as a GeoTIFF of kinds with colours, the sea left empty. */
export function coverTiff({ land, ground, districts }: Made): Uint8Array {
  const grid = utmGrid(600)
  const values = new Uint8Array(grid.columns * grid.rows)
  grid.visit((i, at) => {
    const there = terrainAt(ground, at)
    if (!there || (there.coast && featureAt(districts, ...degreesOf(at)) < 0)) return
    values[i] = coverAt(at, land, there)
  })
  return writeKinds(values, grid, { epsg, empty: 0 })
}

/** Gullies and knolls too small for the worn ground, the larger the steeper it is; m. */
function roughness([x, y]: Km, { noise }: Land, steep: number): number {
  const size = Math.min(26, 0.22 * steep)
  if (size < 0.3) return 0
  return (
    size * (0.7 * noise(x / 0.95, y / 0.95 + 50) + 0.45 * (1 - 2 * Math.abs(noise(x / 1.7 + 30, y / 1.7))))
  )
}
