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
  type GeoRawProjection,
} from 'd3-geo'
import {
  geoHomolosineRaw,
  geoMillerRaw,
  geoPolyconicRaw,
  geoSinusoidalRaw,
  geoWinkel3Raw,
} from 'd3-geo-projection'
import { z } from 'zod'
import {
  cylindricalEqualAreaRaw,
  eckert4Raw,
  equidistantCylindricalRaw,
  mollweideRaw,
  robinsonRaw,
  stereographicRaw,
  transverseMercatorRaw,
} from './formulas'
import type { Lobe } from './frame'
import { interrupted, landLobes } from './interrupted'
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
  'interrupted-homolosine',
  'interrupted-mollweide',
  'interrupted-sinusoidal',
  'oblique-mollweide',
  'oblique-cylindrical-equal-area',
  'oblique-mercator',
] as const
export type ProjectionId = (typeof projectionIds)[number]

/** A projection with its parameters, in degrees. `parallels` counts only for those that have some. */
export const ProjectionSpec = z.object({
  id: z.enum(projectionIds),
  centre: z.tuple([z.number(), z.number().min(-90).max(90)]),
  parallels: z.tuple([z.number().min(-90).max(90), z.number().min(-90).max(90)]),
  /** Degrees by which the map is turned, clockwise on the page. */
  turnDeg: z.number().min(-180).max(180).optional(),
  /** Degrees by which the globe is turned about the middle before it is projected, in oblique aspects. */
  tiltDeg: z.number().min(-180).max(180).optional(),
  /** A reference system in place of the projection called `id`; its parameters are its own. */
  system: ReferenceSystem.optional(),
})
export type ProjectionSpec = z.infer<typeof ProjectionSpec>

export type Family = 'conic' | 'azimuthal' | 'cylindrical' | 'pseudocylindrical' | 'interrupted' | 'other'
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
  /** The parts of the globe that are shown side by side, in degrees from the middle; without, all of it. */
  lobes?: (parallels: [number, number]) => Lobe[]
  /** Whether the globe may be turned about the middle as well (`tiltDeg`). */
  oblique?: boolean
  /** Whether the formula is that of the ellipsoid and gives metres. */
  ellipsoidal?: boolean
  /** The formula for the unit sphere, in radians. */
  raw: (parallels: [number, number]) => GeoRawProjection
}

/** All but a disc of a hundred metres opposite the middle. */
const antipode = 179.999

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
  // A plane that shows the whole globe is torn at the point opposite its middle.
  horizonDeg: family === 'azimuthal' ? antipode : 180,
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
  mollweide: entry('Mollweide', 'pseudocylindrical', 'equal-area', { raw: plain(mollweideRaw) }),
  sinusoidal: entry('Sinusoidal', 'pseudocylindrical', 'equal-area', { raw: plain(geoSinusoidalRaw) }),
  'eckert-4': entry('Eckert IV', 'pseudocylindrical', 'equal-area', { raw: plain(eckert4Raw) }),
  'lambert-conformal-conic': entry('Lambert conformal conic', 'conic', 'conformal', {
    raw: ([a, b]) => geoConicConformalRaw(a, b),
    // The other pole lies at infinity.
    more: { lobes: ([a, b]) => (a + b >= 0 ? [within(-65, 90)] : [within(-90, 65)]) },
  }),
  mercator: entry('Mercator', 'cylindrical', 'conformal', {
    raw: plain(geoMercatorRaw),
    // The poles lie at infinity; this makes the world a square.
    more: { lobes: () => [within(-85.0511, 85.0511)] },
  }),
  'transverse-mercator': entry('Transverse Mercator', 'cylindrical', 'conformal', {
    raw: plain(transverseMercatorRaw),
    more: { horizonDeg: 80 },
  }),
  stereographic: entry('Stereographic', 'azimuthal', 'conformal', {
    raw: plain(stereographicRaw),
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
  robinson: entry('Robinson', 'pseudocylindrical', 'compromise', { raw: plain(robinsonRaw) }),
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
  'interrupted-homolosine': entry('Interrupted homolosine', 'interrupted', 'equal-area', {
    raw: plain(interrupted(geoHomolosineRaw, landLobes)),
    more: { lobes: () => landLobes },
  }),
  'interrupted-mollweide': entry('Interrupted Mollweide', 'interrupted', 'equal-area', {
    raw: plain(interrupted(mollweideRaw, landLobes)),
    more: { lobes: () => landLobes },
  }),
  'interrupted-sinusoidal': entry('Interrupted sinusoidal', 'interrupted', 'equal-area', {
    raw: plain(interrupted(geoSinusoidalRaw, landLobes)),
    more: { lobes: () => landLobes },
  }),
  'oblique-mollweide': entry('Oblique Mollweide', 'pseudocylindrical', 'equal-area', {
    raw: plain(mollweideRaw),
    more: { turnsToCentre: true, oblique: true },
  }),
  'oblique-cylindrical-equal-area': entry('Oblique cylindrical equal-area', 'cylindrical', 'equal-area', {
    raw: ([a]) => cylindricalEqualAreaRaw(a),
    more: { turnsToCentre: true, oblique: true, parallels: 1 },
  }),
  'oblique-mercator': entry('Oblique Mercator', 'cylindrical', 'conformal', {
    raw: plain(geoMercatorRaw),
    more: { turnsToCentre: true, oblique: true, lobes: () => [within(-85.0511, 85.0511)] },
  }),
}

/** All around the globe, between two parallels. */
const within = (south: number, north: number): Lobe => ({ west: -180, east: 180, south, north })

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
