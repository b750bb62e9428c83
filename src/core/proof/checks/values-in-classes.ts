import { shownOf } from '@/core/map/shown'
import { allClassesOf } from '@/core/map/compose-map'
import type { Check } from '../check'

export const valuesInClasses: Check = {
  id: 'values-in-classes',
  passed: 'Every value is in a class',
  failed: 'Values outside all classes',
  run({ maps, datasets }) {
    let values = 0
    let missing = 0
    let any = false
    for (const map of maps)
      for (const layer of map.layers) {
        const prepared = shownOf(layer, datasets)
        for (const classes of prepared && layer.visible ? allClassesOf(layer, prepared) : []) {
          any = true
          if (classes.result.outside > 0)
            return {
              ok: false,
              detail: `${classes.result.outside} values of “${layer.name}” fall in no class.`,
              target: { desk: 'map', mapId: map.id, layerId: layer.id },
            }
          values += classes.result.counts.reduce((a, b) => a + b, 0)
          missing += classes.result.missing
        }
      }
    return any ? { ok: true, detail: `${values} values, ${missing} missing`, target: null } : null
  },
}
