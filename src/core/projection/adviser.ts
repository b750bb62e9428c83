import type { Extent } from '@/core/geo/geometry'
import type { ProjectionSpec } from './catalogue'

/**
 * An equal-area projection suited to an extent, after Snyder's guideline (1987, chapter 7): the world on a
 * pseudocylindrical, a hemisphere on an azimuthal projection; smaller regions on a cylinder along the equator, on a
 * cone where they stretch east to west in middle latitudes, on a plane otherwise. Standard parallels lie a sixth of
 * the height inside the extent.
 */
export function adviseEqualArea([west, south, east, north]: Extent): ProjectionSpec {
  const centre: [number, number] = [round(centreLongitude(west, east)), round((south + north) / 2)]
  const height = north - south
  const width = (east - west) * Math.cos((centre[1] * Math.PI) / 180)
  const parallels: [number, number] = [round(south + height / 6), round(north - height / 6)]
  if (east - west > 200 || height > 120) return { id: 'equal-earth', centre: [centre[0], 0], parallels: [0, 0] }
  const eastWest = width > 1.15 * height
  const touchesEquator = south < 15 && north > -15 && Math.abs(centre[1]) < 15
  if (width > 80 || height > 80) return { id: 'lambert-azimuthal-equal-area', centre, parallels }
  if (eastWest && touchesEquator) return { id: 'cylindrical-equal-area', centre: [centre[0], 0], parallels: [round(Math.max(Math.abs(south), Math.abs(north)) / 2), 0] }
  const poleFar = Math.abs(centre[1]) < 70 && Math.abs(centre[1]) >= 15
  return eastWest && poleFar ? { id: 'albers-equal-area', centre, parallels } : { id: 'lambert-azimuthal-equal-area', centre, parallels }
}

const centreLongitude = (west: number, east: number): number => {
  const middle = (west + east) / 2
  return middle > 180 ? middle - 360 : middle
}

/** Parameters people read are kept to a quarter of a degree. */
const round = (deg: number): number => Math.round(deg * 4) / 4
