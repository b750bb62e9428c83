import { featureAt } from '@/core/geo/feature-at'
import type { Geometry } from '@/core/geo/geometry'
import { definitionOf } from '@/formats/crs/reproject'
import type { Land } from './land'
import { degreesOf, fromLonLat, toLonLat, type Km } from './mesh'
import { makeTerrain, terrainAt, type Water } from './terrain'
import { writeHeights } from './tiff'

export const noHeight = -9999
const cellMetres = 200
const utm = 'EPSG:32626'
/** Places of cells are reckoned at every so many and go straight between: less than a metre off. */
const stride = 16

/** Heights of the land as a GeoTIFF in UTM zone 26 north, whole metres, the sea left empty. */
export function reliefTiff(land: Land, water: Water, districts: Geometry): Uint8Array {
  const { toDegrees, fromDegrees } = definitionOf(utm)
  if (!toDegrees || !fromDegrees) throw new Error('The reference system is projected.')
  const corners = (
    [
      [-318, -338],
      [312, -338],
      [-318, 300],
      [312, 300],
    ] as Km[]
  ).map((km) => fromDegrees(...(toLonLat(km) as [number, number])))
  const [west, east] = [Math.min(...corners.map(([x]) => x)), Math.max(...corners.map(([x]) => x))].map(
    (x) => Math.round(x / cellMetres) * cellMetres,
  )
  const [south, north] = [Math.min(...corners.map(([, y]) => y)), Math.max(...corners.map(([, y]) => y))].map(
    (y) => Math.round(y / cellMetres) * cellMetres,
  )
  const [columns, rows] = [(east - west) / cellMetres, (north - south) / cellMetres]
  const ground = makeTerrain(land, water, (km) => featureAt(districts, ...degreesOf(km)) >= 0)
  const values = new Int16Array(columns * rows).fill(noHeight)
  const across = Math.ceil(columns / stride) + 1
  const lattice = Array.from({ length: across * (Math.ceil(rows / stride) + 1) }, (_, k) =>
    fromLonLat(
      toDegrees(
        west + ((k % across) * stride + 0.5) * cellMetres,
        north - (Math.floor(k / across) * stride + 0.5) * cellMetres,
      ) as [number, number],
    ),
  )
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const k = Math.floor(r / stride) * across + Math.floor(c / stride)
      const [u, v] = [(c % stride) / stride, (r % stride) / stride]
      const [a, b, d, e] = [lattice[k], lattice[k + 1], lattice[k + across], lattice[k + across + 1]]
      const at: Km = [
        (a[0] * (1 - u) + b[0] * u) * (1 - v) + (d[0] * (1 - u) + e[0] * u) * v,
        (a[1] * (1 - u) + b[1] * u) * (1 - v) + (d[1] * (1 - u) + e[1] * u) * v,
      ]
      const there = terrainAt(ground, at)
      // About the coast the border of the land decides.
      if (!there || (there.coast && featureAt(districts, ...degreesOf(at)) < 0)) continue
      const metres = there.metres + roughness(at, land, there.steep)
      values[r * columns + c] = Math.max(1, Math.round(metres))
    }
  return writeHeights(values, columns, rows, { west, north, cell: cellMetres, epsg: 32626, empty: noHeight })
}

/** Gullies and knolls too small for the worn ground, the larger the steeper it is; m. */
function roughness([x, y]: Km, { noise }: Land, steep: number): number {
  const size = Math.min(26, 0.22 * steep)
  if (size < 0.3) return 0
  return (
    size * (0.7 * noise(x / 0.95, y / 0.95 + 50) + 0.45 * (1 - 2 * Math.abs(noise(x / 1.7 + 30, y / 1.7))))
  )
}
