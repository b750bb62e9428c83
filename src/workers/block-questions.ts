import { gridFor } from '@/core/cartogram/blocks/layout'
import type { Runs } from '@/core/cartogram/blocks/cells'
import type { BlockGrid } from '@/core/cartogram/block-grid'
import type { Cells } from '@/core/cartogram/blocks/make'
import { planeAreas } from '@/core/cartogram/plane'
import type { Prepared } from '@/core/data/prepare'
import type { BlocksPlan } from '@/core/kinds/blocks/plan'
import { settled, type BlocksShapes } from '@/core/kinds/blocks/shapes'
import type { BlocksSettings } from '@/core/kinds/blocks/spec'
import { layerSteps, planOf, shapesOf } from '@/core/map/layer-plan'
import { shownOf } from '@/core/map/shown'
import type { Layer } from '@/core/map/spec'
import type { ProjectionSpec } from '@/core/projection/catalogue'
import { createProjection } from '@/core/projection/projection'
import { inPieces } from './pieces'

/** The blocks of a layer as they are drawn, for whoever paints them: by body, and on which grid. */
export type BlocksThere = { cells: Cells; grid: BlockGrid }

/** What is asked of a layer of blocks while it is worked on by hand. */
export function blockQuestions(datasets: () => Map<string, Prepared>) {
  let settling = 0

  /** Blocks of a layer where they are, by hand or by themselves; null for other layers. */
  async function blocksOn(layer: Layer, plane: ProjectionSpec): Promise<BlocksThere | null> {
    const prepared = shownOf(layer, datasets())
    if (!prepared || layer.symbology.kind !== 'blocks' || prepared.dataset.geometry.kind !== 'areas')
      return null
    await inPieces(() => layerSteps(layer, prepared, plane), { isDropped: () => false })
    const { shape, sideM } = layer.symbology.settings as BlocksSettings
    const made = shapesOf(layer, prepared, planOf(layer, prepared), plane) as BlocksShapes
    const areas = planeAreas(prepared.dataset.geometry, createProjection(plane))
    return made && { cells: made.cells, grid: gridFor(areas, shape, sideM) }
  }

  /**
   * The blocks of a layer once those that lack some have theirs and all that is not kept has found better places; null
   * where it was stopped. `tell` hears how far it is.
   */
  async function settleBlocks(
    layer: Layer,
    plane: ProjectionSpec,
    tell: (share: number) => void,
  ): Promise<Record<string, Runs> | null> {
    const mine = ++settling
    const prepared = shownOf(layer, datasets())
    if (!prepared || layer.symbology.kind !== 'blocks' || prepared.dataset.geometry.kind !== 'areas')
      return null
    const { geometry } = prepared.dataset
    let hand: Record<string, Runs> | null = null
    const steps = (function* () {
      const settings = layer.symbology.settings as BlocksSettings
      hand = yield* settled(planOf(layer, prepared) as BlocksPlan, settings, geometry, plane)
    })()
    const done = await inPieces(() => steps, { tell, isDropped: () => settling !== mine })
    return done ? hand : null
  }

  /** Nobody waits for blocks to settle any more. */
  function dropSettling(): void {
    settling++
  }

  return { blocksOn, settleBlocks, dropSettling }
}
