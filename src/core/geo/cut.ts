import Flatbush from 'flatbush'
import { presimplify } from 'topojson-simplify'
import type { MultiPolygon } from 'geojson'
import { boxOf, type Tell } from './buffer'
import { boxed } from './box-clip'
import { featureCount, type Areas, type Lines } from './geometry'
import { asTopology } from './merge'
import { intersectionOf, unionOf } from './polygon-clipping'
import { workingProjection } from './reshape'
import { flatPolygons } from './sphere/flat'
import { mergeAreas } from './sphere/merge-areas'

const silent: Tell = () => undefined

/**
 * The parts of each area that lie in any of the others; null where nothing is left. Reckoned in longitude and
 * latitude, on what of the others lies in the box around each part.
 */
export function clipAreas(areas: Areas, by: Areas, tell: Tell = silent): (MultiPolygon | null)[] {
  // Borders between the others are no borders here; they go first, arc by arc.
  const pieces = flatPolygons(mergeAreas(by, [[...Array(featureCount(by)).keys()]]), 0)
  if (!pieces.length) return Array.from({ length: featureCount(areas) }, () => null)
  const index = new Flatbush(pieces.length)
  for (const [outer] of pieces) index.add(...boxOf(outer))
  index.finish()
  const count = featureCount(areas)
  return Array.from({ length: count }, (_, f) => {
    tell(f / count)
    const own = flatPolygons(areas, f)
    if (!own.length) return null
    const left = own.flatMap((part) => {
      const box = boxOf(part[0])
      const near = index
        .search(...box)
        .map((i) => boxed(pieces[i], box))
        .filter((piece) => piece !== null)
      return near.length ? intersectionOf([part], near.length > 1 ? unionOf(near) : near) : []
    })
    return left.length ? { type: 'MultiPolygon', coordinates: left } : null
  })
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
