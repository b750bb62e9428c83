import { frameOf } from '@/core/sheet/compose-sheet'
import { calloutEnd } from '@/core/sheet/parts/callout'
import type { Check } from '../check'

export const calloutsOnMap: Check = {
  id: 'callouts-on-map',
  passed: 'Callouts point at their places',
  failed: 'A callout points at nothing',
  run({ sheet, context }) {
    const callouts = sheet.parts.filter((part) => part.type === 'callout').filter((part) => !part.hidden)
    if (!callouts.length) return null
    const lost = callouts.filter((part) => !calloutEnd(part.settings, frameOf(part, context), context))
    if (!lost.length) return { ok: true, detail: `${callouts.length} with their lines`, target: null }
    const [first] = lost
    return {
      ok: false,
      detail:
        lost.length === 1
          ? `The place of “${first.name}” lies outside its panel: it has no line.`
          : `The places of ${lost.length} of ${callouts.length} lie outside their panels: they have no lines.`,
      target: { desk: 'sheet', partId: first.id },
    }
  },
}
