import type { Random } from '@/core/grid/random'
import type { Steps } from '@/core/grid/steps'
import { rim, water, type Board } from './board'
import type { Placing } from './settle'

/** What it costs to have too many or too few blocks, times the square of how many. */
const countCost = 1.1

/** So many tries are made in one piece. */
const pieceTries = 16_384

type Annealing = {
  random: Random
  fixed: Uint8Array | null
  /** Temperatures at the start and the end, in the unit of the costs. */
  hot: number
  cold: number
  rounds: number
  /** How many times every block at an edge is tried in a round. */
  tries: number
}

/**
 * Simulated annealing (Kirkpatrick, Gelatt and Vecchi 1983): blocks at the edges of areas change hands at random, those
 * changes that cost something ever more rarely. Areas stay in one piece, and are never without a block.
 * @param placingNow what blocks cost by where they lie, asked anew for every round
 */
export function* annealed(
  board: Board,
  placingNow: () => Placing,
  { random, fixed, hot, cold, rounds, tries }: Annealing,
): Steps<void> {
  const { owner, sides, wanted, count } = board
  const over = (a: number, n: number): number => (a < 0 ? 0 : countCost * (n - wanted.blocks[a]) ** 2)
  for (let round = 0; round < rounds; round++) {
    const heat = hot * (cold / hot) ** (round / Math.max(1, rounds - 1))
    const placing = placingNow()
    const at = edgeBlocks(board)
    for (let n = tries * at.length; n > 0; n--) {
      if (n % pieceTries === 0) yield round / rounds
      const i =
        at[Math.floor(random() * at.length)] +
        (random() < 0.5 ? 0 : sides[Math.floor(random() * sides.length)])
      const from = owner[i]
      if (from === rim || (from >= 0 && (fixed?.[from] || count[from] === 1))) continue
      const to = owner[i + sides[Math.floor(random() * sides.length)]]
      if (to === from || to === rim || (to >= 0 && fixed?.[to])) continue
      let cost = 0
      if (from >= 0) cost += over(from, count[from] - 1) - over(from, count[from]) - placing(from, i)
      if (to >= 0) cost += over(to, count[to] + 1) - over(to, count[to]) + placing(to, i)
      // Borders gained may make up for a lot, but not for everything.
      if (cost > 14 + 10 * heat) continue
      if (from !== water && !board.staysWhole(i)) continue
      cost += board.give(i, to)
      if (cost > 0 && random() >= Math.exp(-cost / heat)) board.give(i, from)
    }
    yield (round + 1) / rounds
  }
}

/** Blocks of areas that have a side in common with another owner. */
function edgeBlocks({ owner, sides }: Board): Int32Array {
  const out: number[] = []
  for (let i = 0; i < owner.length; i++) {
    if (owner[i] < 0) continue
    for (const side of sides)
      if (owner[i + side] !== owner[i]) {
        out.push(i)
        break
      }
  }
  return Int32Array.from(out)
}
