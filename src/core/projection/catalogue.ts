import {
  geoAzimuthalEqualAreaRaw,
  geoAzimuthalEquidistantRaw,
  geoConicConformalRaw,
  geoConicEqualAreaRaw,
  geoConicEquidistantRaw,
  geoEqualEarthRaw,
  geoGnomonicRaw,
  geoMercatorRaw,
  geoNaturalEarth1Raw,
  geoOrthographicRaw,
  geoStereographicRaw,
  type GeoRawProjection,
} from 'd3-geo'
import {
  geoEckert4Raw,
  geoMillerRaw,
  geoMollweideRaw,
  geoPolyconicRaw,
  geoRobinsonRaw,
  geoSinusoidalRaw,
  geoWinkel3Raw,
} from 'd3-geo-projection'
import { z } from 'zod'
import { referenceFormula, ReferenceSystem } from './reference'

export const projectionIds = [
  'albers-equal-area',
  'lambert-azimuthal-equal-area',
  'cylindrical-equal-area',
  'equal-earth',
  'mollweide',
  'sinusoidal',
  'eckert-4',
  'lambert-conformal-conic',
  'mercator',
  'transverse-mercator',
  'stereographic',
  'equidistant-conic',
  'azimuthal-equidistant',
  'equidistant-cylindrical',
  'robinson',
  'natural-earth',
  'winkel-tripel',
  'miller',
  'polyconic',
  'orthographic',
  'gnomonic',
] as const
export type ProjectionId = (typeof projectionIds)[number]

/** A projection with its parameters, in degrees. `parallels` counts only for those that have some. */
export const ProjectionSpec = z.object({
  id: z.enum(projectionIds),
  centre: z.tuple([z.number(), z.number().min(-90).max(90)]),
  parallels: z.tuple([z.number().min(-90).max(90), z.number().min(-90).max(90)]),
  /** Degrees by which the map is turned, clockwise on the page. */
  turnDeg: z.number().min(-180).max(180).optional(),
  /** A reference system in place of the projection called `id`; its parameters are its own. */
  system: ReferenceSystem.optional(),
})
export type ProjectionSpec = z.infer<typeof ProjectionSpec>

export type Family = 'conic' | 'azimuthal' | 'cylindrical' | 'pseudocylindrical' | 'other'
export type Property = 'equal-area' | 'conformal' | 'equidistant' | 'compromise'

export type CatalogueEntry = {
  label: string
  family: Family
  /** What the projection keeps true. */
  property: Property
  /**
   * Whether the sphere is turned so that the centre's latitude comes to the middle, or its longitude only.
   */
  turnsToCentre: boolean
  /** How many standard parallels it has. */
  parallels: 0 | 1 | 2
  /** Degrees from the centre beyond which nothing is shown; 180 shows the world. */
  horizonDeg: number
  /** Whether the formula is that of the ellipsoid and gives metres. */
  ellipsoidal?: boolean
  /** The formula for the unit sphere, in radians. */
  raw: (parallels: [number, number]) => GeoRawProjection
}

// The library's types give some formulas as functions without arguments; all take longitude and latitude.
const formula = (raw: unknown): GeoRawProjection => raw as GeoRawProjection

const entry = (
  label: string,
  family: Family,
  property: Property,
  { raw, more = {} }: { raw: CatalogueEntry['raw']; more?: Partial<CatalogueEntry> },
): CatalogueEntry => ({
  label,
  family,
  property,
  raw,
  turnsToCentre: family === 'azimuthal',
  parallels: family === 'conic' ? 2 : 0,
  horizonDeg: 180,
  ...more,
})
// d3 hands out the azimuthal formulas without their types.
const plain =
  (raw: unknown): CatalogueEntry['raw'] =>
  () =>
    raw as GeoRawProjection

/** Every projection, one line each; numbers of sections are those of Snyder (1987). */
export const projections: Record<ProjectionId, CatalogueEntry> = {
  'albers-equal-area': entry('Albers equal-area', 'conic', 'equal-area', {
    raw: ([a, b]) => geoConicEqualAreaRaw(a, b),
  }),
  'lambert-azimuthal-equal-area': entry('Lambert azimuthal equal-area', 'azimuthal', 'equal-area', {
    raw: plain(geoAzimuthalEqualAreaRaw),
  }),
  'cylindrical-equal-area': entry('Cylindrical equal-area', 'cylindrical', 'equal-area', {
    raw: ([a]) => cylindricalEqualAreaRaw(a),
    more: { parallels: 1 },
  }),
  'equal-earth': entry('Equal Earth', 'pseudocylindrical', 'equal-area', { raw: plain(geoEqualEarthRaw) }),
  mollweide: entry('Mollweide', 'pseudocylindrical', 'equal-area', { raw: plain(geoMollweideRaw) }),
  sinusoidal: entry('Sinusoidal', 'pseudocylindrical', 'equal-area', { raw: plain(geoSinusoidalRaw) }),
  'eckert-4': entry('Eckert IV', 'pseudocylindrical', 'equal-area', { raw: plain(geoEckert4Raw) }),
  'lambert-conformal-conic': entry('Lambert conformal conic', 'conic', 'conformal', {
    raw: ([a, b]) => geoConicConformalRaw(a, b),
  }),
  mercator: entry('Mercator', 'cylindrical', 'conformal', {
    raw: plain(withinLatitude(formula(geoMercatorRaw), 85.0511)),
  }),
  'transverse-mercator': entry('Transverse Mercator', 'cylindrical', 'conformal', {
    raw: plain(transverseMercatorRaw()),
    more: { horizonDeg: 80 },
  }),
  stereographic: entry('Stereographic', 'azimuthal', 'conformal', {
    raw: plain(doubled(formula(geoStereographicRaw))),
    more: { horizonDeg: 142 },
  }),
  'equidistant-conic': entry('Equidistant conic', 'conic', 'equidistant', {
    raw: ([a, b]) => geoConicEquidistantRaw(a, b),
  }),
  'azimuthal-equidistant': entry('Azimuthal equidistant', 'azimuthal', 'equidistant', {
    raw: plain(geoAzimuthalEquidistantRaw),
  }),
  'equidistant-cylindrical': entry('Equidistant cylindrical', 'cylindrical', 'equidistant', {
    raw: ([a]) => equidistantCylindricalRaw(a),
    more: { parallels: 1 },
  }),
  robinson: entry('Robinson', 'pseudocylindrical', 'compromise', { raw: plain(geoRobinsonRaw) }),
  'natural-earth': entry('Natural Earth', 'pseudocylindrical', 'compromise', {
    raw: plain(geoNaturalEarth1Raw),
  }),
  'winkel-tripel': entry('Winkel tripel', 'other', 'compromise', { raw: plain(geoWinkel3Raw) }),
  miller: entry('Miller cylindrical', 'cylindrical', 'compromise', { raw: plain(geoMillerRaw) }),
  polyconic: entry('Polyconic', 'other', 'compromise', { raw: plain(geoPolyconicRaw) }),
  orthographic: entry('Orthographic', 'azimuthal', 'compromise', {
    raw: plain(geoOrthographicRaw),
    more: {
      horizonDeg: 89.9,
    },
  }),
  gnomonic: entry('Gnomonic', 'azimuthal', 'compromise', {
    raw: plain(geoGnomonicRaw),
    more: { horizonDeg: 60 },
  }),
}

/** Lambert's cylindrical equal-area projection, true along the parallels ±`parallel` (section 10). */
function cylindricalEqualAreaRaw(parallel: number): GeoRawProjection {
  const c = Math.cos(parallel)
  return rawOf(
    (lambda, phi) => [lambda * c, Math.sin(phi) / c],
    (x, y) => [x / c, Math.asin(Math.max(-1, Math.min(1, y * c)))],
  )
}

/** Parallels at their distances, the given one of true length (section 12). */
function equidistantCylindricalRaw(parallel: number): GeoRawProjection {
  const c = Math.cos(parallel)
  return rawOf(
    (lambda, phi) => [lambda * c, phi],
    (x, y) => [x / c, y],
  )
}

/** The cylinder along a meridian (section 8, equations 8-1 to 8-7). */
function transverseMercatorRaw(): GeoRawProjection {
  return rawOf(
    (lambda, phi) => [
      Math.atanh(Math.max(-0.9999999, Math.min(0.9999999, Math.cos(phi) * Math.sin(lambda)))),
      Math.atan2(Math.tan(phi), Math.cos(lambda)),
    ],
    (x, y) => [Math.atan2(Math.sinh(x), Math.cos(y)), Math.asin(Math.sin(y) / Math.cosh(x))],
  )
}

/** The stereographic formula with its usual scale of 1 at the centre. */
function doubled(raw: GeoRawProjection): GeoRawProjection {
  const twice = (lambda: number, phi: number): [number, number] => {
    const [x, y] = raw(lambda, phi)
    return [2 * x, 2 * y]
  }
  return rawOf(twice, (x, y) => raw.invert?.(x / 2, y / 2) as [number, number])
}

/** Latitudes beyond a limit are shown at it: the poles would lie infinitely far away. */
function withinLatitude(raw: GeoRawProjection, deg: number): GeoRawProjection {
  const limit = (deg * Math.PI) / 180
  return rawOf(
    (lambda, phi) => raw(lambda, Math.max(-limit, Math.min(limit, phi))),
    (x, y) => raw.invert?.(x, y) as [number, number],
  )
}

function rawOf(
  forward: (lambda: number, phi: number) => [number, number],
  invert: (x: number, y: number) => [number, number],
): GeoRawProjection {
  return Object.assign(forward, { invert }) as GeoRawProjection
}

const systems = new Map<string, CatalogueEntry>()

/** The entry of the catalogue for a projection, or one for its reference system. */
export function entryOf({ id, system }: ProjectionSpec): CatalogueEntry {
  if (!system) return projections[id]
  const known = systems.get(system.proj4)
  if (known && known.label === system.name) return known
  const { raw, family, property, horizonDeg } = referenceFormula(system.proj4)
  const made: CatalogueEntry = entry(system.name, family, property, {
    raw: () => raw,
    more: {
      turnsToCentre: false,
      parallels: 0,
      horizonDeg,
      ellipsoidal: true,
    },
  })
  systems.set(system.proj4, made)
  return made
}

/** Whether areas can be compared. */
export const keepsAreas = (spec: ProjectionSpec): boolean => entryOf(spec).property === 'equal-area'
