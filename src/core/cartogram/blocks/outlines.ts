import type { MultiLineString, MultiPolygon } from 'geojson'
import { milestones, type Steps } from '@/core/grid/steps'
import { addressKey } from './cells'
import { around, middleOf, type BlockGrid } from '../block-grid'

/** Corners of blocks by whole numbers: the sum of the addresses of the blocks that meet there. */
type Corner = { key: string; at: [number, number] }

/** A side of a block from one corner to the next, clockwise as seen on the map. */
type Side = { from: Corner; to: Corner; block: string; side: number }

/**
 * The outlines of blocks that belong to several owners.
 * @param cells addresses of each owner, q and r by turns
 * @param toDegrees turns corners of a closed ring in the plane into positions; the ring has its middle with it
 * @returns polygons by owner, null for one without blocks
 */
export function blockShapesOf(
  cells: readonly ArrayLike<number>[],
  grid: BlockGrid,
  toDegrees: (places: number[], middle: [number, number]) => number[][],
): (MultiPolygon | null)[] {
  return cells.map((own) => {
    if (!own.length) return null
    const polygons = piecesOf(own, grid).map((piece) => {
      const middle = middleAmong(piece, grid)
      const rings = ringsOf(piece, grid)
      // The outer ring is the one that encloses most.
      const outer = rings.reduce((best, ring) => (enclosed(ring) > enclosed(best) ? ring : best))
      return [outer, ...rings.filter((ring) => ring !== outer)].map((ring) =>
        toDegrees(alongSides(ring.reverse(), grid.side > long ? more : 0), middle),
      )
    })
    return { type: 'MultiPolygon', coordinates: polygons }
  })
}

/** Lines between blocks of one owner, each side once. */
export function* blockLinesOf(
  cells: readonly ArrayLike<number>[],
  grid: BlockGrid,
  toDegrees: (places: number[], middle: [number, number]) => number[][],
): Steps<(MultiLineString | null)[]> {
  const half = around[grid.shape].length / 2
  const out: (MultiLineString | null)[] = []
  const told = milestones(blocksAtOnce)
  for (const own of cells) {
    const has = keysOf(own)
    const lines: number[][][] = []
    for (let k = 0; k < own.length; k += 2)
      for (let side = 0; side < half; side++) {
        const [dq, dr] = around[grid.shape][side]
        if (!has.has(addressKey(own[k] + dq, own[k + 1] + dr))) continue
        const [a, b] = [corner(grid, own[k], own[k + 1], side), corner(grid, own[k], own[k + 1], side + 1)]
        lines.push(toDegrees([...a.at, ...b.at], a.at))
      }
    out.push(lines.length ? { type: 'MultiLineString', coordinates: lines } : null)
    if (told.due(own.length / 2)) yield out.length / cells.length
  }
  return out
}

/** So many blocks are looked at in one piece. */
const blocksAtOnce = 200

const keysOf = (cells: ArrayLike<number>): Set<string> => {
  const keys = new Set<string>()
  for (let k = 0; k < cells.length; k += 2) keys.add(addressKey(cells[k], cells[k + 1]))
  return keys
}

/** Blocks that hang together over sides. */
export function piecesOf(cells: ArrayLike<number>, { shape }: Pick<BlockGrid, 'shape'>): number[][] {
  const open = keysOf(cells)
  const pieces: number[][] = []
  for (let k = 0; k < cells.length; k += 2) {
    if (!open.delete(addressKey(cells[k], cells[k + 1]))) continue
    const piece = [cells[k], cells[k + 1]]
    for (let i = 0; i < piece.length; i += 2)
      for (const [dq, dr] of around[shape]) {
        const [q, r] = [piece[i] + dq, piece[i + 1] + dr]
        if (open.delete(addressKey(q, r))) piece.push(q, r)
      }
    pieces.push(piece)
  }
  return pieces
}

/** Corner k of a block, between its neighbours k − 1 and k. Blocks that share it name and place it alike. */
function corner(grid: BlockGrid, q: number, r: number, k: number): Corner {
  const { shape } = grid
  const next = around[shape]
  const n = next.length
  const [[aq, ar], [bq, br]] = [next[(k + n - 1) % n], next[k % n]]
  // Three hexagons meet in a corner, and it lies in the middle of theirs; of squares two lie across it from each other.
  const parts = shape === 'squares' ? 2 : 3
  const [cq, cr] = [parts * q + aq + bq, parts * r + ar + br]
  return {
    key: addressKey(cq, cr),
    at: middleOf(grid, cq / parts, cr / parts),
  }
}

/** Closed rings about one piece, each clockwise round blocks as the map is seen. */
function ringsOf(piece: number[], grid: BlockGrid): [number, number][][] {
  const has = keysOf(piece)
  const sides = new Map<string, Side[]>()
  const all: Side[] = []
  for (let k = 0; k < piece.length; k += 2) {
    const [q, r] = [piece[k], piece[k + 1]]
    around[grid.shape].forEach(([dq, dr], side) => {
      if (has.has(addressKey(q + dq, r + dr))) return
      const one: Side = {
        from: corner(grid, q, r, side),
        to: corner(grid, q, r, side + 1),
        block: addressKey(q, r),
        side,
      }
      all.push(one)
      const known = sides.get(one.from.key)
      if (known) known.push(one)
      else sides.set(one.from.key, [one])
    })
  }
  const used = new Set<Side>()
  const rings: [number, number][][] = []
  for (const start of all) {
    if (used.has(start)) continue
    const ring: [number, number][] = [start.from.at]
    for (let at: Side | undefined = start; at && !used.has(at);) {
      const here: Side = at
      used.add(here)
      ring.push(here.to.at)
      const open: Side[] = (sides.get(here.to.key) ?? []).filter((next) => !used.has(next))
      // Where blocks meet in a corner alone, the ring stays with its own.
      at = open.find(({ block }) => block === here.block) ?? open[0]
    }
    rings.push(ring)
  }
  return rings
}

const enclosed = (ring: [number, number][]): number =>
  Math.abs(ring.slice(1).reduce((sum, [x, y], k) => sum + ring[k][0] * y - x * ring[k][1], 0)) / 2

/** Points on each side of a block beside its ends, where it is so long that another projection may bend it, m. */
const [more, long] = [2, 50_000]

function alongSides(ring: [number, number][], between: number): number[] {
  const out: number[] = []
  for (let k = 0; k + 1 < ring.length; k++)
    for (let i = 0; i <= between; i++)
      out.push(
        ring[k][0] + ((ring[k + 1][0] - ring[k][0]) * i) / (between + 1),
        ring[k][1] + ((ring[k + 1][1] - ring[k][1]) * i) / (between + 1),
      )
  const [x, y] = ring[ring.length - 1]
  return [...out, x, y]
}

/** The middle of the block nearest to the centre of gravity of a piece. */
function middleAmong(piece: number[], grid: BlockGrid): [number, number] {
  const n = piece.length / 2
  let [mq, mr] = [0, 0]
  for (let k = 0; k < piece.length; k += 2) {
    mq += piece[k] / n
    mr += piece[k + 1] / n
  }
  let [best, of] = [Infinity, [0, 0] as [number, number]]
  for (let k = 0; k < piece.length; k += 2) {
    const far = (piece[k] - mq) ** 2 + (piece[k + 1] - mr) ** 2
    if (far < best) [best, of] = [far, [piece[k], piece[k + 1]]]
  }
  return middleOf(grid, ...of)
}
