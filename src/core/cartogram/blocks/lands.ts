import { Board, water, type Wanted } from './board'
import type { BlockShape } from '../block-grid'
import type { Span } from './start'

/** Where a body would lie: its blocks, which may be none, and the address of its middle, which is no whole number. */
export type Start = { spans: Span[]; q: number; r: number }

/** A land is moved no farther than this to get clear of others, in blocks. */
const farthest = 14
/** Lands of no more than this share of all blocks come nearer to the next land; so much of the water is left. */
const [islandShare, waterKept, leastWater] = [0.08, 0.25, 3]

/**
 * Lays bodies on a board. A body has one piece, the largest; lands, which are bodies that border on each other, are
 * moved as a whole by as little as keeps water between them, the largest staying where it is.
 */
export function apart(shape: BlockShape, starts: Start[], wanted: Wanted): Board {
  const board = new Board(shape, boxOf(starts, wanted), wanted)
  starts.forEach(({ spans }, a) => {
    if (!wanted.blocks[a]) return
    for (const { r, from, to } of spans)
      for (let q = from; q <= to; q++) {
        const i = board.at(q, r)
        if (i >= 0 && board.owner[i] === water) board.give(i, a)
      }
  })
  starts.forEach(({ q, r }, a) => {
    const i = board.at(Math.round(q), Math.round(r))
    if (wanted.blocks[a] && !board.count[a] && i >= 0 && board.owner[i] === water) board.give(i, a)
  })
  const pieces = board.pieces()
  for (const [, ...rest] of pieces) for (const i of rest.flat()) board.give(i, water)
  const lands = landsOf(wanted)
    .map((bodies) => ({ bodies, blocks: bodies.flatMap((a) => (pieces[a][0] ?? []).map((i) => ({ a, i }))) }))
    .filter(({ blocks }) => blocks.length)
    .sort((x, y) => y.blocks.length - x.blocks.length)
  if (lands.length < 2) return board
  for (const { blocks } of lands) for (const { i } of blocks) board.give(i, water)
  const shifts = shiftsOf(shape)
  const { width } = board.box
  const all = lands.reduce((sum, { blocks }) => sum + blocks.length, 0)
  const placed: [q: number, r: number][] = []
  for (const { bodies, blocks } of lands) {
    const own = new Set(bodies)
    const at = blocks.map(({ i }) => board.address(i))
    const nearer = placed.length && blocks.length <= islandShare * all ? pulled(at, placed, shape) : [0, 0]
    const clear = ([q, r]: readonly [number, number]): boolean =>
      blocks.every(({ i }) => {
        const [bq, br] = board.address(i)
        const at = board.at(bq + q, br + r)
        return (
          at >= 0 &&
          board.owner[at] === water &&
          board.sides.every((side) => board.owner[at + side] < 0 || own.has(board.owner[at + side]))
        )
      })
    const moved = shifts.map(([q, r]): [number, number] => [q + nearer[0], r + nearer[1]])
    const [q, r] = moved.find(clear) ?? shifts.find(clear) ?? [0, 0]
    for (const { a, i } of blocks) {
      const to = i + r * width + q
      if (board.owner[to] !== water) continue
      board.give(to, a)
      placed.push(board.address(to))
    }
  }
  // Without room some blocks were lost, and with them what held a body together.
  for (const [, ...rest] of board.pieces()) for (const i of rest.flat()) board.give(i, water)
  return board
}

/** How far two addresses lie apart, in sides of a block, squared. */
export const farSquared = (shape: BlockShape, q: number, r: number): number =>
  q * q + r * r + (shape === 'hexagons' ? q * r : 0)

/** By how much an island comes nearer to what was laid already. */
function pulled(
  island: [number, number][],
  placed: [number, number][],
  shape: BlockShape,
): [q: number, r: number] {
  let [best, way] = [Infinity, [0, 0] as [number, number]]
  for (const [q, r] of island)
    for (const [pq, pr] of placed) {
      const far = farSquared(shape, pq - q, pr - r)
      if (far < best) [best, way] = [far, [pq - q, pr - r]]
    }
  const gap = Math.sqrt(best)
  const share = 1 - Math.max(leastWater, waterKept * gap) / gap
  return share > 0 ? [Math.round(way[0] * share), Math.round(way[1] * share)] : [0, 0]
}

/** Bodies that border on each other, directly or over others. */
export function landsOf({ blocks, relation }: Wanted): number[][] {
  const count = blocks.length
  const seen = new Uint8Array(count)
  const lands: number[][] = []
  for (let start = 0; start < count; start++) {
    if (seen[start]) continue
    seen[start] = 1
    const land = [start]
    for (const a of land)
      for (let b = 0; b < count; b++)
        if (relation[a * count + b] === 1 && !seen[b]) {
          seen[b] = 1
          land.push(b)
        }
    lands.push(land)
  }
  return lands
}

/** Shifts by whole blocks, the shortest first. */
function shiftsOf(shape: BlockShape): [q: number, r: number][] {
  const out: { shift: [number, number]; far: number }[] = []
  for (let q = -2 * farthest; q <= 2 * farthest; q++)
    for (let r = -farthest; r <= farthest; r++) {
      const far = farSquared(shape, q, r)
      if (far <= farthest ** 2) out.push({ shift: [q, r], far })
    }
  return out.sort((a, b) => a.far - b.far).map(({ shift }) => shift)
}

/** Room round everything that is laid out. */
function boxOf(starts: Start[], { blocks }: Wanted): Board['box'] {
  let [west, east, north, south] = [Infinity, -Infinity, Infinity, -Infinity]
  let all = 0
  starts.forEach(({ spans, q, r }, a) => {
    if (!blocks[a]) return
    all += blocks[a]
    for (const span of [...spans, { r: Math.round(r), from: Math.round(q), to: Math.round(q) }]) {
      west = Math.min(west, span.from)
      east = Math.max(east, span.to)
      north = Math.min(north, span.r)
      south = Math.max(south, span.r)
    }
  })
  if (!(all > 0)) [west, east, north, south] = [0, 0, 0, 0]
  const room = 8 + Math.ceil(0.35 * Math.sqrt(all))
  return {
    q0: west - room,
    r0: north - room,
    width: east - west + 1 + 2 * room,
    height: south - north + 1 + 2 * room,
  }
}
