import type { Areas } from '@/core/geo/geometry'
import { randomFrom } from '@/core/grid/random'
import { within, type Steps } from '@/core/grid/steps'
import { flowed } from '../flow'
import { momentsOf, ringAreas, ringMoments, type PlaneAreas } from '../plane'
import { annealed } from './anneal'
import { Board, water, type Wanted } from './board'
import { blockArea, inGrid, middleOf, nearestBlock, type BlockGrid } from '../block-grid'
import { centresOf, guideOf, outsideBy, type Guide } from './guides'
import { apart, farSquared, landsOf, type Start } from './lands'
import { proportioned, spreadOf } from './stretch'
import { settle, type Placing } from './settle'
import { allRings, mainRings, pathsOf, spansOf, type Paths, type Span } from './start'

/** What is laid out: areas, alone or several as one body, by number; −1 for features that have no blocks. */
export type Bodies = { of: Int32Array; blocks: Int32Array }

/** More bodies than this are not laid out: who borders on whom is kept for every two of them. */
export const mostBodies = 3000

/** Parts of an area smaller than this share of its largest one do not count for its shape. */
const mainPart = 0.15
/** Areas without blocks shrink to so much of one where the others find their places. */
const without = 0.15
/** It is enough that areas come so near to their sizes, or flow so often, before they become blocks. */
const nearEnough = { enough: 0.06, most: 3 }
/** A board with some cells to the side of a block will do. */
const boardCells = (blocks: Int32Array): number => {
  const all = blocks.reduce((sum, n) => sum + n, 0)
  if (all <= 3000) return 128
  return all <= 12_000 ? 256 : 512
}
/** What a block costs outside of its area's outline, for each step to the power. */
const [outsideCost, outsidePower] = [0.3, 1.4]

/** What it costs outside of the outline of its land, in the same way. */
const coastCost = 0.15

/**
 * The outlines of areas about their centres of gravity, each as large as its blocks, in units of the grid; and those
 * of the lands that several of them make up.
 */
export type Outlines = { areas: Paths[]; lands: Paths[]; landOf: Int32Array }

/** Where areas belong: x and y of each by turns. Their outlines lie between there and where they are. */
export type Anchors = Float64Array

/** How much of the way back to its anchor the outline of an area lies; the fewer blocks, the more. */
const homeward = (blocks: number): number => Math.max(0.35, 1 / Math.sqrt(blocks))

/** The grid of a map, about the middle of its areas. */
export function gridFor({ areas, centres }: PlaneAreas, shape: BlockGrid['shape'], side: number): BlockGrid {
  let [sum, x, y] = [0, 0, 0]
  areas.forEach((m2, f) => {
    if (!(m2 > 0)) return
    sum += m2
    x += m2 * centres[2 * f]
    y += m2 * centres[2 * f + 1]
  })
  return { shape, side, x0: sum ? x / sum : 0, y0: sum ? y / sum : 0 }
}

/** Who borders on whom, and between which lands there is water. */
export function wantedOf({ links }: PlaneAreas, { of, blocks }: Bodies): Wanted {
  const count = blocks.length
  const relation = new Uint8Array(count ** 2)
  const land = Int32Array.from({ length: count }, (_, a) => a)
  const root = (a: number): number => {
    while (land[a] !== a) a = land[a] = land[land[a]]
    return a
  }
  for (const { a, b, gap } of links) {
    const [u, v] = [of[a], of[b]]
    if (gap > 0 || u < 0 || v < 0 || u === v) continue
    relation[u * count + v] = relation[v * count + u] = 1
    land[root(u)] = root(v)
  }
  for (let u = 0; u < count; u++)
    for (let v = 0; v < count; v++) if (root(u) !== root(v)) relation[u * count + v] = 2
  return { blocks, relation }
}

/**
 * Finds places for the blocks of areas: the areas flow until each is as large as its blocks, blocks are given to
 * whom they then lie in, and change hands until borders and shapes are kept as well as may be.
 * @param seed the same gives the same
 */
export function* laidOut(plane: PlaneAreas, bodies: Bodies, grid: BlockGrid, seed: number): Steps<Board> {
  const { blocks } = bodies
  const flow = yield* within(
    flowed(plane.projected, flowShares(plane, bodies), { ...nearEnough, cells: boardCells(blocks) }),
    0,
    0.45,
  )
  const wanted = wantedOf(plane, bodies)
  const guides = outlinesOf(plane, bodies, grid, wanted)
  yield 0.46
  const starts = yield* within(startsOf(flow.areas, { plane, bodies, grid, outlines: guides }), 0.46, 0.5)
  const board = apart(grid.shape, starts, wanted)
  yield 0.5
  seedMissing(board, starts)
  const anchors = centresOf(board, grid)
  // Single blocks have no shape that would bring them back: where there are hardly more, less is shaken.
  const each = sum(board.count) / Math.max(1, board.count.filter((n) => n > 0).length)
  const annealing = { seed, fixed: null, hot: hottest * Math.min(1, each / severalBlocks), rounds: 80 }
  yield* within(improved(board, grid, { outlines: guides, anchors }, annealing), 0.5, 0.97)
  const fix = () => settle(board, placingBy(board, grid, guides, anchors), null)
  let wrong = yield* within(fix(), 0.97, 0.98)
  // Where blocks cannot be handed on, a little shaking makes another way.
  for (let again = 1; wrong && again <= mostShakes; again++) {
    const shaking = { seed: seed + again, fixed: null, hot: 1, rounds: 12 }
    yield* within(improved(board, grid, { outlines: guides, anchors }, shaking), 0.98, 0.99)
    wrong = yield* within(fix(), 0.99, 1)
  }
  return board
}

/** Blocks change hands for the better; areas that are fixed keep theirs. */
export function* improved(
  board: Board,
  grid: BlockGrid,
  { outlines, anchors }: { outlines: Outlines; anchors: Anchors },
  { seed, fixed, hot, rounds }: { seed: number; fixed: Uint8Array | null; hot: number; rounds: number },
): Steps<void> {
  yield* annealed(board, () => placingBy(board, grid, outlines, anchors), {
    random: randomFrom(seed, board.owner.length),
    fixed,
    hot,
    cold: 0.12,
    rounds,
    tries: Math.round(Math.max(10, Math.min(40, blocksTried / sum(board.count)))),
  })
}

/** So often it is tried again where numbers could not be made exact. */
export const mostShakes = 8

/** The temperature at which blocks begin, where areas have several each. */
const [hottest, severalBlocks] = [2.2, 4]

/** Blocks times tries of each in a round: the more blocks there are, the less often each is tried. */
const blocksTried = 90_000

const sum = (numbers: Int32Array): number => numbers.reduce((all, n) => all + n, 0)

/** What blocks cost by how far outside of their areas' outlines they lie, these being where the areas are now. */
export function placingBy(board: Board, grid: BlockGrid, outlines: Outlines, anchors: Anchors): Placing {
  const { areas, lands } = guidesNow(board, grid, outlines, anchors)
  const { landOf } = outlines
  const { q0, r0, width } = board.box
  return (area, i) => {
    const [guide, land] = [areas[area], lands[landOf[area]]]
    const [q, r] = [q0 + (i % width), r0 + Math.floor(i / width)]
    return (
      (guide ? outsideCost * powers[outsideBy(guide, q, r)] : 0) +
      (land ? coastCost * powers[outsideBy(land, q, r)] : 0)
    )
  }
}

/** Steps outside, to the power. */
const powers = Float64Array.from({ length: 256 }, (_, steps) => steps ** outsidePower)

export type Guides = { areas: (Guide | null)[]; lands: (Guide | null)[] }

/** @param anchors none to lay outlines just where areas are */
export function guidesNow(
  board: Board,
  grid: BlockGrid,
  { areas, lands, landOf }: Outlines,
  anchors: Anchors | null,
): Guides {
  const centres = centresOf(board, grid)
  const between = (k: number): number => {
    const home = anchors?.[k] ?? NaN
    return Number.isNaN(home) ? centres[k] : centres[k] + homeward(board.count[k >> 1]) * (home - centres[k])
  }
  const at = (paths: Paths, x: number, y: number): Guide | null => {
    if (Number.isNaN(x) || !paths.length) return null
    const [q, r] = inGrid(grid, x, y)
    const spans = spansOf(paths, q, r)
    if (spans.length) return guideOf(spans, grid.shape)
    // An outline of one block may lie between the middles of two.
    const [from, row] = nearestBlock(grid.shape, q, r)
    return guideOf([{ r: row, from, to: from }], grid.shape)
  }
  return {
    areas: areas.map((paths, a) => at(paths, between(2 * a), between(2 * a + 1))),
    lands: lands.map((paths, land) => {
      let [n, x, y] = [0, 0, 0]
      if (paths.length)
        landOf.forEach((own, a) => {
          if (own !== land || !board.count[a]) return
          n += board.count[a]
          x += board.count[a] * centres[2 * a]
          y += board.count[a] * centres[2 * a + 1]
        })
      return at(paths, x / n, y / n)
    }),
  }
}

/** What every feature is to measure for the flow: its part of its body's blocks, and little without any. */
function flowShares({ areas }: PlaneAreas, { of, blocks }: Bodies): Float64Array {
  const members = new Float64Array(blocks.length)
  of.forEach((u, f) => u >= 0 && (members[u] += areas[f]))
  return Float64Array.from(of, (u, f) => {
    if (!(areas[f] > 0)) return NaN
    return u >= 0 ? Math.max(without, blocks[u]) * (areas[f] / members[u]) : without
  })
}

/**
 * Where each body lies when all together are as large as their blocks. Lands that flowed into other proportions get
 * back those that they have on the ground.
 */
function* startsOf(
  flown: Areas,
  {
    plane,
    bodies: { of, blocks },
    grid,
    outlines,
  }: {
    plane: PlaneAreas
    bodies: Bodies
    grid: BlockGrid
    outlines: Outlines
  },
): Steps<Start[]> {
  const sizes = ringAreas(flown)
  const all = blocks.reduce((sum, n) => sum + n, 0) * blockArea(grid.shape, grid.side)
  const covered = sizes.reduce((sum, m2, f) => sum + (of[f] >= 0 ? m2 : 0), 0)
  const scale = Math.sqrt(all / covered)
  const scaled: Place = (x, y) => [grid.x0 + scale * (x - grid.x0), grid.y0 + scale * (y - grid.y0)]
  const rings = Array.from(of, (u, f) => (u >= 0 && plane.areas[f] > 0 ? allRings(flown, f) : []))
  const spansBy = (place: (u: number) => Place): Span[][] => {
    const spans: Span[][] = Array.from(blocks, () => [])
    rings.forEach((own, f) => {
      if (own.length) spans[of[f]].push(...spansOf(pathsOf(flown, own, grid, place(of[f]))))
    })
    return spans
  }
  const first = spansBy(() => scaled)
  yield 0.3
  const places = outlines.lands.map((paths, land): Place => {
    const now = spreadOf(
      first.flatMap((spans, u) => (outlines.landOf[u] === land ? middlesOf(spans, grid) : [])),
    )
    if (!paths.length) return scaled
    const [a, b, c, d] = proportioned(now.spread, spreadOf(middlesOf(spansOf(paths), grid)).spread)
    return (x, y) => {
      const [px, py] = scaled(x, y)
      const [dx, dy] = [px - now.x, py - now.y]
      return [now.x + a * dx + b * dy, now.y + c * dx + d * dy]
    }
  })
  const placeOf = (u: number): Place => places[outlines.landOf[u]]
  yield 0.6
  const moments = Array.from(blocks, () => [0, 0, 0])
  rings.forEach((own, f) => {
    for (const ring of own) ringMoments(flown, ring).forEach((moment, k) => (moments[of[f]][k] += moment))
  })
  return spansBy(placeOf).map((spans, u) => {
    const [m2, x, y] = moments[u]
    const [q, r] = m2 ? inGrid(grid, ...placeOf(u)(x / m2, y / m2)) : [0, 0]
    return { spans, q, r }
  })
}

type Place = (x: number, y: number) => [number, number]

const middlesOf = (spans: Span[], grid: BlockGrid): [number, number][] =>
  spans.flatMap(({ r, from, to }) =>
    Array.from({ length: to - from + 1 }, (_, k) => middleOf(grid, from + k, r)),
  )

export function outlinesOf(
  plane: PlaneAreas,
  { of, blocks }: Bodies,
  grid: BlockGrid,
  wanted: Wanted,
): Outlines {
  const members: number[][] = Array.from(blocks, () => [])
  of.forEach((u, f) => u >= 0 && plane.areas[f] > 0 && members[u].push(f))
  const landOf = new Int32Array(blocks.length)
  const lands = landsOf(wanted)
  lands.forEach((land, k) => land.forEach((a) => (landOf[a] = k)))
  const size = (n: number) => n * blockArea(grid.shape, grid.side)
  return {
    areas: members.map((features, u) => outlineOf(plane.projected, features, size(blocks[u]), grid)),
    // A land of one area has its outline.
    lands: lands.map((land) =>
      land.length < 2
        ? []
        : outlineOf(
            plane.projected,
            land.flatMap((a) => members[a]),
            size(land.reduce((sum, a) => sum + blocks[a], 0)),
            grid,
          ),
    ),
    landOf,
  }
}

/** Features together about their centre of gravity, made so large. */
function outlineOf(projected: Areas, features: number[], m2: number, grid: BlockGrid): Paths {
  const rings = features.flatMap((f) => mainRings(projected, f, mainPart))
  const [all, x, y] = momentsOf(projected, rings)
  const scale = Math.sqrt(m2 / Math.abs(all))
  if (!Number.isFinite(scale)) return []
  return pathsOf(projected, rings, { ...grid, x0: 0, y0: 0 }, (px, py) => [
    scale * (px - x),
    scale * (py - y),
  ])
}

/** Gives a block to every body that has none yet and is to have some: the nearest that can be had. */
function seedMissing(board: Board, starts: Start[]): void {
  starts.forEach(({ q, r }, a) => {
    if (!board.wanted.blocks[a] || board.count[a]) return
    let [best, least] = [-1, Infinity]
    for (let i = 0; i < board.owner.length; i++) {
      const own = board.owner[i]
      if (own < water || (own >= 0 && (board.count[own] < 2 || !board.staysWhole(i)))) continue
      const [bq, br] = board.address(i)
      const far = farSquared(board.shape, bq - q, br - r)
      if (far < least) [best, least] = [i, far]
    }
    if (best >= 0) board.give(best, a)
  })
}
