import { geoStereographicRaw, type GeoRawProjection } from 'd3-geo'
import { geoRobinsonRaw } from 'd3-geo-projection'

/** Formulas of the unit sphere in radians, where those of the library lack something. Sections are Snyder's (1987). */
/** Lambert's cylindrical equal-area projection, true along the parallels ±`parallel` (section 10). */
export function cylindricalEqualAreaRaw(parallel: number): GeoRawProjection {
  const c = Math.cos(parallel)
  return rawOf(
    (lambda, phi) => [lambda * c, Math.sin(phi) / c],
    (x, y) => [x / c, Math.asin(Math.max(-1, Math.min(1, y * c)))],
  )
}

/** Parallels at their distances, the given one of true length (section 12). */
export function equidistantCylindricalRaw(parallel: number): GeoRawProjection {
  const c = Math.cos(parallel)
  return rawOf(
    (lambda, phi) => [lambda * c, phi],
    (x, y) => [x / c, y],
  )
}

/** The cylinder along a meridian (section 8, equations 8-1 to 8-7). */
export const transverseMercatorRaw: GeoRawProjection = rawOf(
  (lambda, phi) => [
    Math.atanh(Math.max(-0.9999999, Math.min(0.9999999, Math.cos(phi) * Math.sin(lambda)))),
    Math.atan2(Math.tan(phi), Math.cos(lambda)),
  ],
  (x, y) => [Math.atan2(Math.sinh(x), Math.cos(y)), Math.asin(Math.sin(y) / Math.cosh(x))],
)

/** The library's types give some formulas as functions without arguments; all take longitude and latitude. */
const formula = (raw: unknown): GeoRawProjection => raw as GeoRawProjection

export const stereographicRaw: GeoRawProjection = scaled(formula(geoStereographicRaw), 2)
/** With the radius of Robinson's table (1974), as Snyder and Voxland (1989, p. 82) have it. */
export const robinsonRaw: GeoRawProjection = scaled(geoRobinsonRaw, 0.8487)

/**
 * Mollweide's projection (section 31). Its angle is found by Newton's method on the complement of the angle, which
 * is well conditioned up to the poles.
 */
export const mollweideRaw: GeoRawProjection = rawOf(
  (lambda, phi) => {
    const half = Math.sin((Math.PI / 2 - Math.abs(phi)) / 2)
    // 2u − sin 2u = π (1 − sin φ)
    const c = 2 * Math.PI * half * half
    let u = Math.cbrt(0.75 * c)
    for (let i = 0; i < 8 && u > 1e-12; i++) {
      const step = (2 * u - Math.sin(2 * u) - c) / (4 * Math.sin(u) ** 2)
      u -= step
      if (Math.abs(step) < 1e-13) break
    }
    return [((2 * Math.SQRT2) / Math.PI) * lambda * Math.sin(u), Math.SQRT2 * Math.cos(u) * Math.sign(phi)]
  },
  (x, y) => {
    const theta = Math.asin(y / Math.SQRT2)
    return [
      (Math.PI * x) / (2 * Math.SQRT2 * Math.cos(theta)),
      Math.asin((2 * theta + Math.sin(2 * theta)) / Math.PI),
    ]
  },
)

/** Eckert's fourth projection (section 32), its angle found in the same way. */
export const eckert4Raw: GeoRawProjection = rawOf(
  (lambda, phi) => {
    const half = Math.sin((Math.PI / 2 - Math.abs(phi)) / 2)
    // u − sin u cos u + 2 (1 − cos u) = (2 + π/2) (1 − sin φ)
    const c = (4 + Math.PI) * half * half
    let u = Math.sqrt(c)
    for (let i = 0; i < 12 && u > 1e-12; i++) {
      const sin = Math.sin(u)
      const step = (u - sin * Math.cos(u) + 4 * Math.sin(u / 2) ** 2 - c) / (2 * sin * sin + 2 * sin)
      u -= step
      if (Math.abs(step) < 1e-13) break
    }
    const scale = 2 / Math.sqrt(Math.PI * (4 + Math.PI))
    return [scale * lambda * (1 + Math.sin(u)), Math.PI * scale * Math.cos(u) * Math.sign(phi)]
  },
  (x, y) => {
    const scale = 2 / Math.sqrt(Math.PI * (4 + Math.PI))
    const sin = y / (Math.PI * scale)
    const theta = Math.asin(sin)
    return [
      x / (scale * (1 + Math.cos(theta))),
      Math.asin((theta + sin * Math.cos(theta) + 2 * sin) / (2 + Math.PI / 2)),
    ]
  },
)

function scaled(raw: GeoRawProjection, factor: number): GeoRawProjection {
  const forward = (lambda: number, phi: number): [number, number] => {
    const [x, y] = raw(lambda, phi)
    return [factor * x, factor * y]
  }
  return rawOf(forward, (x, y) => raw.invert?.(x / factor, y / factor) as [number, number])
}

function rawOf(
  forward: (lambda: number, phi: number) => [number, number],
  invert: (x: number, y: number) => [number, number],
): GeoRawProjection {
  return Object.assign(forward, { invert }) as GeoRawProjection
}
