import { shownOf } from '@/core/map/shown'
import { allClassesOf } from '@/core/map/compose-map'
import type { Check } from '../check'

export const emptyClasses: Check = {
  id: 'empty-classes',
  passed: 'No class is empty',
  failed: 'An empty class',
  run({ maps, datasets }) {
    let classes = 0
    for (const map of maps)
      for (const layer of map.layers) {
        const prepared = shownOf(layer, datasets)
        for (const empty of prepared && layer.visible ? allClassesOf(layer, prepared) : []) {
          const at = empty.result.counts.indexOf(0)
          if (at >= 0)
            return {
              ok: false,
              detail: `Nothing falls in “${empty.labels[at]}” of “${layer.name}”.`,
              target: { desk: 'map', mapId: map.id, layerId: layer.id },
            }
          classes += empty.result.counts.length
        }
      }
    return classes ? { ok: true, detail: `${classes} classes`, target: null } : null
  },
}
