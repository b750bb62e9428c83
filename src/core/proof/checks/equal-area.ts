import { kindOf } from '@/core/kinds/registry'
import { entryOf } from '@/core/projection/catalogue'
import type { Check } from '../check'

export const equalArea: Check = {
  id: 'equal-area',
  passed: 'Equal-area projection',
  failed: 'Areas are not true',
  run({ layers }) {
    const shaded = layers.filter(({ layer }) => kindOf(layer.symbology.kind).comparesAreas)
    if (!shaded.length) return null
    const worst = shaded.find(({ map }) => entryOf(map.projection).property !== 'equal-area')
    const { map, layer } = worst ?? shaded[0]
    return {
      ok: !worst,
      detail: entryOf(map.projection).label,
      target: worst ? { desk: 'map', mapId: map.id, layerId: layer.id } : null,
    }
  },
}
