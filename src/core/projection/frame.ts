/**
 * How a projection sees the globe: places in degrees east and north of the middle of its formula (with the
 * latitude that stands in for the geodetic one, and turned where the projection is), and the domain on which the
 * formula holds. What lies across the edge of the domain is torn.
 */
export type Frame = {
  toFrame(lon: number, lat: number): [x: number, y: number]
  toDegrees(x: number, y: number): [lon: number, lat: number]
  domain: Domain
  /** Projected metres of a place of the frame, seen from one lobe of the domain. */
  place(x: number, y: number, lobe: number): [x: number, y: number]
  /** Whether straight lines of the frame stay straight. */
  flat?: boolean
}

/** A part of the globe between two meridians and two parallels of a frame, degrees. */
export type Lobe = { west: number; east: number; south: number; north: number }

/** Lobes side by side, or everything within so many degrees of the middle. */
export type Domain = { kind: 'lobes'; lobes: Lobe[] } | { kind: 'cap'; degrees: number }

export const wholeGlobe: Lobe = { west: -180, east: 180, south: -90, north: 90 }

const degrees = 180 / Math.PI

/** The way around a lobe or cap with the inside on the left, by a number from 0 up to `length`. */
export type Loop = {
  length: number
  /** Where it turns sharply. */
  corners: number[]
  at(s: number): [x: number, y: number]
  of(x: number, y: number): number
}

export function loopOfLobe({ west, east, south, north }: Lobe): Loop {
  const [width, height] = [east - west, north - south]
  return {
    length: 2 * (width + height),
    corners: [0, height, height + width, 2 * height + width],
    at(given) {
      let s = given % (2 * (width + height))
      if (s < 0) s += 2 * (width + height)
      if (s <= height) return [east, south + s]
      if (s <= height + width) return [east - (s - height), north]
      if (s <= 2 * height + width) return [west, north - (s - height - width)]
      return [west + (s - 2 * height - width), south]
    },
    of(x, y) {
      const gaps = [east - x, north - y, x - west, y - south].map(Math.abs)
      const side = gaps.indexOf(Math.min(...gaps))
      if (side === 0) return y - south
      if (side === 1) return height + (east - x)
      if (side === 2) return height + width + (north - y)
      return 2 * height + width + (x - west)
    },
  }
}

/** Angles are counted from the east of the middle; the frame's middle is at 0, 0. */
export function loopOfCap(capDegrees: number): Loop {
  const [sin, cos] = [Math.sin(capDegrees / degrees), Math.cos(capDegrees / degrees)]
  return {
    length: 360,
    corners: [],
    at(s) {
      const [y, z] = [sin * Math.cos(s / degrees), sin * Math.sin(s / degrees)]
      return [Math.atan2(y, cos) * degrees, Math.asin(Math.max(-1, Math.min(1, z))) * degrees]
    },
    of(x, y) {
      const angle = Math.atan2(Math.sin(y / degrees), Math.cos(y / degrees) * Math.sin(x / degrees)) * degrees
      return angle < 0 ? angle + 360 : angle
    },
  }
}

/** Steps along the edge of a domain, degrees; near the poles, where edges bend most, they are shorter. */
const [edgeStep, polarStep, polar] = [0.1, 0.01, 84]

/** Numbers from one place of a loop on to another, both with it, near enough to follow any edge on the map. */
export function marksAlong(loop: Loop, from: number, to: number): number[] {
  const out: number[] = []
  const ahead = loop.corners
    .flatMap((s) => [s, s + loop.length])
    .filter((s) => s > from && s < to)
    .sort((a, b) => a - b)
  for (const stop of [...ahead, to]) {
    for (let s = out.length ? out[out.length - 1] : from; s < stop;) {
      out.push(s)
      const [x, y] = loop.at(s)
      const along = loop.corners.length > 0 && loop.at(s + polarStep)[0] === x && Math.abs(y) > polar
      s = Math.min(stop, s + (along ? polarStep : edgeStep))
      if (s === stop) out.push(s)
    }
  }
  return [...new Set(out.length ? out : [from, to])]
}

export const loopsOf = (domain: Domain): Loop[] =>
  domain.kind === 'cap' ? [loopOfCap(domain.degrees)] : domain.lobes.map(loopOfLobe)

/** Cosine of the degrees between a place of the frame and its middle. */
export const cosineFromMiddle = (x: number, y: number): number =>
  Math.cos(x / degrees) * Math.cos(y / degrees)
