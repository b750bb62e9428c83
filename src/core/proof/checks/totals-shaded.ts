import { kindOf } from '@/core/kinds/registry'
import { kindData, planOf } from '@/core/map/layer-plan'
import type { Check } from '../check'

export const totalsShaded: Check = {
  id: 'totals-shaded',
  passed: 'Every field suits its kind of map',
  failed: 'A field does not suit its map',
  run({ layers }) {
    let thematic = 0
    for (const { layer, prepared, map } of layers) {
      const kind = kindOf(layer.symbology.kind)
      if (!kind.thematic) continue
      thematic++
      const caution = kind.caution(planOf(layer, prepared), layer.symbology.settings, kindData(prepared))
      if (caution)
        return {
          ok: false,
          detail: `“${layer.name}”: ${caution.words}`,
          target: { desk: 'map', mapId: map.id, layerId: layer.id },
        }
    }
    return thematic
      ? { ok: true, detail: `${thematic} thematic ${thematic === 1 ? 'layer' : 'layers'}`, target: null }
      : null
  },
}
