import { geoRotation, type GeoRawProjection } from 'd3-geo'
import { entryOf, type ProjectionSpec } from './catalogue'
import { cosineFromMiddle, loopsOf, marksAlong, wholeGlobe, type Domain, type Frame } from './frame'
import { latitudes, type Latitudes } from './latitudes'

/**
 * Longitude and latitude in degrees to and from projected metres; x grows to the east, y downwards, as on
 * paper. Places that the projection does not show have no coordinates (NaN).
 */
export type Projection = {
  spec: ProjectionSpec
  project(lon: number, lat: number): [x: number, y: number]
  /** Null where the point lies off the map of the world. */
  invert(x: number, y: number): [lon: number, lat: number] | null
  /** The globe as the formula sees it, and where it is torn. */
  frame: Frame
  /** The edge of the world, or of what is shown of it, as closed rings in projected metres, x and y by turns. */
  edge(): number[][]
  /** How its plane is bent, for maps that are stretched; the frame is that of the straight one. */
  bent?: Bent
}

/**
 * A deformation of the plane of a projection: a board of square cells, and where each of its corners has gone, x and y
 * by turns, row by row, one more each way than there are cells; metres. Beyond the board everything is moved as its
 * edge is.
 */
export type Bend = {
  x0: number
  y0: number
  cell: number
  columns: number
  rows: number
  corners: Float64Array
}

/** A projection whose plane is bent: what lies on it is projected by `straight` and then bent. */
export type Bent = { by: Bend; straight: Projection; turn: Turn }

/** The plane of a map that is turned is that of the bend turned by so much. */
export type Turn = { cos: number; sin: number }

const degrees = 180 / Math.PI

const made = new Map<string, Projection>()

export function createProjection(spec: ProjectionSpec): Projection {
  const key = JSON.stringify(spec)
  const known = made.get(key)
  if (known) return known
  const entry = entryOf(spec)
  const { to, from, radius } = entry.ellipsoidal ? geodetic : latitudes[entry.property]
  const raw = turnedBy(
    spec.turnDeg ?? 0,
    entry.raw(spec.parallels.map((p) => latitudes[entry.property].exact(p / degrees)) as [number, number]),
  )
  const centreLat = entry.turnsToCentre ? to(spec.centre[1] / degrees) * degrees : 0
  const turn = geoRotation([-spec.centre[0], -centreLat, entry.turnsToCentre ? -(spec.tiltDeg ?? 0) : 0])
  const lon0 = spec.centre[0]
  const domain: Domain =
    entry.horizonDeg < 180
      ? { kind: 'cap', degrees: entry.horizonDeg }
      : { kind: 'lobes', lobes: entry.lobes?.(spec.parallels) ?? [wholeGlobe] }
  const limit = domain.kind === 'cap' ? Math.cos(domain.degrees / degrees) - 1e-12 : 0

  const toFrame: Frame['toFrame'] = entry.turnsToCentre
    ? (lon, lat) => turn([lon, to(lat / degrees) * degrees])
    : (lon, lat) => [eastOf(lon0, lon), to(lat / degrees) * degrees]
  const place = (x: number, y: number): [number, number] => {
    const [px, py] = raw(x / degrees, y / degrees)
    return [px * radius, -py * radius]
  }
  const frame: Frame = {
    domain,
    toFrame,
    toDegrees: (x, y) => {
      const [lon, lat] = entry.turnsToCentre ? turn.invert([x, y]) : [x + lon0, y]
      return [lon, from(lat / degrees) * degrees]
    },
    place(x, y, lobe) {
      if (domain.kind === 'cap' || domain.lobes.length === 1) return place(x, y)
      // On the meridian or parallel between two lobes, the formula has to see on which of them.
      const { west, east, south, north } = domain.lobes[lobe]
      return place(between(x, west + hair, east - hair), between(y, south + hair, north - hair))
    },
  }
  /** The lobe of a place of the frame, −1 where it is not shown. */
  const lobeOf = (x: number, y: number): number => {
    if (domain.kind === 'cap') return cosineFromMiddle(x, y) < limit ? -1 : 0
    return domain.lobes.findIndex(
      ({ west, east, south, north }) => x >= west && x <= east && y >= south - hair && y <= north + hair,
    )
  }
  let edge: number[][] | null = null
  const projection: Projection = {
    spec,
    frame,
    project(lon, lat) {
      const [x, y] = toFrame(lon, lat)
      return lobeOf(x, y) < 0 ? [NaN, NaN] : place(x, y)
    },
    invert(x, y) {
      const point = raw.invert?.(x / radius, -y / radius)
      if (!point || !point.every(Number.isFinite)) return null
      const [fx, fy] = [point[0] * degrees, point[1] * degrees]
      if (Math.abs(fx) > 180 + 1e-7 || Math.abs(fy) > 90 + 1e-7) return null
      // Formulas clamp what lies beyond the edge of the world; going back shows it.
      const [bx, by] = place(between(fx, -180, 180), between(fy, -90, 90))
      if (!(Math.hypot(bx - x, by - y) < 1) || lobeOf(between(fx, -180, 180), fy) < 0) return null
      const [lon, lat] = frame.toDegrees(fx, fy)
      return [eastOf(0, lon), lat]
    },
    edge: () => (edge ??= edgeOf(frame)),
  }
  if (made.size > 40) made.clear()
  made.set(key, projection)
  return projection
}

/** Degrees by which a place is moved off the border of its lobe: a tenth of a millimetre on the ground. */
const hair = 1e-9

const between = (value: number, low: number, high: number): number => Math.max(low, Math.min(high, value))

/** Degrees to the east of a meridian, −180 to 180. */
function eastOf(lon0: number, lon: number): number {
  const raw = lon - lon0
  return raw > -180 && raw <= 180 ? raw : raw - 360 * Math.round(raw / 360)
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

function edgeOf(frame: Frame): number[][] {
  return loopsOf(frame.domain).map((loop, lobe) => {
    const ring: number[] = []
    for (const s of marksAlong(loop, 0, loop.length).slice(0, -1)) {
      const [x, y] = frame.place(...loop.at(s), lobe)
      if (Number.isFinite(x) && Number.isFinite(y)) ring.push(x, y)
    }
    return ring
  })
}
