import geographiclib from 'geographiclib-geodesic'
import type { Projection } from './projection'

const { WGS84 } = geographiclib.Geodesic

/** Length of the geodesic between two points on the ellipsoid, in metres (Karney 2013). */
export function geodesicMetres(a: [number, number], b: [number, number]): number {
  return WGS84.Inverse(a[1], a[0], b[1], b[0]).s12 ?? NaN
}

/**
 * Ground metres in one projected metre, measured sideways at a point of the projection: the geodesic between
 * two points 500 projected metres to either side, divided by their distance.
 */
export function groundPerProjected(projection: Projection, [lon, lat]: [number, number]): number {
  const [x, y] = projection.project(lon, lat)
  const reach = 500
  const left = projection.invert(x - reach, y)
  const right = projection.invert(x + reach, y)
  return left && right ? geodesicMetres(left, right) / (2 * reach) : 1
}

/** Semi-major axis, m, and the square of the eccentricity of the ellipsoid (WGS 84). */
const [axis, e2] = [6_378_137, 0.006694379990141316]

/** Metres to a degree of longitude and of latitude, at a latitude: the radii of curvature of the ellipsoid. */
export function metresPerDegree(lat: number): [east: number, north: number] {
  const phi = (lat * Math.PI) / 180
  const w = 1 - e2 * Math.sin(phi) ** 2
  const prime = axis / Math.sqrt(w)
  return [(prime * Math.cos(phi) * Math.PI) / 180, ((prime * (1 - e2)) / w) * (Math.PI / 180)]
}

/**
 * Where places on the ellipsoid lie in space: x, y and z of each in turn, m from its middle.
 * @param places longitudes and latitudes in turn, degrees
 */
export function inSpace(places: ArrayLike<number>): Float64Array {
  const out = new Float64Array((places.length / 2) * 3)
  for (let i = 0; 2 * i < places.length; i++) {
    const [lon, lat] = [(places[2 * i] * Math.PI) / 180, (places[2 * i + 1] * Math.PI) / 180]
    const prime = axis / Math.sqrt(1 - e2 * Math.sin(lat) ** 2)
    out[3 * i] = prime * Math.cos(lat) * Math.cos(lon)
    out[3 * i + 1] = prime * Math.cos(lat) * Math.sin(lon)
    out[3 * i + 2] = prime * (1 - e2) * Math.sin(lat)
  }
  return out
}
