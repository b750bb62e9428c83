/** WGS 84. */
export const equatorialRadius = 6378137
export const flattening = 1 / 298.257223563
const e2 = flattening * (2 - flattening)
const e = Math.sqrt(e2)

const q = (sin: number): number =>
  (1 - e2) * (sin / (1 - e2 * sin * sin) - Math.log((1 - e * sin) / (1 + e * sin)) / (2 * e))
const qPole = q(1)

/** Radius of the sphere with the ellipsoid's surface area, in metres (Snyder 1987, equation 3-13). */
export const authalicRadius = equatorialRadius * Math.sqrt(qPole / 2)

/** The sine of the authalic latitude of a geodetic one (radians): q ∕ q at the pole. */
export const authalicSine = (geodetic: number): number => q(Math.sin(geodetic)) / qPole

/**
 * Authalic latitude, in radians: putting it in place of the geodetic latitude into an equal-area projection
 * of the sphere gives one of the ellipsoid (Snyder 1987, equations 3-11 and 3-12).
 */
export function authalicLatitude(geodetic: number): number {
  const ratio = q(Math.sin(geodetic)) / qPole
  return Math.abs(ratio) >= 1 ? Math.sign(ratio) * (Math.PI / 2) : Math.asin(ratio)
}

const s2 = e2 / 3 + (31 * e2 ** 2) / 180 + (517 * e2 ** 3) / 5040
const s4 = (23 * e2 ** 2) / 360 + (251 * e2 ** 3) / 3780
const s6 = (761 * e2 ** 3) / 45360

/** The inverse of `authalicLatitude` by its series (Snyder 1987, equation 3-18); right to 1e-9 radians. */
export const geodeticLatitude = (authalic: number): number =>
  authalic + s2 * Math.sin(2 * authalic) + s4 * Math.sin(4 * authalic) + s6 * Math.sin(6 * authalic)

const t2 = e2 / 3 + (31 * e2 ** 2) / 180 + (59 * e2 ** 3) / 560
const t4 = (17 * e2 ** 2) / 360 + (61 * e2 ** 3) / 1260
const t6 = (383 * e2 ** 3) / 45360

/** `authalicLatitude` by its series (Adams 1921), for many vertices; right to 1e-9 radians. */
export function authalicLatitudeFast(geodetic: number): number {
  const s = Math.sin(2 * geodetic)
  const c = Math.cos(2 * geodetic)
  return geodetic - t2 * s + t4 * 2 * s * c - t6 * s * (3 - 4 * s * s)
}
