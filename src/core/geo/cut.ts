import buffer from '@turf/buffer'
import Flatbush from 'flatbush'
import { presimplify } from 'topojson-simplify'
import type { Geometry as Shape, MultiPolygon, Position } from 'geojson'
import { featureCount, type Areas, type Geometry, type Lines } from './geometry'
import { asTopology } from './merge'
import { intersectionOf, unionOf } from './polygon-clipping'
import { workingProjection } from './reshape'
import { geometryFromShapes, shapeOf } from './shapes'
import { flatPolygons } from './sphere/flat'

/** Hears how much is done, 0 to 1. */
export type Tell = (share: number) => void
const silent: Tell = () => undefined

/** The parts of each area that lie in any of the others; null where nothing is left. */
export function clipAreas(areas: Areas, by: Areas, tell: Tell = silent): (MultiPolygon | null)[] {
  const pieces = Array.from({ length: featureCount(by) }, (_, f) => flatPolygons(by, f)).flat()
  if (!pieces.length) return Array.from({ length: featureCount(areas) }, () => null)
  const index = new Flatbush(pieces.length)
  for (const [outer] of pieces) index.add(...boxOf(outer))
  index.finish()
  const count = featureCount(areas)
  return Array.from({ length: count }, (_, f) => {
    tell(f / count)
    const own = flatPolygons(areas, f)
    if (!own.length) return null
    const near = new Set(own.flatMap(([outer]) => index.search(...boxOf(outer))))
    if (!near.size) return null
    const left = intersectionOf(own, unionOf([...near].map((i) => pieces[i])))
    return left.length ? { type: 'MultiPolygon', coordinates: left } : null
  })
}

function boxOf(ring: Position[]): [number, number, number, number] {
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const [x, y] of ring) {
    box[0] = Math.min(box[0], x)
    box[1] = Math.min(box[1], y)
    box[2] = Math.max(box[2], x)
    box[3] = Math.max(box[3], y)
  }
  return box
}

/**
 * Everything within `km` of each feature, as areas; reckoned in an azimuthal projection about the feature.
 */
export function bufferFeatures(geometry: Geometry, km: number, tell: Tell = silent): Geometry {
  const count = featureCount(geometry)
  const shapes = Array.from({ length: count }, (_, f): Shape | null => {
    tell(f / count)
    const shape = shapeOf(geometry, f)
    if (!shape) return null
    const around = buffer({ type: 'Feature', properties: {}, geometry: shape }, km, {
      units: 'kilometers',
      steps: 16,
    })
    return around?.geometry ?? null
  })
  return geometryFromShapes(shapes)
}

/**
 * Fewer vertices, borders still shared: those go first whose triangle with their neighbours is smallest
 * (Visvalingam and Whyatt 1993), until `share` (0 to 1) of the inner vertices are left. Weights are square
 * metres on the ground.
 */
export function simplifyShared(geometry: Areas | Lines, share: number): Areas | Lines {
  const projection = workingProjection([geometry])
  const topology = asTopology(geometry)
  const projected = {
    ...topology,
    arcs: topology.arcs.map((arc) => arc.map(([lon, lat]) => projection.project(lon, lat))),
  }
  // A third number is put on every position, and arcs alone are enough: neither is said by the library's types.
  const weighted = presimplify(projected as never).arcs as unknown as [number, number, number][][]
  const weights = weighted
    .flatMap((arc) => arc.slice(1, -1).map((p) => p[2]))
    .filter(Number.isFinite)
    .sort((a, b) => b - a)
  const least = weights[Math.floor(weights.length * share)] ?? -Infinity
  const starts = new Uint32Array(geometry.arcs.starts.length)
  const coords: number[] = []
  weighted.forEach((arc, a) => {
    const closed = geometry.kind === 'areas' && isClosed(arc)
    const kept = arc.map((p, i) => i === 0 || i === arc.length - 1 || p[2] > least)
    // A ring keeps at least a triangle.
    if (closed && kept.filter(Boolean).length < 4)
      [...arc.keys()]
        .slice(1, -1)
        .sort((p, q) => arc[q][2] - arc[p][2])
        .slice(0, 2)
        .forEach((i) => (kept[i] = true))
    arc.forEach((_, i) => kept[i] && coords.push(topology.arcs[a][i][0], topology.arcs[a][i][1]))
    starts[a + 1] = coords.length / 2
  })
  return { ...geometry, arcs: { coords: Float64Array.from(coords), starts }, taken: undefined }
}

const isClosed = (arc: number[][]): boolean =>
  arc[0][0] === arc[arc.length - 1][0] && arc[0][1] === arc[arc.length - 1][1]
