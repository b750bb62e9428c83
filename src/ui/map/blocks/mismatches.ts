import type { Cells } from '@/core/cartogram/blocks/make'
import { piecesOf } from '@/core/cartogram/blocks/outlines'
import type { BlockShape } from '@/core/cartogram/block-grid'
import type { BlocksPlan } from '@/core/kinds/blocks/plan'

/** What does not have what it is worth, or does not hang together. */
export type Mismatch = { body: number; name: string; has: number; wanted: number; pieces: number }

export const mismatchesOf = ({ bodies }: BlocksPlan, cells: Cells, shape: BlockShape): Mismatch[] =>
  bodies.flatMap(({ name, blocks }, body) => {
    const has = cells[body].length / 2
    const pieces = has ? piecesOf(cells[body], { shape }).length : 0
    return has === blocks && pieces <= 1 ? [] : [{ body, name, has, wanted: blocks, pieces }]
  })
