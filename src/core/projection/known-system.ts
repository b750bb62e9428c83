import type { GeoRawProjection } from 'd3-geo'
import { authalicRadius, authalicSine, equatorialRadius, flattening } from './authalic'
import { projections, type ProjectionId, type ProjectionSpec } from './catalogue'
import { latitudes } from './latitudes'
import { fromDegrees } from './reference'

/**
 * A reference system as other programs name it. `project` is how they reckon it (metres, y to the north; scale and
 * origin may be others than the map's); null where that is known to be as the map does.
 */
export type KnownSystem = {
  named: { by: 'epsg'; code: number; inDegrees: boolean } | { by: 'wkt'; wkt: string }
  project: ((lon: number, lat: number) => [number, number]) | null
}

type Parameters = [key: string, value: number][]
type Known = {
  /** Its name in well-known text (OGC 01-009). */
  name: string
  parameters?: (spec: ProjectionSpec) => Parameters
  /**
   * How others reckon it: as we do, on a sphere with latitudes of the ellipsoid, or on the ellipsoid, as this
   * definition for proj4 says.
   */
  reckoned: 'same' | 'sphere' | ((spec: ProjectionSpec) => string)
}

const degrees = 180 / Math.PI
const e2 = flattening * (2 - flattening)

const middle = ({ centre }: ProjectionSpec): Parameters => [['Latitude_Of_Origin', centre[1]]]
const firstParallel = ({ parallels }: ProjectionSpec): Parameters => [['Standard_Parallel_1', parallels[0]]]
const bothParallels = ([first, second]: [number, number]): Parameters => [
  ['Standard_Parallel_1', first],
  ['Standard_Parallel_2', second],
  ['Latitude_Of_Origin', 0],
]

/** Projections that other programs know. Maps in the rest, interrupted and oblique ones, have no name there. */
const known: Partial<Record<ProjectionId, Known>> = {
  'albers-equal-area': {
    name: 'Albers',
    parameters: ({ parallels }) => bothParallels(albersParallels(parallels)),
    reckoned: 'same',
  },
  'lambert-azimuthal-equal-area': {
    name: 'Lambert_Azimuthal_Equal_Area',
    parameters: middle,
    reckoned: 'same',
  },
  'cylindrical-equal-area': {
    name: 'Cylindrical_Equal_Area',
    parameters: firstParallel,
    reckoned: 'same',
  },
  'equal-earth': { name: 'Equal_Earth', reckoned: 'same' },
  mollweide: { name: 'Mollweide', reckoned: 'sphere' },
  sinusoidal: { name: 'Sinusoidal', reckoned: ({ centre }) => `+proj=sinu +lon_0=${centre[0]}` },
  'eckert-4': { name: 'Eckert_IV', reckoned: 'sphere' },
  'lambert-conformal-conic': {
    name: 'Lambert_Conformal_Conic',
    parameters({ parallels }) {
      const only = conformalParallel(parallels)
      return bothParallels([only, only])
    },
    reckoned: 'same',
  },
  mercator: { name: 'Mercator', parameters: () => [['Standard_Parallel_1', 0]], reckoned: 'same' },
  'transverse-mercator': {
    name: 'Transverse_Mercator',
    parameters: () => [
      ['Scale_Factor', 1],
      ['Latitude_Of_Origin', 0],
    ],
    reckoned: ({ centre }) => `+proj=tmerc +lon_0=${centre[0]}`,
  },
  stereographic: {
    name: 'Stereographic',
    parameters: (spec) => [['Scale_Factor', 1], ...middle(spec)],
    reckoned: ({ centre }) => `+proj=stere +lon_0=${centre[0]} +lat_0=${centre[1]}`,
  },
  'equidistant-conic': {
    name: 'Equidistant_Conic',
    parameters: ({ parallels }) => bothParallels(parallels),
    reckoned: ({ centre, parallels: [a, b] }) =>
      `+proj=eqdc +lon_0=${centre[0]} +lat_0=0 +lat_1=${a} +lat_2=${b}`,
  },
  'azimuthal-equidistant': {
    name: 'Azimuthal_Equidistant',
    parameters: middle,
    reckoned: ({ centre }) => `+proj=aeqd +lon_0=${centre[0]} +lat_0=${centre[1]}`,
  },
  'equidistant-cylindrical': {
    name: 'Equidistant_Cylindrical',
    parameters: firstParallel,
    reckoned: 'sphere',
  },
  // The table of this one is interpolated by everybody in a way of their own.
  robinson: { name: 'Robinson', reckoned: ({ centre }) => `+proj=robin +lon_0=${centre[0]}` },
  'natural-earth': { name: 'Natural_Earth', reckoned: 'sphere' },
  'winkel-tripel': {
    name: 'Winkel_Tripel',
    parameters: () => [['Standard_Parallel_1', Math.acos(2 / Math.PI) * degrees]],
    reckoned: 'sphere',
  },
  miller: { name: 'Miller_Cylindrical', reckoned: 'sphere' },
  polyconic: {
    name: 'Polyconic',
    parameters: () => [['Latitude_Of_Origin', 0]],
    reckoned: ({ centre }) => `+proj=poly +lon_0=${centre[0]} +lat_0=0`,
  },
}

const degreesWkt =
  'GEOGCS["GCS_WGS_1984",DATUM["D_WGS_1984",' +
  `SPHEROID["WGS_1984",${equatorialRadius},${1 / flattening}]],` +
  'PRIMEM["Greenwich",0],UNIT["Degree",0.0174532925199433]]'

/**
 * The system of other programs that comes nearest to a projection, apart from how the map is turned, from scale and
 * origin; null where there is none. How near one comes that they reckon otherwise has to be tried.
 */
export function knownSystem(spec: ProjectionSpec): KnownSystem | null {
  if (spec.system) {
    const { code, proj4 } = spec.system
    const number = /^(?:EPSG:)?(\d+)$/i.exec(code)
    if (!number || !isOnWgs84(proj4)) return null
    const inDegrees = /\+proj=longlat\b/.test(proj4)
    return { named: { by: 'epsg', code: Number(number[1]), inDegrees }, project: null }
  }
  const found = known[spec.id]
  if (!found) return null
  const { name, parameters, reckoned } = found
  const given: Parameters = [
    ['False_Easting', 0],
    ['False_Northing', 0],
    ['Central_Meridian', spec.centre[0]],
    ...(parameters?.(spec) ?? []),
  ]
  const wkt = [
    `PROJCS["Map in ${name.replaceAll('_', ' ')}"`,
    degreesWkt,
    `PROJECTION["${name}"]`,
    ...given.map(([key, value]) => `PARAMETER["${key}",${value}]`),
    'UNIT["Meter",1]]',
  ].join(',')
  return { named: { by: 'wkt', wkt }, project: reckonedBy(spec, reckoned) }
}

/** Whether a system's own longitudes and latitudes are those of WGS 84, to a metre: places are given in these. */
function isOnWgs84(definition: string): boolean {
  const shift = /\+towgs84=([-\d.,eE]+)/.exec(definition)
  const isShifted = shift?.[1].split(',').some((n) => Number(n) !== 0) ?? false
  return (
    !isShifted &&
    !definition.includes('+nadgrids') &&
    /\+(datum=WGS84|ellps=(GRS80|WGS84))\b/.test(definition)
  )
}

function reckonedBy(spec: ProjectionSpec, how: Known['reckoned']): KnownSystem['project'] {
  if (how === 'same') return null
  if (typeof how === 'function') return fromDegrees(`${how(spec)} +x_0=0 +y_0=0 +datum=WGS84 +units=m`)
  const raw: GeoRawProjection = projections[spec.id].raw(
    spec.parallels.map((p) => p / degrees) as [number, number],
  )
  const [lon0] = spec.centre
  return (lon, lat) => {
    const east = lon - lon0 - 360 * Math.round((lon - lon0) / 360)
    const [x, y] = raw(east / degrees, lat / degrees)
    return [equatorialRadius * x, equatorialRadius * y]
  }
}

/**
 * The standard parallels of Albers' conic of the ellipsoid (Snyder 1987, equations 14-1 to 14-14) that is the one of
 * the authalic sphere with the parallels given: both are fixed by the constants n and C, and the ellipsoid's parallels
 * are where m² + n·q = C. Degrees.
 */
export function albersParallels(parallels: readonly [number, number]): [number, number] {
  const [s1, s2] = parallels.map((p) => authalicSine(p / degrees))
  const n = (s1 + s2) / 2
  const qOf = (phi: number): number => (2 * authalicRadius ** 2 * authalicSine(phi)) / equatorialRadius ** 2
  const c = (1 + s1 * (2 * n - s1)) * (authalicRadius / equatorialRadius) ** 2
  const beyond = (phi: number): number =>
    Math.cos(phi) ** 2 / (1 - e2 * Math.sin(phi) ** 2) + n * qOf(phi) - c
  // It grows up to the parallel that the cone touches, about where the sine is n, and falls from there on.
  const top = highest(beyond, Math.asin(n) - 0.05, Math.asin(n) + 0.05)
  if (beyond(top) <= 0) return [top * degrees, top * degrees]
  return [root(beyond, top, -Math.PI / 2) * degrees, root(beyond, top, Math.PI / 2) * degrees]
}

/**
 * The one parallel of Lambert's conformal conic that is as pointed a cone as the one through two parallels, degrees:
 * scale apart, both are the same map (Snyder 1987, equations 15-1 to 15-11, with conformal latitudes).
 */
export function conformalParallel(parallels: readonly [number, number]): number {
  const [a, b] = parallels.map((p) => latitudes.conformal.exact(p / degrees))
  const pole = (chi: number): number => Math.log(Math.tan(Math.PI / 4 + chi / 2))
  const n = Math.abs(a - b) < 1e-9 ? Math.sin(a) : Math.log(Math.cos(a) / Math.cos(b)) / (pole(b) - pole(a))
  return Math.asin(n) * degrees
}

function highest(f: (x: number) => number, low: number, high: number): number {
  let [a, b] = [low, high]
  for (let i = 0; i < 100; i++) {
    const [p, q] = [a + (b - a) / 3, b - (b - a) / 3]
    if (f(p) < f(q)) a = p
    else b = q
  }
  return (a + b) / 2
}

/** Where a function that is above zero at one end crosses it. */
function root(f: (x: number) => number, above: number, below: number): number {
  let [a, b] = [above, below]
  for (let i = 0; i < 100; i++) {
    const m = (a + b) / 2
    if (f(m) > 0) a = m
    else b = m
  }
  return (a + b) / 2
}
