import { equatorialRadius, flattening } from './authalic'
import type { Projection } from './projection'

const e2 = flattening * (2 - flattening)
const degrees = 180 / Math.PI

/**
 * Tissot's indicatrix at a place (Snyder 1987, chapter 4): what a metre to the east and one to the north
 * become on the map (x to the right, y downwards), the half axes `a` ≥ `b` of the ellipse that a circle of
 * radius 1 becomes, the scale of areas, and the largest error of an angle in degrees.
 */
export type Indicatrix = {
  east: [number, number]
  north: [number, number]
  a: number
  b: number
  areaScale: number
  angularDeg: number
}

/**
 * By differences over a few metres to all sides; null off the map or where the projection has no derivative.
 */
export function indicatrixAt(projection: Projection, lon: number, lat: number): Indicatrix | null {
  if (Math.abs(lat) > 89.9) return null
  const phi = lat / degrees
  const w = 1 - e2 * Math.sin(phi) ** 2
  const perDegreeNorth = (equatorialRadius * (1 - e2)) / w ** 1.5 / degrees
  const perDegreeEast = (equatorialRadius * Math.cos(phi)) / Math.sqrt(w) / degrees
  const step = 1e-4
  const [x0, y0] = projection.project(lon - step, lat)
  const [x1, y1] = projection.project(lon + step, lat)
  const [u0, v0] = projection.project(lon, lat - step)
  const [u1, v1] = projection.project(lon, lat + step)
  const east: [number, number] = [
    (x1 - x0) / (2 * step * perDegreeEast),
    (y1 - y0) / (2 * step * perDegreeEast),
  ]
  const north: [number, number] = [
    (u1 - u0) / (2 * step * perDegreeNorth),
    (v1 - v0) / (2 * step * perDegreeNorth),
  ]
  const areaScale = Math.abs(east[0] * north[1] - east[1] * north[0])
  const squares = east[0] ** 2 + east[1] ** 2 + north[0] ** 2 + north[1] ** 2
  // Equations 4-12 to 4-14: a + b and a − b from the sum of squares and the product.
  const sum = Math.sqrt(squares + 2 * areaScale)
  const difference = Math.sqrt(Math.max(0, squares - 2 * areaScale))
  if (!Number.isFinite(sum) || sum > 1e4 || !(areaScale > 0)) return null
  return {
    east,
    north,
    a: (sum + difference) / 2,
    b: (sum - difference) / 2,
    areaScale,
    angularDeg: 2 * Math.asin(Math.min(1, difference / sum)) * degrees,
  }
}
