import geographiclib from 'geographiclib-geodesic'
import { authalicRadius } from '@/core/projection/authalic'
import { eachVertex, featureCount, ringRange, type Areas, type Geometry } from './geometry'
import { eastward } from './sphere/longitudes'
import { isWholeGlobe } from './sphere/rings'
import { SineIntegral } from './sphere/sine-integral'

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

/** ∮ sin β dλ along a ring, and how often it goes round the axis. */
function ringIntegral(geometry: Areas, ring: number): { integral: number; turns: number } {
  const { coords } = geometry.arcs
  const sum = new SineIntegral()
  let lon = NaN
  eachVertex(geometry, ring, (v) => {
    const nextLon = coords[2 * v]
    sum.add(Number.isNaN(lon) ? 0 : eastward(lon, nextLon), coords[2 * v + 1])
    lon = nextLon
  })
  return { integral: sum.value, turns: sum.turns }
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
