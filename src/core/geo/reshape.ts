import { SaidError } from '@/core/said/said-error'
import polylabel from 'polylabel'
import type { Polygon, Position } from 'geojson'
import { createProjection, type Projection } from '@/core/projection/projection'
import { adviseEqualArea } from '@/core/projection/adviser'
import { boundsOf, emptyBounds, takeIn, type Bounds } from '@/core/scene/bounds'
import {
  coordsOf,
  arcNeighbours,
  featureCount,
  type Areas,
  type Geometry,
  type Lines,
  type Points,
} from './geometry'
import { extentOf } from './extent'
import { intersectionOf } from './polygon-clipping'
import { planarArea } from './planar-area'
import { projectGeometry } from './projected'
import { groundAreas, polygonArea } from './measure'
import { geometryFromShapes, ringPositions } from './shapes'
import { eastward, wrapped } from './sphere/longitudes'
import { equalAreaPlane, middleOf } from './sphere/planes'
import { takeFeatures } from './take-features'

/**
 * An equal-area projection for the extent of a geometry, in which lengths and areas can be reckoned near
 * enough.
 */
export function workingProjection(geometries: Geometry[]): Projection {
  return createProjection(adviseEqualArea(extentOf(geometries) ?? [-180, -90, 180, 90]))
}

/**
 * A point inside each area, as far from its border as can be: the pole of inaccessibility of its largest part
 * (Garcia-Castellanos and Lombardo 2007), found to a hundredth of the part's width. Areas without a shape get
 * none.
 */
export function insidePoints(areas: Areas): Points {
  const coords: number[] = []
  const featureStarts = new Uint32Array(featureCount(areas) + 1)
  for (let f = 0; f < featureCount(areas); f++) {
    const largest = largestPart(areas, f)
    if (largest >= 0) {
      const rings: Position[][] = []
      for (let r = areas.polygonStarts[largest]; r < areas.polygonStarts[largest + 1]; r++)
        rings.push(ringPositions(areas, r))
      coords.push(...innermost(rings))
    }
    featureStarts[f + 1] = coords.length / 2
  }
  return { kind: 'points', coords: Float64Array.from(coords), featureStarts }
}

/** The search for a place inside looks no finer than this share of an area's width, so that it ends. */
const finestSearch = 1 / 4000

/**
 * The place of a polygon that is farthest from its border; of one too thin to have an inside, the middle of its
 * course.
 */
function innermost(rings: Position[][]): [lon: number, lat: number] {
  const plane = equalAreaPlane(...middleOf(rings[0]))
  const flat = rings.map((ring) => ring.map(([lon, lat]) => plane.project(lon, lat)))
  const [x0, y0, x1, y1] = boundsOf(flat[0].flat())
  const size = Math.sqrt(Math.abs(planarArea(flat[0])))
  const precision = Math.max(size / 100, Math.max(x1 - x0, y1 - y0) * finestSearch)
  if (!(size > 0)) return middleOfCourse(rings[0])
  const found = polylabel(flat, precision)
  if (!(found.distance > 0)) return middleOfCourse(rings[0])
  const [lon, lat] = plane.invert(found[0], found[1])
  return [wrapped(lon), lat]
}

/** The vertex of a ring that is nearest to the middle of all. */
function middleOfCourse(ring: Position[]): [lon: number, lat: number] {
  const [lon, lat] = middleOf(ring)
  const away = ([x, y]: Position): number =>
    Math.hypot(eastward(lon, x) * Math.cos((lat * Math.PI) / 180), y - lat)
  const nearest = ring.reduce((best, place) => (away(place) < away(best) ? place : best))
  return [nearest[0], nearest[1]]
}

/** The largest polygon of a feature; −1 where it has none. */
function largestPart(areas: Areas, f: number): number {
  const [from, to] = [areas.featureStarts[f], areas.featureStarts[f + 1]]
  if (to - from < 2) return to > from ? from : -1
  let [best, most] = [-1, -1]
  for (let p = from; p < to; p++) {
    const size = polygonArea(areas, p)
    if (size > most) [best, most] = [p, size]
  }
  return best
}

/**
 * Every border once, each a line, with the areas on its two sides; −1 where there is none. Coasts are left
 * out on wish.
 */
export function bordersAsLines(
  areas: Areas,
  withCoasts: boolean,
): { lines: Lines; left: Int32Array; right: Int32Array } {
  const sides = arcNeighbours(areas)
  const chosen: number[] = []
  for (let a = 0; a + 1 < areas.arcs.starts.length; a++)
    if (sides[2 * a] >= 0 && (withCoasts || sides[2 * a + 1] >= 0)) chosen.push(a)
  const steps = Uint32Array.from({ length: chosen.length + 1 }, (_, i) => i)
  return {
    lines: {
      kind: 'lines',
      arcs: areas.arcs,
      refs: Int32Array.from(chosen),
      ringStarts: steps,
      featureStarts: steps,
    },
    left: Int32Array.from(chosen, (a) => sides[2 * a]),
    right: Int32Array.from(chosen, (a) => sides[2 * a + 1]),
  }
}

/**
 * Parts of areas as features of their own, with the row each comes from; parts under `leastKm2` are dropped.
 */
export function splitParts(areas: Areas, leastKm2: number): { areas: Areas; rows: Int32Array } {
  const parts = areas.polygonStarts.length - 1
  const single: Areas = {
    ...areas,
    featureStarts: Uint32Array.from({ length: parts + 1 }, (_, i) => i),
    taken: undefined,
  }
  const rowOf = new Int32Array(parts)
  for (let f = 0; f < featureCount(areas); f++)
    for (let p = areas.featureStarts[f]; p < areas.featureStarts[f + 1]; p++) rowOf[p] = f
  const sizes = groundAreas(single)
  const kept = [...sizes.keys()].filter((p) => sizes[p] >= leastKm2 * 1e6)
  return { areas: takeFeatures(single, kept) as Areas, rows: Int32Array.from(kept, (p) => rowOf[p]) }
}

export const gridShapes = ['hexagons', 'squares', 'triangles'] as const
export type GridShape = (typeof gridShapes)[number]

/**
 * Cells of one shape and size over an extent, equal in area on the ground: they are laid in an equal-area
 * projection. `sizeKm` is the width across flats of a hexagon, the side of a square or triangle.
 */
export function gridOver(
  geometry: Geometry,
  shape: GridShape,
  sizeKm: number,
): { cells: Areas; projection: Projection } {
  const projection = workingProjection([geometry])
  const bounds = emptyBounds()
  takeIn(bounds, coordsOf(projectGeometry(geometry, projection)))
  const [x0, y0, x1, y1] = bounds
  const size = sizeKm * 1000
  const about = ((x1 - x0) * (y1 - y0)) / (size * size)
  if (about > maxCells)
    throw new SaidError(
      `That would be about ${Math.round(about).toLocaleString('en-GB')} cells; choose larger ones (up to ${maxCells.toLocaleString('en-GB')} cells).`,
    )
  const rings = x1 >= x0 ? cellRings[shape](bounds, size) : []
  const corner = new Map<string, Position | null>()
  // One place for each corner, so that neighbours share their edges exactly.
  const place = (x: number, y: number): Position | null => {
    const key = `${Math.round(x * 10)} ${Math.round(y * 10)}`
    let position = corner.get(key)
    if (position === undefined) {
      position = projection.invert(x, y)
      corner.set(key, position)
    }
    return position
  }
  const shapes = rings.flatMap((ring): Polygon[] => {
    const bent = bentEdges(ring, size)
    const positions = bent.map(([x, y]) => place(x, y))
    if (!positions.includes(null))
      return [{ type: 'Polygon', coordinates: [[...(positions as Position[]), positions[0] as Position]] }]
    return positions.every((position) => position === null) ? [] : withinWorld(bent, projection)
  })
  return { cells: geometryFromShapes(shapes) as Areas, projection }
}

/** What of a cell lies on the map of the world, where it reaches over its edge. */
function withinWorld(ring: [number, number][], projection: Projection): Polygon[] {
  const world = projection.edge().map((edge) => {
    const places = Array.from({ length: edge.length / 2 }, (_, i): Position => [edge[2 * i], edge[2 * i + 1]])
    return [[...places, places[0]]]
  })
  // A hair inside: on the edge itself there is no way back to the globe.
  const inside = ([x, y]: Position): Position | null => projection.invert(x * (1 - 1e-9), y * (1 - 1e-9))
  return intersectionOf([[[...ring, ring[0]]]], world).flatMap((rings): Polygon[] => {
    const places = rings.map((one) => one.map(inside).filter((place) => place !== null))
    return places[0].length > 3
      ? [{ type: 'Polygon', coordinates: places.filter((one) => one.length > 3) }]
      : []
  })
}

/** Longest piece of a cell's edge, metres: it is straight in the projection, and so bent on the globe. */
const edgePiece = 10_000

/** A ring with its edges cut into pieces; the last place is not repeated. */
function bentEdges(ring: [number, number][], size: number): [number, number][] {
  const pieces = Math.ceil(size / edgePiece)
  if (pieces < 2) return ring
  return ring.flatMap(([x, y], i) => {
    const [nx, ny] = ring[(i + 1) % ring.length]
    return Array.from({ length: pieces }, (_, k): [number, number] => [
      x + ((nx - x) * k) / pieces,
      y + ((ny - y) * k) / pieces,
    ])
  })
}

const maxCells = 200_000

type Cells = (bounds: Bounds, size: number) => [number, number][][]

const cellRings: Record<GridShape, Cells> = {
  squares([x0, y0, x1, y1], size) {
    const out: [number, number][][] = []
    for (let y = y0; y < y1; y += size)
      for (let x = x0; x < x1; x += size)
        out.push([
          [x, y],
          [x + size, y],
          [x + size, y + size],
          [x, y + size],
        ])
    return out
  },
  hexagons([x0, y0, x1, y1], size) {
    const out: [number, number][][] = []
    const r = size / Math.sqrt(3)
    // Every other row is pushed by half a width, so that the corners of three cells meet.
    for (let row = 0, y = y0; y - r < y1; row++, y = y0 + row * 1.5 * r)
      for (let x = x0 + (row % 2 ? size / 2 : 0); x - size / 2 < x1; x += size)
        out.push(
          Array.from({ length: 6 }, (_, k): [number, number] => [
            x + r * Math.sin((k * Math.PI) / 3),
            y - r * Math.cos((k * Math.PI) / 3),
          ]),
        )
    return out
  },
  triangles([x0, y0, x1, y1], size) {
    const out: [number, number][][] = []
    const h = (size * Math.sqrt(3)) / 2
    for (let row = 0, y = y0; y < y1; row++, y = y0 + row * h)
      for (let k = 0, x = x0 - size; x < x1; k++, x += size / 2) {
        const up = (k + row) % 2 === 0
        out.push(
          up
            ? [
                [x, y + h],
                [x + size, y + h],
                [x + size / 2, y],
              ]
            : [
                [x, y],
                [x + size, y],
                [x + size / 2, y + h],
              ],
        )
      }
    return out
  },
}
