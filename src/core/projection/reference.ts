import type { GeoRawProjection } from 'd3-geo'
import proj4 from 'proj4'
import { z } from 'zod'

const converters = new Map<string, (lon: number, lat: number) => [number, number]>()

/**
 * From degrees of WGS 84 to the coordinates of a reference system given as a proj4 definition; empty: degrees
 * stay.
 */
export function fromDegrees(definition: string): (lon: number, lat: number) => [number, number] {
  if (!definition) return (lon, lat) => [lon, lat]
  const known = converters.get(definition)
  if (known) return known
  const { forward } = proj4(definition)
  const convert = (lon: number, lat: number) => forward([lon, lat]) as [number, number]
  converters.set(definition, convert)
  return convert
}

/** From the coordinates of a reference system to degrees of WGS 84; empty: they are degrees. */
export function toDegrees(definition: string): (x: number, y: number) => [lon: number, lat: number] {
  if (!definition) return (lon, lat) => [lon, lat]
  const { inverse } = proj4(definition)
  return (x, y) => inverse([x, y]) as [number, number]
}

/** A reference system as a map's projection: its code and name in the EPSG list, and its proj4 definition. */
export const ReferenceSystem = z.object({
  code: z.string(),
  name: z.string(),
  proj4: z.string().max(2000).refine(readable, 'not a definition that can be read'),
})
export type ReferenceSystem = z.infer<typeof ReferenceSystem>

function readable(definition: string): boolean {
  try {
    proj4(definition)
    return true
  } catch {
    return false
  }
}

/**
 * What the formulas of the systems keep true, by their names in a definition; others keep nothing for
 * certain.
 */
const kept: Record<string, 'equal-area' | 'conformal' | 'equidistant'> = {
  aea: 'equal-area',
  laea: 'equal-area',
  cea: 'equal-area',
  moll: 'equal-area',
  sinu: 'equal-area',
  eqearth: 'equal-area',
  lcc: 'conformal',
  merc: 'conformal',
  tmerc: 'conformal',
  etmerc: 'conformal',
  utm: 'conformal',
  stere: 'conformal',
  sterea: 'conformal',
  omerc: 'conformal',
  somerc: 'conformal',
  gauss: 'conformal',
  krovak: 'conformal',
  eqdc: 'equidistant',
  aeqd: 'equidistant',
  eqc: 'equidistant',
  longlat: 'equidistant',
}
const families: Record<string, 'conic' | 'azimuthal' | 'cylindrical'> = {
  aea: 'conic',
  lcc: 'conic',
  eqdc: 'conic',
  krovak: 'conic',
  laea: 'azimuthal',
  stere: 'azimuthal',
  sterea: 'azimuthal',
  aeqd: 'azimuthal',
  merc: 'cylindrical',
  tmerc: 'cylindrical',
  etmerc: 'cylindrical',
  utm: 'cylindrical',
  cea: 'cylindrical',
  eqc: 'cylindrical',
  longlat: 'cylindrical',
  omerc: 'cylindrical',
  somerc: 'cylindrical',
}

const metresPerDegree = (6378137 * Math.PI) / 180
const degrees = 180 / Math.PI

/**
 * A definition as a formula for d3: longitudes in radians from the middle meridian, latitudes of the
 * ellipsoid, to metres with y to the north. Units other than the metre are turned into it, degrees at the
 * length that they have on the equator.
 * @throws Error where proj4 cannot read the definition.
 */
export function referenceFormula(definition: string): {
  raw: GeoRawProjection
  centre: [lon: number, lat: number]
  property: 'equal-area' | 'conformal' | 'equidistant' | 'compromise'
  family: 'conic' | 'azimuthal' | 'cylindrical' | 'other'
  /** Degrees from the equator's crossing with the middle meridian beyond which nothing is shown. */
  horizonDeg: number
} {
  const converter = proj4(definition)
  const name = /\+proj=(\w+)/.exec(definition)?.[1] ?? ''
  const said = (key: string): number | null => {
    const value = new RegExp(`\\+${key}=(-?[\\d.]+)`).exec(definition)
    return value ? Number(value[1]) : null
  }
  const zone = said('zone')
  const lon0 = zone === null ? (said('lon_0') ?? said('lonc') ?? 0) : 6 * zone - 183
  const units: Record<string, number> = { m: 1, km: 1000, ft: 0.3048, 'us-ft': 1200 / 3937 }
  const unit =
    name === 'longlat'
      ? metresPerDegree
      : (said('to_meter') ?? units[/\+units=([\w-]+)/.exec(definition)?.[1] ?? 'm'] ?? 1)
  const wrapped = (lon: number): number => (Math.abs(lon) > 180 ? lon - 360 * Math.sign(lon) : lon)
  // Cylinders across the poles have no place for the far side of the globe.
  const across = ['tmerc', 'etmerc', 'utm'].includes(name)
  const forward = (lambda: number, phi: number): [number, number] => {
    if (across && Math.abs(lambda) > 1.4) return [NaN, NaN]
    const [x, y] = converter.forward([wrapped(lambda * degrees + lon0), phi * degrees])
    return [x * unit, y * unit]
  }
  const invert = (x: number, y: number): [number, number] => {
    const [lon, lat] = converter.inverse([x / unit, y / unit])
    return [wrapped(lon - lon0) / degrees, lat / degrees]
  }
  return {
    raw: Object.assign(forward, { invert }) as GeoRawProjection,
    horizonDeg: across ? 80 : 180,
    centre: [wrapped(lon0), 0],
    property: kept[name] ?? 'compromise',
    family: families[name] ?? 'other',
  }
}
