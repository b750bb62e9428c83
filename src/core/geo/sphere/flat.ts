import type { Geometry as Shape, Position } from 'geojson'
import { wholeGlobe, type Frame } from '@/core/projection/frame'
import { featureCount, type Areas, type Geometry, type Lines } from '../geometry'
import { planarArea } from '../planar-area'
import { polygonsOf, ringPositions, shapeOf } from '../shapes'
import { eastward } from './longitudes'
import { placeWhole, reachesRound, tearGeometry } from './tear'

/** Longitude and latitude as a plane from −180 to 180, cut at the date line. */
const plane: Frame = {
  flat: true,
  domain: { kind: 'lobes', lobes: [wholeGlobe] },
  toFrame: (lon, lat) => [lon, lat],
  toDegrees: (x, y) => [x, y],
  place: (x, y) => [x, y],
}

const known = new WeakMap<Areas | Lines, Areas | Lines>()

function flatten<G extends Areas | Lines>(geometry: G): G {
  const before = known.get(geometry)
  if (before) return before as G
  const whole =
    placeWhole(geometry.arcs, plane) !== null && !(geometry.kind === 'areas' && reachesRound(geometry, plane))
  const made = whole ? geometry : tearGeometry(geometry, plane)
  known.set(geometry, made)
  return made
}

/**
 * Polygons of feature `f` in the plane of longitude and latitude, cut at the date line and closed along the poles
 * (RFC 7946, section 3.1.9): each a list of closed rings, the outer one first and anticlockwise. What is reckoned
 * with them in the plane is brought back to the globe by `geometryFromShapes`.
 */
export function flatPolygons(areas: Areas, f: number): Position[][][] {
  const flat = flatten(areas)
  if (flat === areas) return polygonsOf(areas, f)
  return polygonsOf(flat, f).flatMap(nestFlat)
}

/** Feature `f` as a shape after RFC 7946, cut at the date line; null where it has none. */
export function flatShapeOf(geometry: Geometry, f: number): Shape | null {
  if (geometry.kind === 'areas') {
    const polygons = flatPolygons(geometry, f)
    if (!polygons.length) return null
    return polygons.length === 1
      ? { type: 'Polygon', coordinates: polygons[0] }
      : { type: 'MultiPolygon', coordinates: polygons }
  }
  if (geometry.kind !== 'lines') return shapeOf(geometry, f)
  const flat = flatten(geometry)
  if (flat === geometry) return shapeOf(geometry, f)
  const paths: Position[][] = []
  for (let r = flat.featureStarts[f]; r < flat.featureStarts[f + 1]; r++) paths.push(ringPositions(flat, r))
  if (!paths.length) return null
  return paths.length === 1
    ? { type: 'LineString', coordinates: paths[0] }
    : { type: 'MultiLineString', coordinates: paths }
}

/** How many features of a geometry are cut at the date line when it is laid flat. */
export function cutFeatures(geometry: Geometry): number {
  if (geometry.kind !== 'areas' && geometry.kind !== 'lines') return 0
  if (flatten(geometry) === geometry) return 0
  let count = 0
  for (let f = 0; f < featureCount(geometry); f++) if (crosses(geometry, f)) count++
  return count
}

function crosses(geometry: Areas | Lines, f: number): boolean {
  const shape = shapeOf(geometry, f)
  if (!shape || shape.type === 'GeometryCollection') return false
  const runs = runsOf(shape)
  return runs.some((run) =>
    run.some(([lon], i) => i > 0 && eastward(run[i - 1][0], lon) !== lon - run[i - 1][0]),
  )
}

function runsOf(shape: Exclude<Shape, { type: 'GeometryCollection' }>): Position[][] {
  if (shape.type === 'LineString') return [shape.coordinates]
  if (shape.type === 'Polygon' || shape.type === 'MultiLineString') return shape.coordinates
  return shape.type === 'MultiPolygon' ? shape.coordinates.flat() : []
}

/** Rings of one torn polygon as polygons: each anticlockwise ring with the clockwise ones inside it. */
function nestFlat(rings: Position[][]): Position[][][] {
  const sized = rings.map((ring) => ({ ring, area: planarArea(ring) })).filter(({ area }) => area !== 0)
  const outer = sized.filter(({ area }) => area > 0).sort((a, b) => a.area - b.area)
  const polygons = outer.map(({ ring }) => [ring])
  for (const { ring } of sized.filter(({ area }) => area < 0)) {
    const home = outer.findIndex((one) => holds(one.ring, ring))
    if (home >= 0) polygons[home].push(ring)
  }
  return polygons
}

/** Whether a ring lies around another that it does not cross. */
function holds(outer: Position[], inner: Position[]): boolean {
  const corners = new Set(outer.map(([x, y]) => `${x} ${y}`))
  const [x, y] = inner.find((place) => !corners.has(`${place[0]} ${place[1]}`)) ?? inner[0]
  let inside = false
  for (let i = 1; i < outer.length; i++) {
    const [[ax, ay], [bx, by]] = [outer[i - 1], outer[i]]
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside
  }
  return inside
}
