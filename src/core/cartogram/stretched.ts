import { featureCount, ringRange, type Arcs, type Areas, type Geometry } from '@/core/geo/geometry'
import { drain, within, type Steps } from '@/core/grid/steps'
import { createMemory, numberOf } from '@/core/memory/memory'
import type { Bend, Projection } from '@/core/projection/projection'
import { nearestOnMap } from './to-degrees'
import { errorOf, flowed, type Fit, type Flowed } from './flow'
import { judged, type Judged } from './judge'
import { gravities, ringAreas, type PlaneAreas } from './plane'

type Stretched = {
  geometry: Geometry
  /** The same in the plane of the map. */
  placed: Areas | null
  judged: Judged
  fit: Fit | null
  bend: Bend | null
  drawnIn: number
}

/**
 * Areas stretched so that each is as large as its target beside the others, and all that have one together exactly as
 * large as their targets. Areas without a target keep their share of the ground. Where the projection cuts areas at the
 * edge of the map, each piece is stretched with what lies about it; what would come to lie off the map is drawn in, and
 * counts for the errors as it is then.
 * @param target the area of each, m² of the plane; 0 for none
 */
export function* stretched(
  plane: PlaneAreas,
  target: Float64Array,
  projection: Projection,
): Steps<Stretched> {
  const { projected, areas, centres } = plane
  const reach = target.map((m2) => Math.sqrt(m2 / Math.PI))
  const total = sum(target)
  if (!(total > 0))
    return {
      geometry: { kind: 'none' },
      placed: null,
      judged: judged(plane, centres, reach, 'continuous'),
      fit: null,
      bend: null,
      drawnIn: 0,
    }
  const flow = yield* within(flowOnce(projected, target), 0, 0.95)
  yield 0.95
  const flown = ringAreas(flow.areas)
  yield 0.96
  const scale = Math.sqrt(total / sum(flown.map((m2, f) => (target[f] > 0 ? m2 : 0))))
  const middle = [0, 1].map(
    (k) => sum(areas.map((m2, f) => (m2 > 0 ? m2 * centres[2 * f + k] : 0))) / sum(areas),
  ) as [number, number]
  const coords = flow.areas.arcs.coords.map((value, i) => middle[i % 2] + scale * (value - middle[i % 2]))
  yield 0.96
  const { lonLat, off } = yield* within(inDegrees(coords, middle, projection), 0.96, 0.99)
  const { refs, ringStarts, polygonStarts, featureStarts } = projected
  const { starts } = flow.areas.arcs
  const shared = { refs, ringStarts, polygonStarts, featureStarts }
  const geometry: Areas = { kind: 'areas', arcs: { coords: lonLat, starts }, ...shared }
  const placed: Areas = { kind: 'areas', arcs: { coords, starts }, ...shared }
  const { centres: now, areas: measured } = yield* within(gravities(placed), 0.99, 1)
  return {
    geometry,
    placed,
    judged: judged(plane, now, reach, 'continuous'),
    fit: { ...flow.fit, ...(off.size && errorOf(measured, target)) },
    bend: {
      ...flow.bend,
      corners: flow.bend.corners.map((value, i) => middle[i % 2] + scale * (value - middle[i % 2])),
    },
    drawnIn: reachingOff(geometry, off),
  }
}

const remember = createMemory<Arcs, Flowed>('stretched areas', { maxBytes: 64 * 2 ** 20 })

/** Areas as they have flown. How large they are all together does not matter for that, so that it is done once. */
function* flowOnce(projected: Areas, target: Float64Array): Steps<Flowed> {
  const all = sum(target)
  const shares = target.map((m2) => (m2 > 0 ? Number((m2 / all).toPrecision(12)) : NaN))
  const key = `${numberOf(projected.refs)} ${shares.join()}`
  const made = remember.has(projected.arcs, key) ? null : yield* flowed(projected, shares)
  return remember(projected.arcs, key, () => made ?? drain(flowed(projected, shares)))
}

const sum = (numbers: Float64Array): number => numbers.reduce((all, value) => all + value, 0)

/** So many vertices are brought to degrees in one piece. */
const pieceVertices = 30_000

/** Places of the plane in degrees; `off` are the vertices that lay off the map of the world and are moved onto it. */
function* inDegrees(
  coords: Float64Array,
  middle: [number, number],
  projection: Projection,
): Steps<{ lonLat: Float64Array; off: Set<number> }> {
  const lonLat = new Float64Array(coords.length)
  const off = new Set<number>()
  for (let v = 0; v < coords.length; v += 2) {
    const place: [number, number] = [coords[v], coords[v + 1]]
    if (v % (2 * pieceVertices) === 0) yield v / coords.length
    const found = projection.invert(...place)
    const [lon, lat] = found ?? nearestOnMap(projection, middle, place) ?? [NaN, NaN]
    if (!found) {
      off.add(v / 2)
      coords.set(projection.project(lon, lat), v)
    }
    lonLat[v] = lon
    lonLat[v + 1] = lat
  }
  return { lonLat, off }
}

/** How many features have one of some vertices. */
function reachingOff(areas: Areas, off: Set<number>): number {
  if (!off.size) return 0
  const { starts } = areas.arcs
  const reaches = (arc: number): boolean => {
    for (let v = starts[arc]; v < starts[arc + 1]; v++) if (off.has(v)) return true
    return false
  }
  let count = 0
  for (let f = 0; f < featureCount(areas); f++) {
    const [from, to] = ringRange(areas, f)
    const own = areas.refs.subarray(areas.ringStarts[from], areas.ringStarts[to])
    if (own.some((ref) => reaches(ref < 0 ? ~ref : ref))) count++
  }
  return count
}
