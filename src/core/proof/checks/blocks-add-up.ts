import { cellsFrom } from '@/core/kinds/blocks/shapes'
import type { BlocksPlan } from '@/core/kinds/blocks/plan'
import type { BlocksSettings } from '@/core/kinds/blocks/spec'
import { piecesOf } from '@/core/cartogram/blocks/outlines'
import { planOf } from '@/core/map/layer-plan'
import type { Check, Target } from '../check'

/** Blocks placed by hand may be more or fewer than an area is worth, or lie apart; readers count them. */
export const blocksAddUp: Check = {
  id: 'blocks-add-up',
  passed: 'Every area has the blocks that it is worth',
  failed: 'Blocks do not add up',
  run({ layers }) {
    const wrong: string[] = []
    let seen = 0
    let target: Target | null = null
    for (const { layer, map, prepared } of layers) {
      if (layer.symbology.kind !== 'blocks') continue
      seen++
      const { hand, shape } = layer.symbology.settings as BlocksSettings
      if (!hand) continue
      const plan = planOf(layer, prepared) as BlocksPlan
      const { cells, lost } = cellsFrom(hand, plan)
      const off = plan.bodies.flatMap(({ name, blocks }, body) => {
        const has = cells[body].length / 2
        if (has !== blocks) return [`${name} has ${has} of ${blocks}`]
        return has && piecesOf(cells[body], { shape }).length > 1 ? [`${name} is in pieces`] : []
      })
      if (lost.blocks) off.push(`${lost.blocks} belong to what is not there`)
      if (off.length) target ??= { desk: 'map', mapId: map.id, layerId: layer.id }
      wrong.push(...off)
    }
    if (!seen) return null
    if (!target) return { ok: true, detail: '', target }
    const more = wrong.length > 3 ? `, and ${wrong.length - 3} more` : ''
    return { ok: false, detail: `${wrong.slice(0, 3).join(', ')}${more}.`, target }
  },
}
