'use client'
import { useEffect, useState } from 'react'
import type { Cells } from '@/core/cartogram/blocks/make'
import type { BlocksPlan } from '@/core/kinds/blocks/plan'
import { handOf } from '@/core/kinds/blocks/shapes'
import type { Layer, MapSpec } from '@/core/map/spec'
import type { BlocksThere } from '@/workers/block-questions'
import { ask } from '@/workers/client'
import { folioNow, useDocument } from '../../shell/folio-store'
import { editingOf } from '../kinds/kind-ui'

/** Blocks that have arrived, with the plan whose bodies they belong to. */
export type Arrived = BlocksThere & { plan: BlocksPlan }

/** The blocks of a layer as they are drawn; while others are under way those before stay. */
export function useBlocks(map: MapSpec, layer: Layer, plan: BlocksPlan): Arrived | null {
  const { datasets } = useDocument()
  const [there, setThere] = useState<Arrived | null>(null)
  const { projection } = map
  useEffect(() => {
    let here = true
    ask(folioNow(), (worker) => worker.blocksOn(layer, projection)).then(
      (blocks) => here && setThere(blocks && { ...blocks, plan }),
      () => undefined,
    )
    return () => void (here = false)
  }, [layer, plan, projection, datasets])
  return there && there.cells.length === plan.bodies.length ? there : null
}

/** Blocks as they are from now on: all that is there is placed by hand then. */
export function placeBlocks(layer: Layer, { plan }: Pick<Arrived, 'plan'>, cells: Cells, name: string): void {
  const { change } = editingOf('blocks', layer)
  change(name, (draft) => void (draft.hand = handOf(cells, plan)))
}
