import type { Position } from 'geojson'
import { authalicRadius, authalicSine } from '@/core/projection/authalic'

const radians = Math.PI / 180
/** Places and weights of Gauss's formulas for two and three places in −1 to 1. */
const two = Math.sqrt(1 / 3)
const three = Math.sqrt(3 / 5)

/**
 * ∮ sin β dλ along a ring, β being the authalic latitude: by it go areas on the ellipsoid. Edges are straight in
 * longitude and latitude.
 */
export class SineIntegral {
  private sum = 0
  private east = 0
  private base = 0
  private lat = NaN

  /** The next vertex of the ring, so many degrees to the east of the one before. */
  add(step: number, lat: number): void {
    if (Number.isNaN(this.lat)) this.base = authalicSine(lat * radians)
    else {
      // Only what differs from the first vertex is summed, so that small rings keep their figures.
      if (step !== 0) this.sum += step * radians * meanSine(this.lat * radians, lat * radians, this.base)
      this.east += step
    }
    this.lat = lat
  }

  /** How often the ring goes round the axis. */
  get turns(): number {
    return Math.round(this.east / 360)
  }

  /** The integral, square radians. */
  get value(): number {
    return this.sum + this.turns * 2 * Math.PI * this.base
  }
}

/** Square metres inside a closed ring of unwrapped longitudes, positive where it runs anticlockwise. */
export function surfaceInside(places: Position[]): number {
  const integral = new SineIntegral()
  places.forEach(([x, lat], i) => integral.add(i ? x - places[i - 1][0] : 0, lat))
  return -integral.value * authalicRadius ** 2
}

/** The mean of sin β − `base` between two latitudes. */
function meanSine(a: number, b: number, base: number): number {
  const [middle, half] = [(a + b) / 2, (b - a) / 2]
  const size = Math.abs(half)
  if (size === 0) return authalicSine(a) - base
  if (size < 0.005) return (authalicSine(middle - half * two) + authalicSine(middle + half * two)) / 2 - base
  if (size > 0.1) return (meanSine(a, middle, base) + meanSine(middle, b, base)) / 2
  return (
    (5 * authalicSine(middle - half * three) +
      8 * authalicSine(middle) +
      5 * authalicSine(middle + half * three)) /
      18 -
    base
  )
}
