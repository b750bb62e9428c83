import { allClassesOf } from '@/core/map/layer-plan'
import type { Check } from '../check'

export const valuesInClasses: Check = {
  id: 'values-in-classes',
  passed: 'Every value is in a class',
  failed: 'Values outside all classes',
  run({ layers }) {
    let values = 0
    let missing = 0
    let any = false
    for (const { layer, prepared, map } of layers)
      for (const { result } of allClassesOf(layer, prepared)) {
        any = true
        if (result.outside > 0)
          return {
            ok: false,
            detail: `${result.outside} values of “${layer.name}” fall in no class.`,
            target: { desk: 'map', mapId: map.id, layerId: layer.id },
          }
        values += result.counts.reduce((a, b) => a + b, 0)
        missing += result.missing
      }
    return any ? { ok: true, detail: `${values} values, ${missing} missing`, target: null } : null
  },
}
