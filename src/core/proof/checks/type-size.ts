import type { Part } from '@/core/sheet/registry'
import type { Check } from '../check'

/** Smaller type is hard to read in print. */
const smallestPt = 5.5

function sizesOf(part: Part): number[] {
  if (part.type === 'panel') return []
  if (part.type === 'legend') return [part.settings.heading.sizePt, part.settings.label.sizePt]
  return [part.settings.style.sizePt]
}

export const typeSize: Check = {
  id: 'type-size',
  passed: `No type under ${smallestPt} pt`,
  failed: `Type under ${smallestPt} pt`,
  run({ sheet, layers }) {
    for (const { layer, map } of layers) {
      const { sizePt = Infinity, sizeBy = null } = layer.labels ?? {}
      const least = Math.min(sizePt, ...(sizeBy?.steps.map((step) => step.sizePt) ?? []))
      if (least < smallestPt)
        return {
          ok: false,
          detail: `Labels of “${layer.name}” print at ${least} pt.`,
          target: { desk: 'map', mapId: map.id, layerId: layer.id },
        }
    }
    for (const part of sheet.parts) {
      if (part.hidden) continue
      const small = sizesOf(part).find((size) => size < smallestPt)
      if (small !== undefined)
        return {
          ok: false,
          detail: `“${part.name}” prints at ${small} pt.`,
          target: { desk: 'sheet', partId: part.id },
        }
    }
    return { ok: true, detail: '', target: null }
  },
}
