import Flatbush from 'flatbush'
import { emptyBounds, takeIn } from '@/core/scene/bounds'
import { featureCount, ringRange, type Geometry } from './geometry'

const indexes = new WeakMap<Geometry, Flatbush>()

/** The topmost area under a longitude and latitude, or −1. Lines and points give −1. */
export function featureAt(geometry: Geometry, lon: number, lat: number): number {
  if (geometry.kind !== 'areas' || !featureCount(geometry)) return -1
  const candidates = indexOf(geometry)
    .search(lon, lat, lon, lat)
    .sort((a, b) => b - a)
  return candidates.find((feature) => contains(geometry, feature, lon, lat)) ?? -1
}

function indexOf(areas: Extract<Geometry, { kind: 'areas' }>): Flatbush {
  const known = indexes.get(areas)
  if (known) return known
  const index = new Flatbush(featureCount(areas))
  for (let f = 0; f < featureCount(areas); f++) {
    const bounds = emptyBounds()
    const [from, to] = ringRange(areas, f)
    for (let k = areas.ringStarts[from]; k < areas.ringStarts[to]; k++) {
      const arc = areas.refs[k] < 0 ? ~areas.refs[k] : areas.refs[k]
      takeIn(bounds, areas.arcs.coords, areas.arcs.starts[arc], areas.arcs.starts[arc + 1])
    }
    index.add(...bounds)
  }
  index.finish()
  indexes.set(areas, index)
  return index
}

/**
 * Whether a ray to the east crosses the rings an odd number of times. Which way an arc is run along does not
 * matter for that, so both neighbours of a border reckon with the same numbers and a point near it lies in
 * one of them only.
 */
function contains(
  areas: Extract<Geometry, { kind: 'areas' }>,
  feature: number,
  lon: number,
  lat: number,
): boolean {
  const { refs, ringStarts } = areas
  const { coords, starts } = areas.arcs
  const [from, to] = ringRange(areas, feature)
  let inside = false
  for (let k = ringStarts[from]; k < ringStarts[to]; k++) {
    const arc = refs[k] < 0 ? ~refs[k] : refs[k]
    const last = 2 * (starts[arc + 1] - 1)
    for (let i = 2 * starts[arc]; i < last; i += 2) {
      const y = coords[i + 1]
      const next = coords[i + 3]
      if (
        y > lat !== next > lat &&
        lon < ((coords[i] - coords[i + 2]) * (lat - next)) / (y - next) + coords[i + 2]
      )
        inside = !inside
    }
  }
  return inside
}
