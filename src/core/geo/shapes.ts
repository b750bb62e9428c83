import type { Geometry as Shape, Position } from 'geojson'
import { SaidError } from '@/core/said/said-error'
import { eachVertex, type Areas, type Geometry, type Lines, type Points } from './geometry'
import { sharedArcs, type Runs } from './shared-arcs'
import { wrapped } from './sphere/longitudes'
import { turnRings } from './sphere/rings'
import { onSphere } from './sphere/sew'

/** The vertices of ring or path `r` as positions. */
export function ringPositions(geometry: Areas | Lines, r: number): Position[] {
  const { coords } = geometry.arcs
  const ring: Position[] = []
  eachVertex(geometry, r, (v) => ring.push([coords[2 * v], coords[2 * v + 1]]))
  return ring
}

/** Polygons of feature `f`, each a list of closed rings, the outer one first. */
export function polygonsOf(areas: Areas, f: number): Position[][][] {
  const polygons: Position[][][] = []
  for (let p = areas.featureStarts[f]; p < areas.featureStarts[f + 1]; p++) {
    const rings: Position[][] = []
    for (let r = areas.polygonStarts[p]; r < areas.polygonStarts[p + 1]; r++)
      rings.push(ringPositions(areas, r))
    polygons.push(rings)
  }
  return polygons
}

/** Feature `f` as a GeoJSON shape (RFC 7946), or null where it has none. */
export function shapeOf(geometry: Geometry, f: number): Shape | null {
  if (geometry.kind === 'none') return null
  const { featureStarts } = geometry
  const count = featureStarts[f + 1] - featureStarts[f]
  if (count === 0) return null
  if (geometry.kind === 'points') {
    const points = Array.from({ length: count }, (_, i): Position => [
      geometry.coords[2 * (featureStarts[f] + i)],
      geometry.coords[2 * (featureStarts[f] + i) + 1],
    ])
    return count === 1
      ? { type: 'Point', coordinates: points[0] }
      : { type: 'MultiPoint', coordinates: points }
  }
  if (geometry.kind === 'lines') {
    const paths = Array.from({ length: count }, (_, i) => ringPositions(geometry, featureStarts[f] + i))
    return count === 1
      ? { type: 'LineString', coordinates: paths[0] }
      : { type: 'MultiLineString', coordinates: paths }
  }
  const polygons = polygonsOf(geometry, f)
  return count === 1
    ? { type: 'Polygon', coordinates: polygons[0] }
    : { type: 'MultiPolygon', coordinates: polygons }
}

type Kind = 'areas' | 'lines' | 'points'

function kindOf(shape: Shape): Kind {
  if (shape.type.endsWith('Polygon')) return 'areas'
  if (shape.type.endsWith('LineString')) return 'lines'
  if (shape.type.endsWith('Point')) return 'points'
  throw new SaidError(`A feature of the type ${shape.type} cannot be read; split it into its parts first.`)
}

/**
 * The geometry store of GeoJSON shapes, whatever their winding and wherever they are cut; borders that are equal
 * vertex by vertex become shared.
 * @param fromStore the shapes are those of a store, so that nothing has to be found out about them
 * @throws SaidError when areas, lines and points are mixed
 */
export function geometryFromShapes(shapes: (Shape | null)[], fromStore = false): Geometry {
  const kinds = new Set(shapes.flatMap((shape) => (shape ? [kindOf(shape)] : [])))
  if (kinds.size > 1)
    throw new SaidError(`The file mixes ${[...kinds].join(' and ')}; put each in a file of its own.`)
  const [kind] = kinds
  if (kind === undefined) return { kind: 'none' }
  const placed = shapes.map((shape) => shape && (fromStore ? { shape, sewn: true } : onSphere(shape)))
  if (kind === 'points') return pointsFrom(placed.map((one) => one?.shape ?? null))
  const parts = placed.map((one) => partsOf(one?.shape ?? null))
  const featureStarts = runningSum(parts.map(({ length }) => length))
  const rings = parts.flat()
  if (kind === 'lines') {
    const { arcs, refs, refStarts } = sharedArcs(runsOf(rings.flat(), false))
    return { kind, arcs, refs, ringStarts: refStarts, featureStarts }
  }
  const { arcs, refs, refStarts } = sharedArcs(runsOf(rings.flat(), true))
  const areas: Areas = {
    kind,
    arcs,
    refs,
    ringStarts: refStarts,
    polygonStarts: runningSum(rings.map(({ length }) => length)),
    featureStarts,
  }
  turnRings(areas, (f) => placed[f]?.sewn ?? false)
  return areas
}

/** The polygons of a shape, each a list of rings, or its paths, each a list of one. */
function partsOf(shape: Shape | null): Position[][][] {
  switch (shape?.type) {
    case 'Polygon':
      return [shape.coordinates]
    case 'MultiPolygon':
      return shape.coordinates
    case 'LineString':
      return [[shape.coordinates]]
    case 'MultiLineString':
      return shape.coordinates.map((path) => [path])
    default:
      return []
  }
}

function runsOf(lists: Position[][], closed: boolean): Runs {
  const starts = runningSum(lists.map(({ length }) => length))
  const coords = new Float64Array(2 * starts[lists.length])
  let at = 0
  for (const list of lists)
    for (let i = 0; i < list.length; i++) {
      coords[at++] = wrapped(list[i][0])
      coords[at++] = list[i][1]
    }
  return { coords, starts, closed }
}

function pointsFrom(shapes: (Shape | null)[]): Points {
  const lists = shapes.map((shape) => {
    if (shape?.type === 'Point') return [shape.coordinates]
    return shape?.type === 'MultiPoint' ? shape.coordinates : []
  })
  const { coords } = runsOf(lists, false)
  return { kind: 'points', coords, featureStarts: runningSum(lists.map(({ length }) => length)) }
}

function runningSum(counts: number[]): Uint32Array {
  const sums = new Uint32Array(counts.length + 1)
  for (let i = 0; i < counts.length; i++) sums[i + 1] = sums[i] + counts[i]
  return sums
}
