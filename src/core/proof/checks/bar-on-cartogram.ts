import { kindOf } from '@/core/kinds/registry'
import type { Check } from '../check'

/** Where areas lie in new places, a scale bar tells distances that are not there. */
export const barOnCartogram: Check = {
  id: 'bar-on-cartogram',
  passed: 'No scale bar measures a cartogram',
  failed: 'A scale bar measures a cartogram',
  run({ sheet, context }) {
    const moved = ({ layers }: (typeof context.panels)[number]) =>
      layers.some(({ layer }) => kindOf(layer.symbology.kind).shapes?.rows)
    if (!context.panels.some(moved)) return null
    for (const part of sheet.parts) {
      if (part.type !== 'scale-bar' || part.hidden) continue
      const panel = context.panel(part.settings.panelId)
      if (panel && moved(panel))
        return {
          ok: false,
          detail: `“${part.name}” stands for “${panel.map.name}”, on which areas lie in new places. Take it away.`,
          target: { desk: 'sheet', partId: part.id },
        }
    }
    return { ok: true, detail: '', target: null }
  },
}
