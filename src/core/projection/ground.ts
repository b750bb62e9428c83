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
