import { featureAt } from '@/core/geo/feature-at'
import type { Geometry } from '@/core/geo/geometry'
import { definitionOf } from '@/formats/crs/reproject'
import { height, type Land } from './land'
import { fromLonLat, toLonLat, type Km } from './mesh'
import { writeHeights } from './tiff'

export const noHeight = -9999
const cellMetres = 700
const utm = 'EPSG:32626'

const smooth = (from: number, to: number, value: number): number => {
  const share = Math.min(1, Math.max(0, (value - from) / (to - from)))
  return share * share * (3 - 2 * share)
}

/**
 * Metres above the sea: a few massifs with ridges on ridges (Musgrave 1993) among rolling lowland, all of it
 * low at the coast.
 */
function elevation([x, y]: Km, land: Land): number {
  const { noise } = land
  const rise = smooth(0, 0.42, Math.max(0, height([x, y], noise)))
  const massif = smooth(-0.25, 0.6, noise(x / 105 + 11, y / 88) + 0.35 * noise(x / 40, y / 40 + 4))
  // Bending the ground a little keeps valleys from running like a maze.
  const [u, v] = [x + 9 * noise(x / 45, y / 45 + 20), y + 9 * noise(x / 45 + 20, y / 45)]
  let [ridges, weight, size] = [0, 1, 46]
  for (let octave = 0; octave < 6; octave++, size /= 2.1) {
    const ridge = (1 - Math.abs(noise(u / size + 7 * octave, v / size - 5 * octave))) ** 2
    ridges += (ridge * weight * size) / 46
    weight = Math.min(1, ridge * 1.6)
  }
  const rolling = 70 + 45 * noise(x / 22, y / 22) + 22 * noise(x / 8, y / 8 + 3)
  return Math.max(
    1,
    Math.round(4 + rise * (rolling * (1 - 0.5 * massif) + 950 * massif * (0.25 + ridges * 0.55))),
  )
}

/** Heights of the land as a GeoTIFF in UTM zone 26 north, whole metres, the sea left empty. */
export function reliefTiff(land: Land, districts: Geometry): Uint8Array {
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
  const values = new Int16Array(columns * rows).fill(noHeight)
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const [lon, lat] = toDegrees(west + (c + 0.5) * cellMetres, north - (r + 0.5) * cellMetres)
      if (featureAt(districts, lon, lat) >= 0)
        values[r * columns + c] = elevation(fromLonLat([lon, lat]), land)
    }
  return writeHeights(values, columns, rows, { west, north, cell: cellMetres, epsg: 32626, empty: noHeight })
}
