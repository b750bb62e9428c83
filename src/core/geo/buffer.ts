import ClipperLib from 'clipper-lib'
import Flatbush from 'flatbush'
import type { Geometry as Shape, Position } from 'geojson'
import { featureCount, type Geometry } from './geometry'
import type { Polygons } from './polygon-clipping'
import { geometryFromShapes, polygonsOf, ringPositions } from './shapes'
import { flatPolygons } from './sphere/flat'
import { eastward } from './sphere/longitudes'
import { equalAreaPlane, equidistantPlane, middleOf, type Plane } from './sphere/planes'

/** Hears how much is done, 0 to 1. */
export type Tell = (share: number) => void

type Path = { X: number; Y: number }[]
type Ring = Position[]

/** Whole numbers for a metre: the library reckons with integers, exactly below 47 million. */
const perMetre = 10
const perMetreWide = 4
/** Up to this distance from its middle an equidistant plane is true to 0.01 %; metres. */
const near = 150_000
/** Parts of wider shapes are surrounded run by run, each no longer than this; metres. */
const runLength = 100_000
/** Straight edges in one plane are bent in another; longer ones are cut into pieces. */
const pieceLength = 5_000
/** Corners around half a circle. */
const corners = 60

/**
 * Everything within `km` of each feature along the ground, as areas: distances are those of geodesics on WGS 84,
 * round corners and ends being polygons of 120 sides for a full circle. Shapes across the date line and round
 * poles are like any others.
 */
export function bufferFeatures(geometry: Geometry, km: number, tell: Tell = () => undefined): Geometry {
  const count = featureCount(geometry)
  const shapes = Array.from({ length: count }, (_, f): Shape | null => {
    tell(f / count)
    const parts = partsOf(geometry, f).map((part) => around(part, km * 1000))
    return together(parts)
  })
  return geometryFromShapes(shapes)
}

/** A part of a feature: the rings of a polygon, one path, or one point. */
type Part = { closed: boolean; rings: Ring[] }

function partsOf(geometry: Geometry, f: number): Part[] {
  if (geometry.kind === 'areas') return polygonsOf(geometry, f).map((rings) => ({ closed: true, rings }))
  if (geometry.kind === 'none') return []
  const { featureStarts } = geometry
  return Array.from({ length: featureStarts[f + 1] - featureStarts[f] }, (_, i): Part => {
    const at = featureStarts[f] + i
    return geometry.kind === 'points'
      ? { closed: false, rings: [[[geometry.coords[2 * at], geometry.coords[2 * at + 1]]]] }
      : { closed: false, rings: [ringPositions(geometry, at)] }
  })
}

function around({ closed, rings }: Part, metres: number): Polygons {
  const middle = middleOf(rings[0])
  const plane = equidistantPlane(...middle)
  const flat = rings.map((ring) => ring.map(([lon, lat]) => plane.project(lon, lat)))
  const reach = Math.max(...flat.flat().map(([x, y]) => Math.hypot(x, y)))
  if (reach <= near) {
    const grown = offset(flat, closed ? 'polygon' : 'path', { metres, scale: perMetre })
    return grown.map((polygon) => polygon.map((ring) => back(ring, plane)))
  }
  const wide = equalAreaPlane(...middle)
  const pieces: [number, number][][] = []
  for (const run of rings.flatMap(runsOf)) {
    const own = equidistantPlane(...middleOf(run))
    const surrounded = offset([run.map(([lon, lat]) => own.project(lon, lat))], 'path', {
      metres,
      scale: perMetre,
    })
    for (const ring of surrounded.flat())
      pieces.push(
        cutLong(ring).map(([x, y]) => {
          const [lon, lat] = own.invert(x, y)
          return wide.project(lon, lat)
        }),
      )
  }
  const whole = closed
    ? rings.map((ring) => cutDegrees(ring).map(([lon, lat]) => wide.project(lon, lat)))
    : []
  return unite(pieces, whole).map((polygon) => polygon.map((ring) => back(ring, wide)))
}

const back = (ring: [number, number][], plane: Plane): Ring => {
  const places = ring.map(([x, y]): Position => plane.invert(x, y))
  return [...places, places[0]]
}

/** What lies within a distance of rings or a path in a plane, as polygons. */
function offset(
  lines: [number, number][][],
  kind: 'polygon' | 'path',
  { metres, scale }: { metres: number; scale: number },
): [number, number][][][] {
  // An arc of the library keeps within a distance of the circle; this one gives the corners wanted.
  const tolerance = metres * scale * (1 - Math.cos(Math.PI / (2 * corners)))
  const offsetting = new ClipperLib.ClipperOffset(2, tolerance)
  const end = kind === 'polygon' ? ClipperLib.EndType.etClosedPolygon : ClipperLib.EndType.etOpenRound
  for (const line of lines)
    offsetting.AddPath(
      line.map(([x, y]) => ({ X: Math.round(x * scale), Y: Math.round(y * scale) })),
      ClipperLib.JoinType.jtRound,
      end,
    )
  const tree = new ClipperLib.PolyTree()
  offsetting.Execute(tree, metres * scale)
  return polygonsIn(tree, scale)
}

function polygonsIn(tree: ClipperLib.PolyTree, scale: number): [number, number][][][] {
  const ring = (path: Path) => path.map(({ X, Y }): [number, number] => [X / scale, Y / scale])
  return ClipperLib.JS.PolyTreeToExPolygons(tree).map(({ outer, holes }) =>
    [outer, ...(holes ?? [])].map((path) => ring(path as Path)),
  )
}

/** Pieces and the shape that they surround, as one. */
function unite(pieces: [number, number][][], whole: [number, number][][]): [number, number][][][] {
  const path = (ring: [number, number][]): Path =>
    ring.map(([x, y]) => ({ X: Math.round(x * perMetreWide), Y: Math.round(y * perMetreWide) }))
  const clipper = new ClipperLib.Clipper()
  for (const piece of pieces) {
    const one = path(piece)
    // Filled whichever way they run.
    if (!ClipperLib.Clipper.Orientation(one)) one.reverse()
    clipper.AddPath(one, ClipperLib.PolyType.ptSubject, true)
  }
  for (const ring of whole) clipper.AddPath(path(ring), ClipperLib.PolyType.ptSubject, true)
  const tree = new ClipperLib.PolyTree()
  const { pftNonZero } = ClipperLib.PolyFillType
  clipper.Execute(ClipperLib.ClipType.ctUnion, tree, pftNonZero, pftNonZero)
  return polygonsIn(tree, perMetreWide)
}

/** A ring or path as runs, each beginning where the last one ended. */
function runsOf(given: Ring): Ring[] {
  const ring = cutDegrees(given)
  const runs: Ring[] = []
  let run: Ring = [ring[0]]
  let length = 0
  for (let i = 1; i < ring.length; i++) {
    length += roughMetres(ring[i - 1], ring[i])
    run.push(ring[i])
    if (length < runLength && i < ring.length - 1) continue
    runs.push(run)
    run = [ring[i]]
    length = 0
  }
  return runs.length ? runs : [ring]
}

const degree = 111_320

const roughMetres = ([lon0, lat0]: Position, [lon, lat]: Position): number =>
  degree * Math.hypot(lat - lat0, eastward(lon0, lon) * Math.cos((((lat0 + lat) / 2) * Math.PI) / 180))

/** Edges of a run on the globe cut into pieces, straight in longitude and latitude. */
function cutDegrees(ring: Ring): Ring {
  return ring.flatMap((place, i): Position[] => {
    if (i === 0) return [place]
    const [lon0, lat0] = ring[i - 1]
    const pieces = Math.ceil(roughMetres(ring[i - 1], place) / (4 * pieceLength))
    return Array.from({ length: Math.max(1, pieces) }, (_, k): Position => {
      const share = (k + 1) / Math.max(1, pieces)
      return share === 1 ? place : [lon0 + eastward(lon0, place[0]) * share, lat0 + (place[1] - lat0) * share]
    })
  })
}

/** Edges of a ring in a plane cut into pieces. */
function cutLong(ring: [number, number][]): [number, number][] {
  return ring.flatMap(([x, y], i): [number, number][] => {
    const [nx, ny] = ring[(i + 1) % ring.length]
    const pieces = Math.max(1, Math.ceil(Math.hypot(nx - x, ny - y) / pieceLength))
    return Array.from({ length: pieces }, (_, k) => [
      x + ((nx - x) * k) / pieces,
      y + ((ny - y) * k) / pieces,
    ])
  })
}

/** What surrounds the parts of a feature, as one shape. */
function together(parts: Polygons[]): Shape | null {
  const polygons = parts.flat()
  if (!polygons.length) return null
  const shape: Shape = { type: 'MultiPolygon', coordinates: polygons }
  if (parts.length === 1) return shape
  const placed = geometryFromShapes([shape])
  if (placed.kind !== 'areas') return shape
  const flat = flatPolygons(placed, 0)
  const index = new Flatbush(flat.length)
  for (const [outer] of flat) index.add(...boxOf(outer))
  index.finish()
  const touching = flat.some(([outer], i) => index.search(...boxOf(outer)).some((other) => other !== i))
  return touching ? { type: 'MultiPolygon', coordinates: unitedFlat(flat) } : shape
}

/** Whole numbers for a degree: a tenth of a metre. */
const perDegree = 1e6

function unitedFlat(polygons: Polygons): Polygons {
  const clipper = new ClipperLib.Clipper()
  for (const ring of polygons.flat())
    clipper.AddPath(
      ring.map(([lon, lat]) => ({ X: Math.round(lon * perDegree), Y: Math.round(lat * perDegree) })),
      ClipperLib.PolyType.ptSubject,
      true,
    )
  const tree = new ClipperLib.PolyTree()
  const { pftNonZero } = ClipperLib.PolyFillType
  clipper.Execute(ClipperLib.ClipType.ctUnion, tree, pftNonZero, pftNonZero)
  return polygonsIn(tree, perDegree).map((rings) => rings.map((ring) => [...ring, ring[0]]))
}

/** West, south, east and north of a ring in the plane. */
export function boxOf(ring: Position[]): [number, number, number, number] {
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const [x, y] of ring) {
    box[0] = Math.min(box[0], x)
    box[1] = Math.min(box[1], y)
    box[2] = Math.max(box[2], x)
    box[3] = Math.max(box[3], y)
  }
  return box
}
