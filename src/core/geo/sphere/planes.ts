import geographiclib from 'geographiclib-geodesic'
import { authalicLatitudeFast, authalicRadius, geodeticLatitude } from '@/core/projection/authalic'

const { WGS84 } = geographiclib.Geodesic
const degrees = 180 / Math.PI

/** A plane that touches the globe at a place; metres east and north of it. */
export type Plane = {
  project(lon: number, lat: number): [x: number, y: number]
  invert(x: number, y: number): [lon: number, lat: number]
}

/** Distances and directions from the middle are those of geodesics on WGS 84 (Karney 2013). */
export function equidistantPlane(lon0: number, lat0: number): Plane {
  return {
    project(lon, lat) {
      const { s12 = 0, azi1 = 0 } = WGS84.Inverse(lat0, lon0, lat, lon)
      return [s12 * Math.sin(azi1 / degrees), s12 * Math.cos(azi1 / degrees)]
    },
    invert(x, y) {
      const { lat2 = 0, lon2 = 0 } = WGS84.Direct(lat0, lon0, Math.atan2(x, y) * degrees, Math.hypot(x, y))
      return [lon2, lat2]
    },
  }
}

/** Lambert's azimuthal projection: areas are those on WGS 84 (Snyder 1987, section 24, on the authalic sphere). */
export function equalAreaPlane(lon0: number, lat0: number): Plane {
  const phi0 = authalicLatitudeFast(lat0 / degrees)
  const [s0, c0] = [Math.sin(phi0), Math.cos(phi0)]
  return {
    project(lon, lat) {
      const phi = authalicLatitudeFast(lat / degrees)
      const lambda = (lon - lon0) / degrees
      const [s, c] = [Math.sin(phi), Math.cos(phi)]
      const k = authalicRadius * Math.sqrt(2 / Math.max(1e-12, 1 + s0 * s + c0 * c * Math.cos(lambda)))
      return [k * c * Math.sin(lambda), k * (c0 * s - s0 * c * Math.cos(lambda))]
    },
    invert(x, y) {
      const rho = Math.hypot(x, y)
      if (rho === 0) return [lon0, lat0]
      const angle = 2 * Math.asin(Math.min(1, rho / (2 * authalicRadius)))
      const [s, c] = [Math.sin(angle), Math.cos(angle)]
      const phi = Math.asin(Math.max(-1, Math.min(1, c * s0 + (y * s * c0) / rho)))
      const lambda = Math.atan2(x * s, rho * c0 * c - y * s0 * s)
      return [lon0 + lambda * degrees, geodeticLatitude(phi) * degrees]
    },
  }
}

/** The middle of places on the globe: the direction of the sum of their vectors. */
export function middleOf(places: Iterable<readonly number[]>): [lon: number, lat: number] {
  let [x, y, z] = [0, 0, 0]
  for (const [lon, lat] of places) {
    const c = Math.cos(lat / degrees)
    x += c * Math.cos(lon / degrees)
    y += c * Math.sin(lon / degrees)
    z += Math.sin(lat / degrees)
  }
  return [Math.atan2(y, x) * degrees, Math.atan2(z, Math.hypot(x, y)) * degrees]
}
