import { kindOf } from '@/core/kinds/registry'
import { entryOf } from '@/core/projection/catalogue'
import type { Check } from '../check'

export const equalArea: Check = {
  id: 'equal-area',
  passed: 'Equal-area projection',
  failed: 'Areas are not true',
  run({ maps }) {
    const shaded = maps.find((map) =>
      map.layers.some((layer) => layer.visible && kindOf(layer.symbology.kind).comparesAreas),
    )
    if (!shaded) return null
    const { label, property } = entryOf(shaded.projection)
    return { ok: property === 'equal-area', detail: label, target: null }
  },
}
