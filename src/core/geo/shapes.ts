import type { Geometry as Shape, Position } from 'geojson'
import { SaidError } from '@/core/said/said-error'
import { eachVertex, type Areas, type Geometry, type Lines } from './geometry'
import { sharedArcs } from './shared-arcs'
import { wrapped } from './sphere/longitudes'
import { turnRings } from './sphere/rings'
import { onSphere, type OnSphere } from './sphere/sew'

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
  const gathered = new GatheredShapes(fromStore)
  for (const shape of shapes) gathered.add(shape)
  return gathered.geometry()
}

/**
 * Shapes that become one geometry, added feature by feature. What was added is kept as bare numbers, so that shapes
 * of many vertices can be let go one by one, while a file is still being read.
 */
export class GatheredShapes {
  private kind: Kind | null = null
  private coords = new Float64Array(1024)
  private used = 0
  /** Where each ring, path or list of points ends, in vertices. */
  private readonly ends: number[] = [0]
  private readonly ringsOfPolygons: number[] = []
  private readonly partsOfFeatures: number[] = []
  private readonly sewn: boolean[] = []

  /** @param fromStore the shapes are those of a store, so that nothing has to be found out about them */
  constructor(private readonly fromStore = false) {}

  /**
   * The next feature; null where it has no shape. `refused`: it was left as the file cuts it (see `OnSphere`).
   * @throws SaidError when areas, lines and points are mixed
   */
  add(given: Shape | null): 'kept' | 'refused' {
    if (!given) {
      this.sewn.push(false)
      this.partsOfFeatures.push(0)
      return 'kept'
    }
    const kind = kindOf(given)
    if (this.kind !== null && this.kind !== kind)
      throw new SaidError(`The file mixes ${this.kind} and ${kind}; put each in a file of its own.`)
    this.kind = kind
    const placed: OnSphere = this.fromStore ? { shape: given, sewn: true } : onSphere(given)
    const { shape, sewn } = placed
    const said = placed.refused ? 'refused' : 'kept'
    this.sewn.push(sewn)
    if (kind === 'points') {
      const points = pointsOf(shape)
      this.partsOfFeatures.push(points.length)
      this.run(points)
      return said
    }
    const parts = partsOf(shape)
    this.partsOfFeatures.push(parts.length)
    for (const rings of parts) {
      this.ringsOfPolygons.push(rings.length)
      for (const ring of rings) this.run(ring)
    }
    return said
  }

  /** All that was added. Nothing may be added after it. */
  geometry(): Geometry {
    if (this.kind === null) return { kind: 'none' }
    const coords = this.coords.slice(0, this.used)
    const featureStarts = runningSum(this.partsOfFeatures)
    if (this.kind === 'points') return { kind: 'points', coords, featureStarts }
    const closed = this.kind === 'areas'
    const { arcs, refs, refStarts } = sharedArcs({ coords, starts: Uint32Array.from(this.ends), closed })
    if (!closed) return { kind: 'lines', arcs, refs, ringStarts: refStarts, featureStarts }
    const areas: Areas = {
      kind: 'areas',
      arcs,
      refs,
      ringStarts: refStarts,
      polygonStarts: runningSum(this.ringsOfPolygons),
      featureStarts,
    }
    turnRings(areas, (f) => this.sewn[f])
    return areas
  }

  private run(places: Position[]): void {
    const needed = this.used + 2 * places.length
    if (needed > this.coords.length) {
      const grown = new Float64Array(Math.max(needed, 2 * this.coords.length))
      grown.set(this.coords.subarray(0, this.used))
      this.coords = grown
    }
    const { coords } = this
    let at = this.used
    for (let i = 0; i < places.length; i++) {
      const place = places[i]
      coords[at++] = wrapped(place[0])
      coords[at++] = place[1]
    }
    this.used = at
    this.ends.push(at / 2)
  }
}

/** The polygons of a shape, each a list of rings, or its paths, each a list of one. */
function partsOf(shape: Shape): Position[][][] {
  switch (shape.type) {
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

function pointsOf(shape: Shape): Position[] {
  if (shape.type === 'Point') return [shape.coordinates]
  return shape.type === 'MultiPoint' ? shape.coordinates : []
}

function runningSum(counts: number[]): Uint32Array {
  const sums = new Uint32Array(counts.length + 1)
  for (let i = 0; i < counts.length; i++) sums[i + 1] = sums[i] + counts[i]
  return sums
}
