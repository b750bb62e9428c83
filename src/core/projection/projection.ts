import {
  geoProjection,
  geoRotation,
  geoStream,
  type GeoProjection,
  type GeoRawProjection,
  type GeoStream,
} from 'd3-geo'
import { entryOf, type ProjectionSpec } from './catalogue'
import { latitudes, type Latitudes } from './latitudes'

/**
 * Longitude and latitude in degrees to and from projected metres; x grows to the east, y downwards, as on
 * paper. Places beyond the horizon of the projection have no coordinates (NaN). `sphere` is the same
 * projection for d3-geo's clipping pipeline; it expects authalic latitudes.
 */
export type Projection = {
  spec: ProjectionSpec
  project(lon: number, lat: number): [x: number, y: number]
  /** Null where the point lies off the map of the world. */
  invert(x: number, y: number): [lon: number, lat: number] | null
  sphere: GeoProjection
  /** The latitude of the sphere that stands for a latitude, both in radians. */
  exactLatitude(phi: number): number
  /** The edge of the world, or of what is shown of it, as closed rings in projected metres. */
  edge(): number[][]
}

const degrees = 180 / Math.PI

const made = new Map<string, Projection>()

export function createProjection(spec: ProjectionSpec): Projection {
  const key = JSON.stringify(spec)
  const known = made.get(key)
  if (known) return known
  const entry = entryOf(spec)
  const { to, exact, from, radius } = entry.ellipsoidal ? geodetic : latitudes[entry.property]
  const raw = turnedBy(
    spec.turnDeg ?? 0,
    entry.raw(spec.parallels.map((p) => exact(p / degrees)) as [number, number]),
  )
  const centreLat = entry.turnsToCentre ? exact(spec.centre[1] / degrees) * degrees : 0
  const turn = geoRotation([-spec.centre[0], -centreLat])
  const lon0 = spec.centre[0] / degrees
  const plain = !entry.turnsToCentre
  const horizon = entry.horizonDeg < 180 ? Math.cos(entry.horizonDeg / degrees) : -2

  const sphere = (): GeoProjection =>
    clipped(
      geoProjection(raw)
        .rotate([-spec.centre[0], -centreLat])
        .scale(radius)
        .translate([0, 0])
        .clipExtent(null),
      entry.horizonDeg,
    )
  let edge: number[][] | null = null
  const projection: Projection = {
    spec,
    project(lon, lat) {
      if (horizon > -1 && beyond(lon, lat)) return [NaN, NaN]
      const phi = to(lat / degrees)
      const [x, y] = plain ? raw(wrap(lon / degrees - lon0), phi) : turned(lon, phi)
      return [x * radius, -y * radius]
    },
    invert(x, y) {
      const point = raw.invert?.(x / radius, -y / radius)
      if (!point || !point.every(Number.isFinite) || Math.abs(point[0]) > Math.PI + 1e-9) return null
      const [lon, lat] = plain
        ? [wrap(point[0] + lon0) * degrees, point[1] * degrees]
        : turn.invert([point[0] * degrees, point[1] * degrees])
      const place: [number, number] = [lon, from(lat / degrees) * degrees]
      // Formulas clamp what lies beyond the edge of the world; going back shows it.
      const [bx, by] = projection.project(...place)
      return Math.hypot(bx - x, by - y) < 1 ? place : null
    },
    sphere: sphere(),
    exactLatitude: exact,
    edge: () => (edge ??= edgeOf(sphere().precision(500))),
  }
  function beyond(lon: number, lat: number): boolean {
    const [phi, phi0] = [lat / degrees, entry.turnsToCentre ? spec.centre[1] / degrees : 0]
    return (
      Math.sin(phi) * Math.sin(phi0) + Math.cos(phi) * Math.cos(phi0) * Math.cos(lon / degrees - lon0) <
      horizon
    )
  }
  function turned(lon: number, phi: number): [number, number] {
    const [l, p] = turn([lon, phi * degrees])
    return raw(l / degrees, p / degrees)
  }
  if (made.size > 40) made.clear()
  made.set(key, projection)
  return projection
}

/** Formulas of the ellipsoid take latitudes as they are and give metres. */
const geodetic: Latitudes = { to: (phi) => phi, exact: (phi) => phi, from: (phi) => phi, radius: 1 }

/** The same formula with the map turned clockwise around its origin. */
function turnedBy(deg: number, raw: GeoRawProjection): GeoRawProjection {
  if (!deg) return raw
  const [cos, sin] = [Math.cos(deg / degrees), Math.sin(deg / degrees)]
  const forward = (lambda: number, phi: number): [number, number] => {
    const [x, y] = raw(lambda, phi)
    return [x * cos + y * sin, y * cos - x * sin]
  }
  return Object.assign(forward, {
    invert: (x: number, y: number) => raw.invert?.(x * cos - y * sin, y * cos + x * sin),
  }) as GeoRawProjection
}

function edgeOf(sphere: GeoProjection): number[][] {
  const rings: number[][] = []
  const sink: GeoStream = {
    point: (x, y) => void rings[rings.length - 1].push(x, y),
    lineStart: () => void rings.push([]),
    lineEnd: () => undefined,
    polygonStart: () => undefined,
    polygonEnd: () => undefined,
    sphere: () => undefined,
  }
  geoStream({ type: 'Sphere' }, sphere.stream(sink))
  return rings.filter((ring) => ring.length >= 6 && ring.every(Number.isFinite))
}

const clipped = (sphere: GeoProjection, horizonDeg: number): GeoProjection =>
  horizonDeg < 180 ? sphere.clipAngle(horizonDeg) : sphere

/** An angle within one turn too many or too few, brought back to −π to π. */
const wrap = (lambda: number): number =>
  Math.abs(lambda) > Math.PI ? lambda - 2 * Math.PI * Math.sign(lambda) : lambda
