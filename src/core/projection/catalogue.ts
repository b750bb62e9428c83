import { geoAzimuthalEqualAreaRaw, geoConicEqualAreaRaw, geoEqualEarthRaw, type GeoRawProjection } from 'd3-geo'
import { z } from 'zod'

/** A projection with its parameters, in degrees. `parallels` counts only for conic projections. */
export const ProjectionSpec = z.object({
  id: z.enum(['albers-equal-area', 'lambert-azimuthal-equal-area', 'cylindrical-equal-area', 'equal-earth']),
  centre: z.tuple([z.number(), z.number().min(-90).max(90)]),
  parallels: z.tuple([z.number().min(-90).max(90), z.number().min(-90).max(90)]),
})
export type ProjectionSpec = z.infer<typeof ProjectionSpec>
export type ProjectionId = ProjectionSpec['id']

export type CatalogueEntry = {
  label: string
  family: 'conic' | 'azimuthal' | 'cylindrical' | 'pseudocylindrical'
  /** What the projection keeps true. */
  property: 'equal-area'
  /** Whether the sphere is turned so that the centre's latitude comes to the middle, or its longitude only. */
  turnsToCentre: boolean
  /** The formula for the unit sphere; latitudes are authalic, in radians. */
  raw: (parallels: [number, number]) => GeoRawProjection
}

export const projections: Record<ProjectionId, CatalogueEntry> = {
  'albers-equal-area': {
    label: 'Albers equal-area',
    family: 'conic',
    property: 'equal-area',
    turnsToCentre: false,
    raw: ([a, b]) => geoConicEqualAreaRaw(a, b),
  },
  'lambert-azimuthal-equal-area': {
    label: 'Lambert azimuthal equal-area',
    family: 'azimuthal',
    property: 'equal-area',
    turnsToCentre: true,
    raw: () => geoAzimuthalEqualAreaRaw as unknown as GeoRawProjection,
  },
  'cylindrical-equal-area': {
    label: 'Cylindrical equal-area',
    family: 'cylindrical',
    property: 'equal-area',
    turnsToCentre: false,
    raw: ([a]) => cylindricalEqualAreaRaw(a),
  },
  'equal-earth': {
    label: 'Equal Earth',
    family: 'pseudocylindrical',
    property: 'equal-area',
    turnsToCentre: false,
    raw: () => geoEqualEarthRaw as unknown as GeoRawProjection,
  },
}

/** Lambert's cylindrical equal-area projection, true along the parallels ±`parallel` (Snyder 1987, section 10). */
function cylindricalEqualAreaRaw(parallel: number): GeoRawProjection {
  const c = Math.cos(parallel)
  const raw = ((lambda: number, phi: number) => [lambda * c, Math.sin(phi) / c]) as GeoRawProjection
  raw.invert = (x, y) => [x / c, Math.asin(Math.max(-1, Math.min(1, y * c)))]
  return raw
}
