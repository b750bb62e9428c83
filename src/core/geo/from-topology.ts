import type { GeometryCollection, GeometryObject, Topology } from 'topojson-specification'
import { SaidError } from '@/core/said/said-error'
import type { Areas, Arcs, Geometry, Lines } from './geometry'
import { wrapped } from './sphere/longitudes'
import { turnRings } from './sphere/rings'

/**
 * The geometry store of one TopoJSON object. Its arcs must be absolute coordinates in degrees (no transform),
 * not cut at the date line. Rings are turned to have the inside on their left; of those round the globe the
 * direction is left as it is in features that are `trusted`.
 * @throws SaidError when areas, lines and points are mixed.
 */
export function geometryFromTopology(
  topology: Topology,
  object: GeometryObject,
  trusted?: (feature: number) => boolean,
): Geometry {
  const features = object.type === 'GeometryCollection' ? (object as GeometryCollection).geometries : [object]
  const kinds = new Set(features.map((feature) => kindOf(feature)).filter((kind) => kind !== null))
  if (kinds.size > 1)
    throw new SaidError(`The file mixes ${[...kinds].join(' and ')}; put each in a file of its own.`)
  const [kind] = kinds
  if (kind === 'points') return pointsOf(features)
  if (kind === undefined) return { kind: 'none' }
  return kind === 'areas' ? areasOf(arcsOf(topology), features, trusted) : linesOf(arcsOf(topology), features)
}

function kindOf(feature: GeometryObject): 'areas' | 'lines' | 'points' | null {
  if (feature.type === null || feature.type === undefined) return null
  if (feature.type.endsWith('Polygon')) return 'areas'
  if (feature.type.endsWith('LineString')) return 'lines'
  if (feature.type.endsWith('Point')) return 'points'
  throw new SaidError(`A feature of the type ${feature.type} cannot be read; split it into its parts first.`)
}

function arcsOf(topology: Topology): Arcs {
  const starts = new Uint32Array(topology.arcs.length + 1)
  topology.arcs.forEach((arc, i) => (starts[i + 1] = starts[i] + arc.length))
  const coords = new Float64Array(starts[topology.arcs.length] * 2)
  let at = 0
  for (const arc of topology.arcs)
    for (let i = 0; i < arc.length; i++) {
      coords[at++] = wrapped(arc[i][0])
      coords[at++] = arc[i][1]
    }
  return { coords, starts }
}

function pointsOf(features: GeometryObject[]): Geometry {
  const coords: number[] = []
  const featureStarts = new Uint32Array(features.length + 1)
  features.forEach((feature, i) => {
    for (const [lon, lat] of positionsOf(feature)) coords.push(wrapped(lon), lat)
    featureStarts[i + 1] = coords.length / 2
  })
  return { kind: 'points', coords: Float64Array.from(coords), featureStarts }
}

function positionsOf(feature: GeometryObject): number[][] {
  if (feature.type === 'Point') return [feature.coordinates]
  return feature.type === 'MultiPoint' ? feature.coordinates : []
}

function linesOf(arcs: Arcs, features: GeometryObject[]): Lines {
  const lists = features.map((feature) => {
    if (feature.type === 'LineString') return [feature.arcs]
    return feature.type === 'MultiLineString' ? feature.arcs : []
  })
  return {
    kind: 'lines',
    arcs,
    ...flatten(lists.flat()),
    featureStarts: runningSum(lists.map((list) => list.length)),
  }
}

function areasOf(arcs: Arcs, features: GeometryObject[], trusted?: (feature: number) => boolean): Areas {
  const polygons = features.map((feature) => {
    if (feature.type === 'Polygon') return [feature.arcs]
    return feature.type === 'MultiPolygon' ? feature.arcs : []
  })
  // Appended in loops: flattening hundreds of thousands of short lists takes longer than all the rest.
  const flat: number[][][] = []
  const rings: number[][] = []
  for (const list of polygons)
    for (const polygon of list) {
      flat.push(polygon)
      for (const ring of polygon) rings.push(ring)
    }
  const areas: Areas = {
    kind: 'areas',
    arcs,
    ...flatten(rings),
    polygonStarts: runningSum(flat.map((rings) => rings.length)),
    featureStarts: runningSum(polygons.map((list) => list.length)),
  }
  turnRings(areas, trusted)
  return areas
}

function flatten(rings: number[][]): { refs: Int32Array; ringStarts: Uint32Array } {
  const ringStarts = runningSum(rings.map((ring) => ring.length))
  const refs = new Int32Array(ringStarts[rings.length])
  let at = 0
  for (const ring of rings) for (let i = 0; i < ring.length; i++) refs[at++] = ring[i]
  return { refs, ringStarts }
}

function runningSum(counts: number[]): Uint32Array {
  const sums = new Uint32Array(counts.length + 1)
  counts.forEach((count, i) => (sums[i + 1] = sums[i] + count))
  return sums
}
