import { readyPart } from '@/core/sheet/ready-part'
import { partTypeOf, type Part } from '@/core/sheet/registry'
import type { NamedTypeStyle, TypeStyle } from '@/core/sheet/type-style'
import type { Check } from '../check'

/** Smaller type is hard to read in print. */
const smallestPt = 5.5

const sizesOf = (part: Part, typeStyles: readonly NamedTypeStyle[]): number[] => {
  const { type, settings } = readyPart(part, typeStyles)
  const values = settings as Record<string, unknown>
  return partTypeOf(type).styles.map((key) => (values[key] as TypeStyle).sizePt)
}

export const typeSize: Check = {
  id: 'type-size',
  passed: `No type under ${smallestPt} pt`,
  failed: `Type under ${smallestPt} pt`,
  run({ sheet, layers, context }) {
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
      const small = sizesOf(part, context.typeStyles).find((size) => size < smallestPt)
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
