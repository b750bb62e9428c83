import { kindOf } from '@/core/kinds/registry'
import { mostScaleChange, scaleChange } from '@/core/map/scale-holds'
import { barOf } from '@/core/sheet/parts/scale-bar'
import type { Check } from '../check'

export const scaleBarPresent: Check = {
  id: 'scale-bar',
  passed: 'The scale bar has units',
  failed: 'There is no scale bar',
  run({ sheet, context, layers }) {
    // Where areas lie in new places, distances mean nothing.
    const moved = layers.some(({ layer }) => kindOf(layer.symbology.kind).shapes?.rows)
    const bars = sheet.parts.filter((part) => part.type === 'scale-bar' && !part.hidden)
    if (!context.panels.length || (moved && !bars.length)) return null
    // No bar could be true over maps whose scale changes so much.
    const changing = context.panels.every(
      ({ map, view, window }) => scaleChange(map, view, window) > mostScaleChange,
    )
    if (!bars.length && changing) return null
    for (const part of sheet.parts) {
      if (part.type !== 'scale-bar' || part.hidden) continue
      const bar = barOf(part.settings, part.box, context)
      if (bar)
        return { ok: true, detail: `${bar.total} ${bar.label}, true at the panel’s centre`, target: null }
    }
    return {
      ok: false,
      detail: 'Take one from the tray, or say the scale in words.',
      target: { desk: 'sheet', partId: null },
    }
  },
}
