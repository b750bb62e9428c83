import { mostScaleChange, scaleChange } from '@/core/map/scale-holds'
import type { Check } from '../check'

const percent = (share: number): string => (share > 5 ? 'several times' : `by ${Math.round(100 * share)} %`)

export const scaleHolds: Check = {
  id: 'scale-holds',
  passed: 'Scale bars hold over their panels',
  failed: 'A scale bar where the scale does not hold',
  run({ sheet, context }) {
    const measured = sheet.parts.flatMap((part) => {
      if (part.type !== 'scale-bar' || part.hidden) return []
      const panel = context.panel(part.settings.panelId)
      return panel ? [{ part, change: scaleChange(panel.map, panel.view, panel.window) }] : []
    })
    if (!measured.length) return null
    const wrong = measured.find(({ change }) => change > mostScaleChange)
    if (!wrong) return { ok: true, detail: 'The scale changes by less than 5 % over them.', target: null }
    return {
      ok: false,
      detail: `Over its panel the scale changes ${percent(wrong.change)}: the bar is true in the middle only. Take it out, or say where it holds.`,
      target: { desk: 'sheet', partId: wrong.part.id },
    }
  },
}
