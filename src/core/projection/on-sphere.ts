import { geoRotation } from 'd3-geo'
import { projections, type ProjectionSpec } from './catalogue'
import { cosineFromMiddle, wholeGlobe } from './frame'

const degrees = 180 / Math.PI

/**
 * Plane coordinates of a place (degrees) on a sphere of a radius: x to the east and y to the north of the
 * origin, in units of the radius; NaN where the projection does not show the place. Where the formula is not
 * turned to the centre's latitude, y of conic projections, the transverse Mercator and the polyconic is counted
 * from that latitude on the middle meridian, as Snyder (1987) does, of others from the equator.
 */
export function onSphere(
  { id, centre, parallels, tiltDeg = 0 }: ProjectionSpec,
  lon: number,
  lat: number,
  radius = 1,
): { x: number; y: number } {
  const { raw: make, turnsToCentre, family, horizonDeg, lobes } = projections[id]
  const raw = make(parallels.map((p) => p / degrees) as [number, number])
  const east = ((((lon - centre[0] + 180) % 360) + 360) % 360) - 180
  const [fx, fy] = turnsToCentre ? geoRotation([-centre[0], -centre[1], -tiltDeg])([lon, lat]) : [east, lat]
  const shown =
    horizonDeg < 180
      ? cosineFromMiddle(fx, fy) >= Math.cos((horizonDeg * Math.PI) / 180)
      : (lobes?.(parallels) ?? [wholeGlobe]).some(({ south, north }) => fy >= south && fy <= north)
  // What lies beyond has no coordinates, whatever the formula makes of it.
  if (!shown) return { x: NaN, y: NaN }
  if (turnsToCentre) {
    const [l, p] = [fx, fy]
    const [x, y] = raw(l / degrees, p / degrees)
    return { x: x * radius, y: y * radius }
  }
  const [x, y] = raw(east / degrees, lat / degrees)
  const fromCentre = family === 'conic' || id === 'transverse-mercator' || id === 'polyconic'
  return { x: x * radius, y: (y - (fromCentre ? raw(0, centre[1] / degrees)[1] : 0)) * radius }
}
