import type { MultiPolygon } from 'geojson'
import { featureCount, type Areas, type Geometry } from '@/core/geo/geometry'
import { geometryFromShapes } from '@/core/geo/shapes'
import { milestones, within, type Steps } from '@/core/grid/steps'
import type { Bend, Projection } from '@/core/projection/projection'
import { ringsToDegrees, type Ring } from './to-degrees'
import type { Fit } from './flow'
import { projectGeometry } from '@/core/geo/projected'
import { judged, type Judged } from './judge'
import { likeness } from './likeness'
import { eachPlace, planeSteps, type PlaneAreas } from './plane'
import { relaxed } from './relax'
import { isTiled, mostTiles, type CartogramForm } from './spec'
import { stretched } from './stretched'
import { blockSide, type BlockShape } from './block-grid'
import { byHand, tilesAt, type TileHand, type Tiles } from './tile-hand'
import { tiled } from './tiles'

export type Cartogram = {
  form: CartogramForm
  /** A shape for each feature of the areas, in degrees; none for those without a value above zero. */
  geometry: Geometry
  /** Features that have a place on the ground but nothing to be sized by, and those that the map does not show. */
  without: number
  unplaced: number
  /** Shapes of which some corner lies off the map of the world and was drawn in. */
  drawnIn: number
  /** How many areas there are where these are too many for tiles, which none has then; else 0. */
  tooMany: number
  judged: Judged
  /** How alike shapes are to those on the ground, 0 to 1; NaN where that is not known. */
  likeness: number
  /** How well a continuous cartogram fits; null for other forms. */
  fit: Fit | null
  /** How the map is stretched by a continuous cartogram; null for other forms. */
  bend: Bend | null
  /** Where tiles of one size stand; null for other forms. */
  tiles: Tiles | null
}

export type CartogramOptions = {
  form: CartogramForm
  /** m² of the plane that stand for one unit of the value, or of a tile. */
  m2: number
  /** Tiles that were placed by hand; those of another shape are not looked at. */
  tiles?: TileHand | null
}

/** So many vertices are brought to degrees in one piece. */
const pieceVertices = 20_000

/** Corners of a circle, which lie a little outside of it, so that the polygon has its area. */
const corners = 72
const rounded = Math.sqrt((2 * Math.PI) / (corners * Math.sin((2 * Math.PI) / corners)))
/** A regular polygon, how far it is turned, and points along each side: another projection may bend it. */
type Polygon = { sides: number; turn: number; along: number }
const circle: Polygon = { sides: corners, turn: 0, along: 1 }
const quad: Polygon = { sides: 4, turn: Math.PI / 4, along: 8 }
const hexagon: Polygon = { sides: 6, turn: Math.PI / 2, along: 4 }

/**
 * A cartogram: areas in their own shapes, made larger or smaller about their centres of gravity (Olson 1976), stretched
 * with their borders kept, as circles (Dorling 1996), squares (Demers), or tiles of one size. It is laid out on the
 * map, in the plane of its projection, so that circles are round and sizes true on paper.
 * @param values what areas are sized by, for each feature; tiles are the same for all
 */
export function* makeCartogram(
  geometry: Areas,
  values: Float64Array,
  { form, m2, tiles = null }: CartogramOptions,
  projection: Projection,
): Steps<Cartogram> {
  const plane = yield* within(planeSteps(geometry, projection), 0, 0)
  const count = featureCount(geometry)
  const has = (f: number): boolean => geometry.featureStarts[f + 1] > geometry.featureStarts[f]
  const shown = [...Array(count).keys()].filter((f) => plane.areas[f] > 0)
  const sized = isTiled(form) ? shown : shown.filter((f) => values[f] > 0)
  const target = new Float64Array(count)
  for (const f of sized) target[f] = isTiled(form) ? m2 : values[f] * m2
  const unplaced = [...Array(count).keys()].filter((f) => has(f) && !plane.areas[f]).length
  const draw = ringsToDegrees(projection)
  if (form === 'continuous') {
    const { placed, ...made } = yield* within(stretched(plane, target, projection), 0, 0.95)
    const alike = placed ? yield* within(likeness(plane.projected, placed), 0.95, 1) : NaN
    return {
      ...made,
      form,
      likeness: alike,
      without: shown.length - sized.length,
      unplaced,
      tooMany: 0,
      tiles: null,
    }
  }
  const laid = yield* within(layOut(plane, target, form, tiles), 0, 0.9)
  const told = milestones(pieceVertices)
  const shapes: (MultiPolygon | null)[] = []
  for (const polygons of laid.rings) {
    if (told.due((polygons ?? []).flat().reduce((sum, { places }) => sum + places.length / 2, 0))) yield 0.9
    shapes.push(
      polygons && { type: 'MultiPolygon', coordinates: polygons.map((rings) => rings.map(draw.ring)) },
    )
  }
  yield 0.9
  const drawn = geometryFromShapes(shapes, true)
  yield 0.95
  return {
    form,
    geometry: drawn,
    likeness: drawn.kind === 'areas' ? yield* likenessOn(plane, drawn, projection) : NaN,
    without: shown.length - sized.length,
    unplaced,
    drawnIn: draw.drawnIn(),
    tooMany: isTiled(form) && sized.length > mostTiles ? sized.length : 0,
    judged: judged(plane, laid.at, laid.reach, form),
    fit: null,
    bend: null,
    tiles: laid.tiles ?? null,
  }
}

/** Shapes that were made, compared with those on the ground in the plane of the map. */
const likenessOn = (plane: PlaneAreas, made: Areas, projection: Projection): Steps<number> =>
  within(likeness(plane.projected, projectGeometry(made, projection) as Areas), 0.95, 1)

type LaidOut = {
  /** Middles of the shapes, and how far each reaches from there: radius, or half a side. */
  at: Float64Array
  reach: Float64Array
  rings: (Ring[][] | null)[]
  tiles?: Tiles
}

/** @param target the area of each shape, m²; 0 for none */
function* layOut(
  plane: PlaneAreas,
  target: Float64Array,
  form: CartogramForm,
  hand: TileHand | null,
): Steps<LaidOut> {
  const there = [...target.keys()].filter((f) => target[f] > 0)
  const { centres, links } = plane
  const ringsBy = (at: Float64Array, of: (f: number, centre: [number, number]) => Ring[][]) =>
    Array.from(target, (m2, f) => (m2 > 0 ? of(f, [at[2 * f], at[2 * f + 1]]) : null))
  if (form === 'own shapes') {
    const scales = target.map((m2, f) => (m2 > 0 ? Math.sqrt(m2 / plane.areas[f]) : 0))
    const reach = target.map((m2) => Math.sqrt(m2 / Math.PI))
    return {
      at: centres,
      reach,
      rings: ringsBy(centres, (f, centre) => scaledRings(plane, f, centre, scales[f])),
    }
  }
  if (form === 'circles' || form === 'squares') {
    const reach = target.map((m2) => (form === 'circles' ? Math.sqrt(m2 / Math.PI) : Math.sqrt(m2) / 2))
    const at = yield* relaxed(centres, reach, links, form)
    return {
      at,
      reach,
      rings: ringsBy(at, (f, centre) => [
        [form === 'circles' ? regular(centre, rounded * reach[f], circle) : square(centre, reach[f])],
      ]),
    }
  }
  const shape: BlockShape = form === 'hexagon tiles' ? 'hexagons' : 'squares'
  if (there.length > mostTiles)
    return { at: centres, reach: target.map(() => 0), rings: Array.from(target, () => null) }
  const side = blockSide(shape, there.length ? target[there[0]] : 1)
  const even = target.map((m2) => (m2 > 0 ? side / 2 : 0))
  const placed =
    hand?.shape === shape
      ? byHand(hand, centres, even, side)
      : tilesAt(yield* foundTiles(plane, even, shape, side), shape, side)
  return {
    at: placed.at,
    reach: even,
    tiles: placed,
    rings: ringsBy(placed.at, (_, centre) => [
      [shape === 'squares' ? square(centre, side / 2) : regular(centre, side / Math.sqrt(3), hexagon)],
    ]),
  }
}

/** Areas of one size first find room beside each other; then there is a tile for each. */
function* foundTiles(
  { centres, links }: PlaneAreas,
  even: Float64Array,
  shape: BlockShape,
  side: number,
): Steps<Float64Array> {
  const near = yield* within(relaxed(centres, even, links, 'circles'), 0, 0.4)
  const places = near.map((value, i) => (even[i >> 1] ? value : NaN))
  return yield* within(tiled(places, links, shape, side), 0.4, 1)
}

/** A polygon about a centre, anticlockwise on the ground. */
function regular(centre: [number, number], r: number, { sides, turn, along }: Polygon): Ring {
  const corner = (k: number): [number, number] => {
    const angle = turn + (2 * Math.PI * k) / sides
    return [centre[0] + r * Math.cos(angle), centre[1] - r * Math.sin(angle)]
  }
  const places: number[] = []
  for (let k = 0; k < sides; k++) {
    const [[ax, ay], [bx, by]] = [corner(k), corner(k + 1)]
    for (let i = 0; i < along; i++) places.push(ax + ((bx - ax) * i) / along, ay + ((by - ay) * i) / along)
  }
  places.push(places[0], places[1])
  return { places, centre }
}

const square = (centre: [number, number], half: number): Ring => regular(centre, half * Math.SQRT2, quad)

/** The rings of a feature about a centre. */
function scaledRings(plane: PlaneAreas, f: number, centre: [number, number], scale: number): Ring[][] {
  const { projected } = plane
  const { coords } = projected.arcs
  const polygons: Ring[][] = []
  for (let p = projected.featureStarts[f]; p < projected.featureStarts[f + 1]; p++) {
    const rings: Ring[] = []
    for (let r = projected.polygonStarts[p]; r < projected.polygonStarts[p + 1]; r++) {
      const places: number[] = []
      eachPlace(projected, r, (v) =>
        places.push(
          centre[0] + scale * (coords[2 * v] - centre[0]),
          centre[1] + scale * (coords[2 * v + 1] - centre[1]),
        ),
      )
      if (places.length >= 8) rings.push({ places, centre })
    }
    if (rings.length) polygons.push(rings)
  }
  return polygons
}
