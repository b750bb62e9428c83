import geographiclib from 'geographiclib-geodesic'
import { eachVertex, featureCount, ringRange, type Geometry } from './geometry'

const { WGS84 } = geographiclib.Geodesic
const areas = new WeakMap<Geometry, Float64Array>()
const lengths = new WeakMap<Geometry, Float64Array>()

/**
 * Square metres of every feature on the WGS 84 ellipsoid, edges being geodesics (Karney 2013, section 6); 0
 * for lines and points.
 */
export function groundAreas(geometry: Geometry): Float64Array {
  const known = areas.get(geometry)
  if (known) return known
  const out = new Float64Array(featureCount(geometry))
  if (geometry.kind === 'areas') {
    for (let f = 0; f < out.length; f++) {
      const [from, to] = ringRange(geometry, f)
      for (let r = from; r < to; r++) {
        const polygon = WGS84.Polygon(false)
        let skipFirst = true
        eachVertex(geometry, r, (v) => {
          // A ring closes where it began; the measuring closes it by itself.
          if (skipFirst) skipFirst = false
          else polygon.AddPoint(geometry.arcs.coords[2 * v + 1], geometry.arcs.coords[2 * v])
        })
        // Outer rings run anticlockwise and count, holes clockwise and are taken off.
        out[f] += polygon.Compute(false, true).area ?? 0
      }
    }
  }
  areas.set(geometry, out)
  return out
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
