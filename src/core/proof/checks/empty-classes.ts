import { allClassesOf } from '@/core/map/layer-plan'
import type { Check } from '../check'

export const emptyClasses: Check = {
  id: 'empty-classes',
  passed: 'No class is empty',
  failed: 'An empty class',
  run({ layers }) {
    let classes = 0
    for (const { layer, prepared, map } of layers)
      for (const { result, labels } of allClassesOf(layer, prepared)) {
        const at = result.counts.indexOf(0)
        if (at >= 0)
          return {
            ok: false,
            detail: `Nothing falls in “${labels[at]}” of “${layer.name}”.`,
            target: { desk: 'map', mapId: map.id, layerId: layer.id },
          }
        classes += result.counts.length
      }
    return classes ? { ok: true, detail: `${classes} classes`, target: null } : null
  },
}
