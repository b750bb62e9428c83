import type { Steps } from '@/core/grid/steps'
import { water, type Board } from './board'

/** What a block costs an area by where it lies. */
export type Placing = (area: number, block: number) => number

/**
 * Hands blocks on until every area has as many as it is to have: from one that has too many, or from the water, along
 * the fewest areas to one that has too few, or to the water. Every area stays in one piece.
 * @param fixed areas that keep their blocks
 * @returns how many areas could not be given what they are to have
 */
export function* settle(board: Board, placing: Placing, fixed: Uint8Array | null): Steps<number> {
  const { wanted, count } = board
  const areas = wanted.blocks.length
  const free = (a: number): boolean => !fixed?.[a]
  const banned = new Set<number>()
  let most = 0
  for (let guard = 0; guard < 40 * areas + 1000; guard++) {
    const off = [...count.keys()].filter((a) => free(a) && count[a] !== wanted.blocks[a])
    most = Math.max(most, off.length)
    const [few, many] = [
      off.filter((a) => count[a] < wanted.blocks[a] && count[a] > 0),
      off.filter((a) => count[a] > wanted.blocks[a]),
    ]
    if (!few.length && !many.length) return off.length
    const next = (a: number) => board.beside(a).filter((b) => b < 0 || free(b))
    yield 1 - off.length / Math.max(1, most)
    // From the water to those that have too few, or from those that have too many to the water or to the former.
    const way = few.length
      ? shortest(next, [water, ...many], new Set(few), banned)
      : shortest(next, many, new Set([water]), banned)
    if (!way) return off.length
    const done: { block: number; from: number }[] = []
    let stuck = -1
    for (let k = 0; k + 1 < way.length && stuck < 0; k++) {
      const block = bestBlock(board, placing, way[k], way[k + 1])
      if (block < 0) {
        stuck = k
        break
      }
      done.push({ block, from: way[k] })
      board.give(block, way[k + 1])
    }
    if (stuck < 0) {
      banned.clear()
      continue
    }
    for (const { block, from } of done.reverse()) board.give(block, from)
    banned.add(edge(way[stuck], way[stuck + 1]))
  }
  return [...count.keys()].filter((a) => count[a] !== wanted.blocks[a]).length
}

const edge = (a: number, b: number): number => (a + 1) * 1e6 + b + 1

/** The way over the fewest areas from one of some to one of others. */
function shortest(
  next: (a: number) => number[],
  from: number[],
  to: Set<number>,
  banned: Set<number>,
): number[] | null {
  const before = new Map<number, number | null>(from.map((a) => [a, null]))
  const open = [...from]
  for (let k = 0; k < open.length; k++) {
    const here = open[k]
    for (const other of next(here)) {
      if (before.has(other) || banned.has(edge(here, other))) continue
      before.set(other, here)
      if (to.has(other)) {
        const way = [other]
        for (let at: number | null = here; at !== null; at = before.get(at) ?? null) way.unshift(at)
        return way
      }
      // The open water takes and gives, but nothing is handed on over it.
      if (other !== water) open.push(other)
    }
  }
  return null
}

/** The block that goes from one area, or the water, to another at the least cost; −1 where none can. */
function bestBlock(board: Board, placing: Placing, from: number, to: number): number {
  const { owner, sides } = board
  let [best, least] = [-1, Infinity]
  for (let i = 0; i < owner.length; i++) {
    if (owner[i] !== from) continue
    let beside = false
    for (const side of sides) if (owner[i + side] === to) beside = true
    if (!beside || (from >= 0 && !board.staysWhole(i))) continue
    if (from >= 0 && board.count[from] === 1 && to !== water && board.wanted.blocks[from] > 0) continue
    const placed = (to >= 0 ? placing(to, i) : 0) - (from >= 0 ? placing(from, i) : 0)
    const cost = board.give(i, to) + placed
    board.give(i, from)
    if (cost < least) [best, least] = [i, cost]
  }
  return best
}
