import { frameOf } from '@/core/sheet/compose-sheet'
import { calloutEnd } from '@/core/sheet/parts/callout'
import { placeOnPage } from '@/core/sheet/place-on-page'
import { partTypeOf } from '@/core/sheet/registry'
import type { Check } from '../check'

/** Parts that belong to a place of a map say something else where that place is not seen. */
export const partsAtPlaces: Check = {
  id: 'parts-at-places',
  passed: 'Callouts and amounts are at their places',
  failed: 'A part is not at its place on the map',
  run({ sheet, context }) {
    const shown = sheet.parts.filter((part) => !part.hidden)
    const callouts = shown.filter((part) => part.type === 'callout')
    const anchored = shown.flatMap((part) => {
      const anchor = partTypeOf(part.type).anchor?.(part.settings)
      return anchor ? [{ part, anchor }] : []
    })
    const all = callouts.length + anchored.length
    if (!all) return null
    const pointless = callouts.filter((part) => !calloutEnd(part.settings, frameOf(part, context), context))
    const astray = anchored
      .filter(({ anchor }) => !placeOnPage(anchor.panelId, anchor.place, context))
      .map(({ part }) => part)
    const lost = [...pointless, ...astray]
    if (!lost.length) return { ok: true, detail: `${all} at their places`, target: null }
    const [first] = lost
    const alone = pointless.length ? 'it has no line.' : 'it stands where the place lay before.'
    return {
      ok: false,
      detail:
        lost.length === 1
          ? `The place of “${first.name}” lies outside its panel: ${alone}`
          : `The places of ${lost.length} of ${all} lie outside their panels: they have no lines, or stand where these lay before.`,
      target: { desk: 'sheet', partId: first.id },
    }
  },
}
