import {
  authalicLatitude,
  authalicLatitudeFast,
  authalicRadius,
  equatorialRadius,
  flattening,
  geodeticLatitude,
} from './authalic'

const e2 = flattening * (2 - flattening)
const e = Math.sqrt(e2)
const quarter = Math.PI / 4

/**
 * What stands in for the geodetic latitude (radians) in the formulas of the sphere, so that what they keep is
 * kept on the ellipsoid.
 */
export type Latitudes = {
  to: (geodetic: number) => number
  exact: (geodetic: number) => number
  from: (auxiliary: number) => number
  radius: number
}

/** Conformal latitude (Snyder 1987, equation 3-1). */
function conformalLatitude(phi: number): number {
  if (Math.abs(phi) >= Math.PI / 2) return phi
  const s = e * Math.sin(phi)
  return 2 * Math.atan(Math.tan(quarter + phi / 2) * ((1 - s) / (1 + s)) ** (e / 2)) - Math.PI / 2
}

/** Its inverse by iteration (Snyder 1987, equation 3-4), right to 1e-12 radians. */
function fromConformal(chi: number): number {
  if (Math.abs(chi) >= Math.PI / 2) return chi
  const t = Math.tan(quarter + chi / 2)
  let phi = chi
  for (let i = 0; i < 8; i++) {
    const s = e * Math.sin(phi)
    phi = 2 * Math.atan(t * ((1 + s) / (1 - s)) ** (e / 2)) - Math.PI / 2
  }
  return phi
}

const m0 = 1 - e2 / 4 - (3 * e2 ** 2) / 64 - (5 * e2 ** 3) / 256
const m2 = (3 * e2) / 8 + (3 * e2 ** 2) / 32 + (45 * e2 ** 3) / 1024
const m4 = (15 * e2 ** 2) / 256 + (45 * e2 ** 3) / 1024
const m6 = (35 * e2 ** 3) / 3072
/**
 * Rectifying latitude: the meridian's length from the equator, in even measure (Snyder 1987, equations 3-20
 * and 3-21).
 */
const rectifyingLatitude = (phi: number): number =>
  phi - (m2 * Math.sin(2 * phi) - m4 * Math.sin(4 * phi) + m6 * Math.sin(6 * phi)) / m0

const e1 = (1 - Math.sqrt(1 - e2)) / (1 + Math.sqrt(1 - e2))
/** Its inverse by series (Snyder 1987, equation 3-26). */
const fromRectifying = (mu: number): number =>
  mu +
  ((3 * e1) / 2 - (27 * e1 ** 3) / 32) * Math.sin(2 * mu) +
  ((21 * e1 ** 2) / 16 - (55 * e1 ** 4) / 32) * Math.sin(4 * mu) +
  ((151 * e1 ** 3) / 96) * Math.sin(6 * mu) +
  ((1097 * e1 ** 4) / 512) * Math.sin(8 * mu)

const same = (phi: number): number => phi

/** By what a projection keeps true. Those that keep nothing take a sphere of the ellipsoid's area. */
export const latitudes: Record<'equal-area' | 'conformal' | 'equidistant' | 'compromise', Latitudes> = {
  'equal-area': {
    to: authalicLatitudeFast,
    exact: authalicLatitude,
    from: geodeticLatitude,
    radius: authalicRadius,
  },
  conformal: {
    to: conformalLatitude,
    exact: conformalLatitude,
    from: fromConformal,
    radius: equatorialRadius,
  },
  equidistant: {
    to: rectifyingLatitude,
    exact: rectifyingLatitude,
    from: fromRectifying,
    radius: equatorialRadius * m0,
  },
  compromise: { to: same, exact: same, from: same, radius: authalicRadius },
}
