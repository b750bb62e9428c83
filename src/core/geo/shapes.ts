import type { Feature, FeatureCollection, Geometry as Shape, Position } from 'geojson'
import { topology } from 'topojson-server'
import type { GeometryObject } from 'topojson-specification'
import { geometryFromTopology } from './from-topology'
import { onSphere } from './sphere/sew'
import { eachVertex, type Areas, type Geometry, type Lines } from './geometry'

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

/**
 * The geometry store of GeoJSON shapes, whatever their winding and wherever they are cut; borders that are equal
 * vertex by vertex become shared.
 * @param fromStore the shapes are those of a store, so that nothing has to be found out about them
 * @throws SaidError when areas, lines and points are mixed
 */
export function geometryFromShapes(shapes: (Shape | null)[], fromStore = false): Geometry {
  const placed = shapes.map((shape) => shape && (fromStore ? { shape, sewn: true } : onSphere(shape)))
  const features = placed.map((one): Feature => ({
    type: 'Feature',
    properties: {},
    geometry: (one?.shape ?? null) as Shape,
  }))
  const built = topology({ all: { type: 'FeatureCollection', features } as FeatureCollection })
  return geometryFromTopology(built, built.objects.all as GeometryObject, (f) => placed[f]?.sewn ?? false)
}
