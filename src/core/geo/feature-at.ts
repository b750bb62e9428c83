import Flatbush from 'flatbush'
import { featureCount, type Areas, type Geometry } from './geometry'
import { eastward, wrapped } from './sphere/longitudes'
import { holdsNorthPole, polygonHolds, ringShape } from './sphere/rings'

/** Boxes of polygons, with the feature and polygon of each; one across the date line has two. */
type Index = { boxes: Flatbush | null; features: Int32Array; polygons: Int32Array; north: Uint8Array }

const indexes = new WeakMap<Areas, Index>()

/** The topmost area under a longitude and latitude, or −1. Lines and points give −1. */
export function featureAt(geometry: Geometry, lon: number, lat: number): number {
  if (geometry.kind !== 'areas') return -1
  const { boxes, features, polygons, north } = indexOf(geometry)
  if (!boxes) return -1
  const x = wrapped(lon)
  let best = -1
  boxes.search(x, lat, x, lat, (i) => {
    if (features[i] > best && polygonHolds(geometry, polygons[i], [x, lat], north[polygons[i]] === 1))
      best = features[i]
    return false
  })
  return best
}

/** Degrees from a border within which a place lies on it: a tenth of a millimetre. */
const onBorder = 1e-9

/** The topmost area on whose border a place lies, or −1. */
export function featureTouching(areas: Areas, lon: number, lat: number): number {
  const { boxes, features, polygons } = indexOf(areas)
  if (!boxes) return -1
  const x = wrapped(lon)
  const sides = Math.abs(x) > 180 - onBorder ? [x, -x] : [x]
  let best = -1
  for (const side of sides)
    boxes.search(side - onBorder, lat - onBorder, side + onBorder, lat + onBorder, (i) => {
      if (features[i] > best && bounds(areas, polygons[i], x, lat)) best = features[i]
      return false
    })
  return best
}

/** Whether a place lies on an edge of polygon `p`. */
function bounds(areas: Areas, p: number, lon: number, lat: number): boolean {
  const { coords, starts } = areas.arcs
  const [from, to] = [areas.ringStarts[areas.polygonStarts[p]], areas.ringStarts[areas.polygonStarts[p + 1]]]
  for (let k = from; k < to; k++) {
    const arc = areas.refs[k] < 0 ? ~areas.refs[k] : areas.refs[k]
    for (let v = starts[arc]; v + 1 < starts[arc + 1]; v++) {
      const [ax, ay] = [eastward(lon, coords[2 * v]), coords[2 * v + 1] - lat]
      const dx = eastward(coords[2 * v], coords[2 * v + 2])
      const dy = coords[2 * v + 3] - coords[2 * v + 1]
      const length = dx * dx + dy * dy
      const share = length ? Math.max(0, Math.min(1, -(ax * dx + ay * dy) / length)) : 0
      if (Math.hypot(ax + share * dx, ay + share * dy) <= onBorder) return true
    }
  }
  return false
}

function indexOf(areas: Areas): Index {
  const known = indexes.get(areas)
  if (known) return known
  const boxes: [number, number, number, number][] = []
  const features: number[] = []
  const polygons: number[] = []
  const north = new Uint8Array(areas.polygonStarts.length - 1)
  for (let f = 0; f < featureCount(areas); f++)
    for (let p = areas.featureStarts[f]; p < areas.featureStarts[f + 1]; p++) {
      north[p] = holdsNorthPole(areas, p) ? 1 : 0
      for (const box of polygonBoxes(areas, p, north[p] === 1)) {
        boxes.push(box)
        features.push(f)
        polygons.push(p)
      }
    }
  const made: Index = {
    boxes: boxes.length ? new Flatbush(boxes.length) : null,
    features: Int32Array.from(features),
    polygons: Int32Array.from(polygons),
    north,
  }
  for (const box of boxes) made.boxes?.add(...box)
  made.boxes?.finish()
  indexes.set(areas, made)
  return made
}

/** Boxes of longitude (−180 to 180) and latitude that hold a polygon. */
function polygonBoxes(areas: Areas, p: number, north: boolean): [number, number, number, number][] {
  const { polygonStarts } = areas
  const first = polygonStarts[p]
  if (first === polygonStarts[p + 1]) return []
  const outer = ringShape(areas, first)
  let round = north || outer.turns !== 0
  for (let r = first + 1; r < polygonStarts[p + 1] && !round; r++) round = ringShape(areas, r).turns !== 0
  // What goes round a pole reaches it or is a band; either way no box is smaller by much.
  if (round || outer.east - outer.west >= 360) return [[-180, -90, 180, 90]]
  const { south, north: top } = outer
  const west = wrapped(outer.west)
  const east = west + outer.east - outer.west
  return east <= 180
    ? [[west, south, east, top]]
    : [
        [west, south, 180, top],
        [-180, south, east - 360, top],
      ]
}
