import { featureCount, type Areas, type Geometry } from '@/core/geo/geometry'
import { geometryFromShapes } from '@/core/geo/shapes'
import { within, type Steps } from '@/core/grid/steps'
import type { Projection } from '@/core/projection/projection'
import type { PlaneAreas } from '../plane'
import { ringsToDegrees } from '../to-degrees'
import { Board, water } from './board'
import { blockSide, type BlockGrid, type BlockShape } from '../block-grid'
import { centresOf, outsideBy } from './guides'
import { farSquared } from './lands'
import {
  gridFor,
  guidesNow,
  improved,
  laidOut,
  mostShakes,
  outlinesOf,
  placingBy,
  wantedOf,
  type Bodies,
  type Outlines,
} from './layout'
import { blockLinesOf, blockShapesOf, piecesOf } from './outlines'
import { settle } from './settle'

/** Addresses of the blocks of each body, q and r by turns. */
export type Cells = Int32Array[]

/** How good a layout is. */
export type BlocksJudged = {
  /** Blocks that there are, and that there should be. */
  has: number
  wanted: number
  /** Bodies with another number of blocks than they should have. */
  wrong: { body: number; has: number; wanted: number }[]
  /** Bodies in several pieces. */
  torn: number[]
  /** Pairs of bodies with a common border, and how many touch; and pairs that touch over what is water. */
  pairs: number
  touching: number
  overWater: number
  /**
   * Likeness of shapes, 0 to 1: what a body has in common with its own outline at the size of its blocks, as a share of
   * what either covers; the mean over all blocks.
   */
  likeness: number
  /** Mean distance from where bodies would be if the map were only made larger or smaller, in sides of a block. */
  shift: number
  /** Root mean square of the change of direction to neighbours, degrees. */
  turnedDeg: number
}

/** A grid on which the blocks together are as large as the ground; how large they are drawn does not matter here. */
function plainGrid(plane: PlaneAreas, { blocks }: Bodies, shape: BlockShape): BlockGrid {
  const ground = plane.areas.reduce((sum, m2) => sum + m2, 0)
  const all = blocks.reduce((sum, n) => sum + n, 0)
  return gridFor(plane, shape, blockSide(shape, ground / Math.max(1, all)))
}

/** Finds places for all blocks; the same seed gives the same. */
export function* layOutBlocks(
  plane: PlaneAreas,
  bodies: Bodies,
  shape: BlockShape,
  seed: number,
): Steps<Cells> {
  if (!bodies.blocks.some((n) => n > 0)) return Array.from(bodies.blocks, () => new Int32Array(0))
  const board = yield* laidOut(plane, bodies, plainGrid(plane, bodies, shape), seed)
  return cellsOf(board)
}

/** Temperature at which blocks find their places again round what was placed by hand. */
const warm = 0.5
const settlingRounds = 24
/** What lies so many areas away from what does not add up stays where it is. */
const nearby = 2

/**
 * Gives bodies the blocks that they lack, takes away those that are too many, and lets all that is not fixed find
 * better places near where it is.
 */
export function* settleBlocks(
  plane: PlaneAreas,
  bodies: Bodies,
  { shape, cells, fixed, seed }: { shape: BlockShape; cells: Cells; fixed: Uint8Array; seed: number },
): Steps<Cells> {
  const grid = plainGrid(plane, bodies, shape)
  const wanted = wantedOf(plane, bodies)
  const board = boardOf(shape, cells, wanted)
  const outlines = outlinesOf(plane, bodies, grid, wanted)
  const near = nearWrong(board)
  // Of what is in pieces the largest is kept; what has nothing gets a block beside a neighbour, or near the middle.
  board.pieces().forEach(([, ...rest], a) => {
    if (!fixed[a]) for (const i of rest.flat()) board.give(i, water)
  })
  const missing = [...bodies.blocks.keys()].filter(
    (a) => bodies.blocks[a] > 0 && !board.count[a] && !fixed[a],
  )
  for (const a of missing) seedBeside(board, a, fixed)
  const anchors = centresOf(board, grid)
  const placing = () => placingBy(board, grid, outlines, anchors)
  yield 0.1
  yield* within(settle(board, placing(), fixed), 0.1, 0.2)
  const still = Uint8Array.from(fixed, (kept, a) => Number(kept || !near[a]))
  for (const share of improved(
    board,
    grid,
    { outlines, anchors },
    {
      seed,
      fixed: still,
      hot: warm,
      rounds: settlingRounds,
    },
  ))
    yield 0.2 + 0.75 * share
  let wrong = yield* within(settle(board, placing(), fixed), 0.95, 0.97)
  for (let again = 1; wrong && again <= mostShakes; again++) {
    const shaking = { seed: seed + again, fixed, hot: 1, rounds: 12 }
    yield* within(improved(board, grid, { outlines, anchors }, shaking), 0.97, 0.99)
    wrong = yield* within(settle(board, placing(), fixed), 0.99, 1)
  }
  return cellsOf(board)
}

/** 1 for bodies that do not add up, and for those near them; for all where everything does. */
function nearWrong(board: Board): Uint8Array {
  const { count, wanted } = board
  const areas = count.length
  const pieces = board.pieces()
  const near = Uint8Array.from(count, (n, a) => Number(n !== wanted.blocks[a] || pieces[a].length > 1))
  if (!near.includes(1)) return near.fill(1)
  for (let round = 0; round < nearby; round++) {
    const before = near.slice()
    for (let a = 0; a < areas; a++)
      if (before[a])
        for (let b = 0; b < areas; b++)
          if (wanted.relation[a * areas + b] === 1 || board.touch(a, b)) near[b] = 1
  }
  return near
}

/** A block for a body that has none: the one nearest to those that it borders on. */
function seedBeside(board: Board, a: number, fixed: Uint8Array): void {
  const { owner, wanted, count } = board
  const near = [...count.keys()].filter((b) => wanted.relation[a * count.length + b] === 1 && count[b])
  const around = (near.length ? near : [...count.keys()]).flatMap((b) =>
    board.blocks()[b].map((i) => board.address(i)),
  )
  if (!around.length) return
  const [mq, mr] = [0, 1].map((k) => around.reduce((sum, at) => sum + at[k], 0) / around.length)
  let [best, least] = [-1, Infinity]
  for (let i = 0; i < owner.length; i++) {
    const own = owner[i]
    if (own < water || (own >= 0 && (fixed[own] || count[own] < 2 || !board.staysWhole(i)))) continue
    const [q, r] = board.address(i)
    const far = farSquared(board.shape, q - mq, r - mr)
    if (far < least) [best, least] = [i, far]
  }
  if (best >= 0) board.give(best, a)
}

const cellsOf = (board: Board): Cells =>
  board.blocks().map((own) => Int32Array.from(own.flatMap((i) => board.address(i))))

/** A board with blocks as they are; one that two bodies would have belongs to the first. */
export function boardOf(shape: BlockShape, cells: Cells, wanted: ReturnType<typeof wantedOf>): Board {
  let [west, east, north, south, all] = [Infinity, -Infinity, Infinity, -Infinity, 0]
  for (const own of cells)
    for (let k = 0; k < own.length; k += 2) {
      west = Math.min(west, own[k])
      east = Math.max(east, own[k])
      north = Math.min(north, own[k + 1])
      south = Math.max(south, own[k + 1])
      all++
    }
  if (!all) [west, east, north, south] = [0, 0, 0, 0]
  const room = 6 + Math.ceil(0.3 * Math.sqrt(wanted.blocks.reduce((sum, n) => sum + n, 0)))
  const board = new Board(
    shape,
    {
      q0: west - room,
      r0: north - room,
      width: east - west + 1 + 2 * room,
      height: south - north + 1 + 2 * room,
    },
    wanted,
  )
  cells.forEach((own, a) => {
    for (let k = 0; k < own.length; k += 2) {
      const i = board.at(own[k], own[k + 1])
      if (i >= 0 && board.owner[i] === water) board.give(i, a)
    }
  })
  return board
}

/** How good a layout is. */
export function* judgeBlocks(
  plane: PlaneAreas,
  bodies: Bodies,
  shape: BlockShape,
  cells: Cells,
): Steps<BlocksJudged> {
  const grid = plainGrid(plane, bodies, shape)
  const wanted = wantedOf(plane, bodies)
  yield 0.2
  const board = boardOf(shape, cells, wanted)
  const outlines = outlinesOf(plane, bodies, grid, wanted)
  yield 0.6
  const likeness = likenessOf(board, grid, outlines)
  yield 0.8
  const count = bodies.blocks.length
  const centres = centresOf(board, grid)
  const ground = groundCentres(plane, bodies)
  const out: BlocksJudged = {
    has: board.count.reduce((sum, n) => sum + n, 0),
    wanted: bodies.blocks.reduce((sum, n) => sum + n, 0),
    wrong: [...bodies.blocks.keys()].flatMap((body) =>
      board.count[body] === bodies.blocks[body]
        ? []
        : [{ body, has: board.count[body], wanted: bodies.blocks[body] }],
    ),
    torn: cells.flatMap((own, body) => (piecesOf(own, grid).length > 1 ? [body] : [])),
    pairs: 0,
    touching: 0,
    overWater: 0,
    likeness,
    shift: shiftOf(board, centres, ground) / grid.side,
    turnedDeg: 0,
  }
  let turned = 0
  for (let a = 0; a < count; a++)
    for (let b = 0; b < a; b++) {
      const relation = wanted.relation[a * count + b]
      const touch = board.touch(a, b)
      if (relation === 2 && touch) out.overWater++
      if (relation !== 1 || !bodies.blocks[a] || !bodies.blocks[b]) continue
      out.pairs++
      if (touch) out.touching++
      if (board.count[a] && board.count[b]) turned += turnBetween(ground, centres, a, b) ** 2
    }
  out.turnedDeg = (Math.sqrt(turned / (out.pairs || 1)) * 180) / Math.PI
  return out
}

/** By how much the direction from one to the other has changed, radians. */
function turnBetween(before: Float64Array, after: Float64Array, a: number, b: number): number {
  const direction = (at: Float64Array) => Math.atan2(at[2 * b + 1] - at[2 * a + 1], at[2 * b] - at[2 * a])
  const change = Math.abs(direction(after) - direction(before))
  return Math.min(change, 2 * Math.PI - change)
}

/** Centres of gravity of bodies on the ground, x and y by turns. */
function groundCentres({ areas, centres }: PlaneAreas, { of, blocks }: Bodies): Float64Array {
  const sums = new Float64Array(2 * blocks.length)
  const sizes = new Float64Array(blocks.length)
  of.forEach((u, f) => {
    if (u < 0 || !(areas[f] > 0)) return
    sizes[u] += areas[f]
    sums[2 * u] += areas[f] * centres[2 * f]
    sums[2 * u + 1] += areas[f] * centres[2 * f + 1]
  })
  return sums.map((sum, k) => sum / sizes[k >> 1])
}

/** Mean distance between centres, once their own mean is the same. */
function shiftOf(board: Board, centres: Float64Array, ground: Float64Array): number {
  const there = [...board.count.keys()].filter((a) => board.count[a] > 0)
  const mean = (of: (a: number) => number): number =>
    there.reduce((sum, a) => sum + of(a), 0) / (there.length || 1)
  const [dx, dy] = [0, 1].map((k) => mean((a) => centres[2 * a + k] - ground[2 * a + k]))
  return mean((a) =>
    Math.hypot(centres[2 * a] - ground[2 * a] - dx, centres[2 * a + 1] - ground[2 * a + 1] - dy),
  )
}

function likenessOf(board: Board, grid: BlockGrid, outlines: Outlines): number {
  const guides = guidesNow(board, grid, outlines, null).areas
  let [sum, all] = [0, 0]
  board.blocks().forEach((own, a) => {
    const guide = guides[a]
    if (!guide || !own.length) return
    const common = own.filter((i) => outsideBy(guide, ...board.address(i)) === 0).length
    const covered = guide.steps.reduce((n, steps) => n + Number(steps === 0), 0)
    sum += (own.length * common) / (own.length + covered - common)
    all += own.length
  })
  return all ? sum / all : 0
}

/** Blocks as geometry in degrees. */
export type BlockGeometry = {
  /** A shape for each feature, which has the blocks of the body that it stands for. */
  geometry: Areas
  /** Lines between blocks of one body, by feature in the same way. */
  lines: Geometry
  /** Bodies of which some corner lies off the map of the world and was drawn in. */
  drawnIn: number
}

/**
 * @param cells of each feature; empty for those without blocks
 * @param sideM the side of a block in the plane, m
 */
export function* blockGeometry(
  plane: PlaneAreas,
  cells: readonly ArrayLike<number>[],
  { shape, sideM }: { shape: BlockShape; sideM: number },
  projection: Projection,
): Steps<BlockGeometry> {
  const grid = gridFor(plane, shape, sideM)
  const draw = ringsToDegrees(projection)
  const toDegrees = (places: number[], middle: [number, number]) => draw.ring({ places, centre: middle })
  const shapes = blockShapesOf(cells, grid, toDegrees)
  const drawnIn = draw.drawnIn()
  yield 0.4
  const geometry = geometryFromShapes(shapes, true)
  yield 0.6
  const between = yield* within(blockLinesOf(cells, grid, toDegrees), 0.6, 0.8)
  yield 0.8
  return {
    geometry: geometry.kind === 'areas' ? geometry : noAreas(featureCount(plane.projected)),
    lines: geometryFromShapes(between, true),
    drawnIn,
  }
}

/** Areas of which none has a shape. */
export const noAreas = (count: number): Areas => ({
  kind: 'areas',
  arcs: { coords: new Float64Array(0), starts: Uint32Array.of(0) },
  refs: new Int32Array(0),
  ringStarts: Uint32Array.of(0),
  polygonStarts: Uint32Array.of(0),
  featureStarts: new Uint32Array(count + 1),
})
