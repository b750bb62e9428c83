import geographiclib from 'geographiclib-geodesic'
import { authalicRadius, authalicSine } from '@/core/projection/authalic'
import { eachVertex, featureCount, ringRange, type Areas, type Geometry } from './geometry'
import { eastward } from './sphere/longitudes'
import { isWholeGlobe } from './sphere/rings'

const { WGS84 } = geographiclib.Geodesic
const areas = new WeakMap<Geometry, Float64Array>()
const lengths = new WeakMap<Geometry, Float64Array>()

/** The surface of the WGS 84 ellipsoid, m². */
export const surfaceOfGlobe = 4 * Math.PI * authalicRadius ** 2

/**
 * Square metres of every feature on the WGS 84 ellipsoid, edges being straight in longitude and latitude (RFC
 * 7946, section 3.1.1): the sine of the authalic latitude integrated over the longitude, by Gauss's formula
 * along each edge. Edges of a kilometre give the areas of geodesics to a billionth. 0 for lines and points.
 */
export function groundAreas(geometry: Geometry): Float64Array {
  const known = areas.get(geometry)
  if (known) return known
  const out = new Float64Array(featureCount(geometry))
  if (geometry.kind === 'areas')
    for (let f = 0; f < out.length; f++)
      for (let p = geometry.featureStarts[f]; p < geometry.featureStarts[f + 1]; p++)
        out[f] += polygonArea(geometry, p)
  areas.set(geometry, out)
  return out
}

/** Square metres of polygon `p` on the ellipsoid. */
export function polygonArea(geometry: Areas, p: number): number {
  let [sum, turns, globe] = [0, 0, false]
  for (let r = geometry.polygonStarts[p]; r < geometry.polygonStarts[p + 1]; r++) {
    const ring = ringIntegral(geometry, r)
    sum -= ring.integral
    turns += ring.turns
    if (isWholeGlobe(geometry, r)) globe = true
  }
  return authalicRadius ** 2 * (sum + 2 * Math.PI * Math.abs(turns) + (globe ? 4 * Math.PI : 0))
}

const radians = Math.PI / 180
/** Places and weights of Gauss's formulas for two and three places in −1 to 1. */
const two = Math.sqrt(1 / 3)
const three = Math.sqrt(3 / 5)

/** ∮ sin β dλ along a ring, and how often it goes round the axis. */
function ringIntegral(geometry: Areas, ring: number): { integral: number; turns: number } {
  const { coords } = geometry.arcs
  let [integral, lon, lat] = [0, NaN, NaN]
  let [east, base] = [0, 0]
  eachVertex(geometry, ring, (v) => {
    const [nextLon, nextLat] = [coords[2 * v], coords[2 * v + 1]]
    if (Number.isNaN(lon)) base = authalicSine(nextLat * radians)
    else {
      const step = eastward(lon, nextLon)
      // Only what differs from the first vertex is summed, so that small rings keep their figures.
      if (step !== 0) integral += step * radians * meanSine(lat * radians, nextLat * radians, base)
      east += step
    }
    lon = nextLon
    lat = nextLat
  })
  const turns = Math.round(east / 360)
  return { integral: integral + turns * 2 * Math.PI * base, turns }
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

/** Metres of every feature's lines along geodesics (of its outline, for areas); 0 for points. */
export function groundLengths(geometry: Geometry): Float64Array {
  const known = lengths.get(geometry)
  if (known) return known
  const out = new Float64Array(featureCount(geometry))
  if (geometry.kind === 'areas' || geometry.kind === 'lines') {
    const { coords } = geometry.arcs
    for (let f = 0; f < out.length; f++) {
      const [from, to] = ringRange(geometry, f)
      for (let r = from; r < to; r++) {
        let [lon, lat] = [NaN, NaN]
        eachVertex(geometry, r, (v) => {
          if (!Number.isNaN(lon)) out[f] += WGS84.Inverse(lat, lon, coords[2 * v + 1], coords[2 * v]).s12 ?? 0
          lon = coords[2 * v]
          lat = coords[2 * v + 1]
        })
      }
    }
  }
  lengths.set(geometry, out)
  return out
}
