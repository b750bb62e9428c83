import { labelsOf } from '@/core/map/compose-map'
import type { Check, Target } from '../check'

/** Labels of this importance are to be seen; that others give way to them is how placing works. */
const important = 4

export const labelsPlaced: Check = {
  id: 'labels-placed',
  passed: 'Labels have their places',
  failed: 'Labels are left out',
  run({ context }) {
    let [placed, left, missed] = [0, 0, 0]
    let problem = ''
    let target: Target | null = null
    const { datasets, fonts, toleranceMm } = context
    for (const { id, map, view, window, layers } of context.panels) {
      const keepOff = context.over(id)
      const labels = labelsOf({ map, view, window, datasets, fonts, toleranceMm, keepOff })
      const weighty = new Set(
        layers.flatMap(({ layer }) => ((layer.labels?.importance ?? 0) >= important ? [layer.id] : [])),
      )
      const gone = labels.left.filter(({ layerId }) => weighty.has(layerId))
      placed += labels.placed.length
      left += labels.left.length
      missed += gone.length
      problem ||= labels.problems[0]?.problem ?? ''
      const [first] = [...labels.problems, ...gone, ...labels.left]
      if (first && !target) target = { desk: 'map', mapId: map.id, layerId: first.layerId }
    }
    if (problem) return { ok: false, detail: problem, target }
    if (!placed && !left) return null
    if (missed)
      return { ok: false, detail: `${missed} of importance ${important} or more have no room.`, target }
    return left
      ? { ok: false, detail: `${left} of ${placed + left} have no room.`, target }
      : { ok: true, detail: `${placed} placed`, target: null }
  },
}
