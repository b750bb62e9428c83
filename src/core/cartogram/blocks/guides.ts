import type { Board } from './board'
import { around, middleOf, type BlockGrid } from '../block-grid'
import type { Span } from './start'

/**
 * How an area would lie if its own outline were made as large as its blocks: for blocks about it, how many steps
 * each lies outside of that outline.
 */
export type Guide = { q0: number; r0: number; width: number; height: number; steps: Uint8Array }

/** Farther outside than this all is the same. */
const farthest = 6

/** @param spans the blocks in the outline */
export function guideOf(spans: Span[], shape: BlockGrid['shape']): Guide | null {
  if (!spans.length) return null
  let [west, east, north, south] = [Infinity, -Infinity, Infinity, -Infinity]
  for (const { r, from, to } of spans) {
    west = Math.min(west, from)
    east = Math.max(east, to)
    north = Math.min(north, r)
    south = Math.max(south, r)
  }
  const box = {
    q0: west - farthest,
    r0: north - farthest,
    width: east - west + 1 + 2 * farthest,
    height: south - north + 1 + 2 * farthest,
  }
  const steps = new Uint8Array(box.width * box.height).fill(farthest)
  let edge: number[] = []
  for (const { r, from, to } of spans)
    for (let q = from; q <= to; q++) {
      const i = (r - box.r0) * box.width + q - box.q0
      steps[i] = 0
      edge.push(i)
    }
  for (let away = 1; away < farthest; away++) {
    const next: number[] = []
    for (const i of edge)
      for (const [dq, dr] of around[shape]) {
        const j = i + dr * box.width + dq
        if (!(steps[j] > away)) continue
        steps[j] = away
        next.push(j)
      }
    edge = next
  }
  return { ...box, steps }
}

/** How many steps outside of its guide a block lies. */
export function outsideBy({ q0, r0, width, height, steps }: Guide, q: number, r: number): number {
  const [c, row] = [q - q0, r - r0]
  return c >= 0 && row >= 0 && c < width && row < height ? steps[row * width + c] : farthest
}

/** Where the blocks of each area have their centre of gravity, x and y by turns; NaN without blocks. */
export function centresOf(board: Board, grid: BlockGrid): Float64Array {
  const sums = new Float64Array(2 * board.count.length)
  board.owner.forEach((own, i) => {
    if (own < 0) return
    const [x, y] = middleOf(grid, ...board.address(i))
    sums[2 * own] += x
    sums[2 * own + 1] += y
  })
  return sums.map((sum, k) => sum / board.count[k >> 1])
}
