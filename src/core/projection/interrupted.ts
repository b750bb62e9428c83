import type { GeoRawProjection } from 'd3-geo'
import type { Lobe } from './frame'

/**
 * Lobes that keep land whole, each about a middle meridian of its own (Goode 1925): degrees from the middle of the
 * map.
 */
export const landLobes: (Lobe & { middle: number })[] = [
  { west: -180, east: -40, south: 0, north: 90, middle: -100 },
  { west: -40, east: 180, south: 0, north: 90, middle: 30 },
  { west: -180, east: -100, south: -90, north: 0, middle: -160 },
  { west: -100, east: -20, south: -90, north: 0, middle: -60 },
  { west: -20, east: 80, south: -90, north: 0, middle: 20 },
  { west: 80, east: 180, south: -90, north: 0, middle: 140 },
]

const radians = Math.PI / 180

/** A pseudocylindrical formula for each lobe, lobes standing side by side on the equator. */
export function interrupted(raw: GeoRawProjection, lobes: (Lobe & { middle: number })[]): GeoRawProjection {
  const parts = lobes.map(({ west, east, south, north, middle }) => ({
    west: west * radians,
    east: east * radians,
    south: south * radians,
    north: north * radians,
    middle: middle * radians,
    shift: raw(middle * radians, 0)[0],
  }))
  const forward = (lambda: number, phi: number): [number, number] => {
    const lobe =
      parts.find(
        ({ west, east, south, north }) => lambda >= west && lambda <= east && phi >= south && phi <= north,
      ) ?? parts[0]
    const [x, y] = raw(lambda - lobe.middle, phi)
    return [x + lobe.shift, y]
  }
  const invert = (x: number, y: number): [number, number] => {
    for (const { west, east, south, north, middle, shift } of parts) {
      if (y > 0 ? north <= 0 : south >= 0) continue
      const place = raw.invert?.(x - shift, y)
      if (place && place[0] + middle >= west - 1e-9 && place[0] + middle <= east + 1e-9)
        return [place[0] + middle, place[1]]
    }
    return [NaN, NaN]
  }
  return Object.assign(forward, { invert }) as GeoRawProjection
}
