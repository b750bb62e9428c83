import Flatbush from 'flatbush'
import { eachVertex, featureCount, ringRange, type Geometry } from './geometry'

const indexes = new WeakMap<Geometry, Flatbush>()

/** The topmost area under a longitude and latitude, or −1. Lines and points give −1. */
export function featureAt(geometry: Geometry, lon: number, lat: number): number {
  if (geometry.kind !== 'areas' || !featureCount(geometry)) return -1
  const candidates = indexOf(geometry).search(lon, lat, lon, lat).sort((a, b) => b - a)
  return candidates.find((feature) => contains(geometry, feature, lon, lat)) ?? -1
}

function indexOf(areas: Extract<Geometry, { kind: 'areas' }>): Flatbush {
  const known = indexes.get(areas)
  if (known) return known
  const index = new Flatbush(featureCount(areas))
  for (let f = 0; f < featureCount(areas); f++) {
    let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
    const [from, to] = ringRange(areas, f)
    for (let r = from; r < to; r++)
      eachVertex(areas, r, (v) => {
        const [x, y] = [areas.arcs.coords[2 * v], areas.arcs.coords[2 * v + 1]]
        if (x < x0) x0 = x
        if (x > x1) x1 = x
        if (y < y0) y0 = y
        if (y > y1) y1 = y
      })
    index.add(x0, y0, x1, y1)
  }
  index.finish()
  indexes.set(areas, index)
  return index
}

/** Whether a ray to the east crosses the rings an odd number of times. */
function contains(areas: Extract<Geometry, { kind: 'areas' }>, feature: number, lon: number, lat: number): boolean {
  const { coords } = areas.arcs
  let inside = false
  const [from, to] = ringRange(areas, feature)
  for (let r = from; r < to; r++) {
    let [px, py] = [NaN, NaN]
    eachVertex(areas, r, (v) => {
      const [x, y] = [coords[2 * v], coords[2 * v + 1]]
      if (py > lat !== y > lat && lon < ((px - x) * (lat - y)) / (py - y) + x) inside = !inside
      px = x
      py = y
    })
  }
  return inside
}
