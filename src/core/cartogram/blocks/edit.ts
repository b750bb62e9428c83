import { addressKey } from './cells'
import { middleOf, nearestBlock, type BlockShape } from '../block-grid'
import type { Cells } from './make'
import { piecesOf } from './outlines'

/** A block by its address. */
export type Address = readonly [q: number, r: number]

/** Who has each block. */
export function ownersOf(cells: Cells): Map<string, number> {
  const owners = new Map<string, number>()
  cells.forEach((own, body) => {
    for (let k = 0; k < own.length; k += 2) owners.set(addressKey(own[k], own[k + 1]), body)
  })
  return owners
}

/** Blocks given to a body, whoever had them before; −1 gives them to the water. */
export function painted(cells: Cells, body: number, blocks: readonly Address[]): Cells {
  const taken = new Set(blocks.map(([q, r]) => addressKey(q, r)))
  return cells.map((own, other) => {
    const left: number[] = []
    for (let k = 0; k < own.length; k += 2)
      if (!taken.has(addressKey(own[k], own[k + 1]))) left.push(own[k], own[k + 1])
    const given = other === body ? distinct(blocks).flat() : []
    return left.length === own.length && !given.length ? own : Int32Array.from([...left, ...given])
  })
}

const distinct = (blocks: readonly Address[]): number[][] => [
  ...new Map(blocks.map(([q, r]) => [addressKey(q, r), [q, r]])).values(),
]

const addresses = (own: Int32Array): Address[] =>
  Array.from({ length: own.length / 2 }, (_, k): Address => [own[2 * k], own[2 * k + 1]])

/** A body put elsewhere: what it had becomes water, and what lay where it comes to lie is its own. */
const replaced = (cells: Cells, body: number, blocks: Address[]): Cells =>
  painted(painted(cells, -1, addresses(cells[body])), body, blocks)

/** A body moved by so many blocks. */
export const moved = (cells: Cells, body: number, [dq, dr]: Address): Cells =>
  replaced(
    cells,
    body,
    addresses(cells[body]).map(([q, r]): Address => [q + dq, r + dr]),
  )

/** A body turned clockwise about its middle, by a sixth of a full turn, or by a quarter for squares. */
export function turned(cells: Cells, body: number, shape: BlockShape): Cells {
  const own = addresses(cells[body])
  const [mq, mr] = middleBlock(own)
  return replaced(
    cells,
    body,
    own.map(([q, r]): Address => {
      const [dq, dr] = [q - mq, r - mr]
      return shape === 'squares' ? [mq - dr, mr + dq] : [mq - dr, mr + dq + dr]
    }),
  )
}

function middleBlock(own: Address[]): Address {
  const mean = [0, 1].map((k) => own.reduce((sum, at) => sum + at[k], 0) / (own.length || 1))
  return [Math.round(mean[0]), Math.round(mean[1])]
}

/**
 * Two bodies change places, each with as many blocks as before. Bodies of one size take over each other's blocks;
 * neighbours share out the blocks of both anew; others are moved to each other's middle as they are.
 */
export function swapped(cells: Cells, a: number, b: number, shape: BlockShape): Cells {
  const [blocksA, blocksB] = [addresses(cells[a]), addresses(cells[b])]
  if (!blocksA.length || !blocksB.length) return cells
  if (blocksA.length === blocksB.length) return both(cells, [a, blocksB], [b, blocksA])
  const all = [...blocksA, ...blocksB]
  if (piecesOf(Int32Array.from(all.flat()), { shape }).length === 1) {
    const far = farther(shape, middleBlock(blocksA), middleBlock(blocksB))
    // What lies farthest on the other’s side comes first.
    const order = [...all].sort((x, y) => far(y) - far(x) || x[1] - y[1] || x[0] - y[0])
    return both(cells, [a, order.slice(0, blocksA.length)], [b, order.slice(blocksA.length)])
  }
  const [fromA, fromB] = [middleBlock(blocksA), middleBlock(blocksB)]
  const by: Address = [fromB[0] - fromA[0], fromB[1] - fromA[1]]
  const cleared = painted(painted(cells, -1, blocksA), -1, blocksB)
  const laid = painted(
    cleared,
    a,
    blocksA.map(([q, r]): Address => [q + by[0], r + by[1]]),
  )
  return painted(
    laid,
    b,
    blocksB.map(([q, r]): Address => [q - by[0], r - by[1]]),
  )
}

const both = (cells: Cells, [a, blocksA]: [number, Address[]], [b, blocksB]: [number, Address[]]): Cells =>
  cells.map((own, body) => {
    if (body === a) return Int32Array.from(blocksA.flat())
    return body === b ? Int32Array.from(blocksB.flat()) : own
  })

/** How much nearer a block is to the second of two places. */
function farther(shape: BlockShape, from: Address, to: Address): (block: Address) => number {
  const at = ([q, r]: Address) => middleOf({ shape, side: 1, x0: 0, y0: 0 }, q, r)
  const [[ax, ay], [bx, by]] = [at(from), at(to)]
  return (block) => {
    const [x, y] = at(block)
    return (x - ax) * (bx - ax) + (y - ay) * (by - ay)
  }
}

/** The blocks on the straight way from one to another, both with it: a fast stroke of a brush leaves none out. */
export function between(shape: BlockShape, from: Address, to: Address): Address[] {
  const [dq, dr] = [to[0] - from[0], to[1] - from[1]]
  const steps =
    shape === 'squares'
      ? Math.abs(dq) + Math.abs(dr)
      : Math.max(Math.abs(dq), Math.abs(dr), Math.abs(dq + dr))
  if (!steps) return [from]
  // A little to one side, so that no place lies just between two blocks.
  return distinctAddresses(
    Array.from({ length: steps + 1 }, (_, k): Address => {
      const share = k / steps
      return nearestBlock(shape, from[0] + dq * share + 1e-6, from[1] + dr * share + 2e-6)
    }),
  )
}

const distinctAddresses = (blocks: Address[]): Address[] => [
  ...new Map(blocks.map((block) => [addressKey(...block), block])).values(),
]
