import { z } from 'zod'
import { LonLat } from '@/core/scene/bounded'
import { Hex } from '@/core/scene/hex'
import { circle, polygon, polyline } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/units'
import { middleOf, toLocal, type Point } from '../../frame'
import { noGround } from '../../lettering/spec'
import { noRefs, renamed, type PartBox, type PartType, type SheetContext } from '../../part'
import { placeLeaning, placeOnPage } from '../../place-on-page'
import { inStyle } from '../../type-styles'
import { plainText, text, TextSettings } from '../text'

export const CalloutSettings = TextSettings.extend({
  /** The panel on which the place lies; null is the sheet's first. */
  panelId: z.string().nullable(),
  /** Where the line ends, longitude and latitude; it stays there when the panel moves, turns or changes scale. */
  place: LonLat,
  leader: z.object({
    colour: Hex,
    widthPt: z.number().min(0.1).max(20),
    end: z.enum(['none', 'dot', 'ring', 'arrow']),
    endMm: z.number().min(0.2).max(20),
    /** From the nearest corner or side straight to the place, or with a level piece first. */
    bent: z.boolean(),
  }),
})
export type CalloutSettings = z.infer<typeof CalloutSettings>

/**
 * Where the end of a callout's line lies, mm on the page before the callout itself is turned; null where its place is
 * not on the map, or lies outside the panel.
 */
export function calloutEnd(
  { panelId, place }: Pick<CalloutSettings, 'panelId' | 'place'>,
  frame: { box: PartBox; rotationDeg: number },
  { panel }: Pick<SheetContext, 'panel'>,
): Point | null {
  const at = placeOnPage(panelId, place, { panel })
  return at && toLocal(frame, at)
}

/** The place on the edge of a box from which a line to a place outside leaves: the nearest of its sides' middles. */
function startOf({ x, y, width, height }: PartBox, [px, py]: Point): Point {
  const starts: Point[] = [
    [x, y + height / 2],
    [x + width, y + height / 2],
    [x + width / 2, y],
    [x + width / 2, y + height],
  ]
  const far = ([a, b]: Point) => Math.hypot(a - px, b - py)
  return starts.reduce((best, one) => (far(one) < far(best) ? one : best))
}

function leaderLine(settings: CalloutSettings, box: PartBox, end: Point): Node[] {
  const { colour, widthPt, end: head, endMm, bent } = settings.leader
  const widthMm = pointsToMm(widthPt)
  const line = stroke(colour, widthMm, { cap: 'butt', join: 'round' })
  const start = startOf(box, end)
  const middle: Point | null = bent
    ? [start[0] + Math.sign(end[0] - start[0]) * Math.min(4, Math.abs(end[0] - start[0]) / 2), start[1]]
    : null
  const from = middle ?? start
  const [dx, dy] = [end[0] - from[0], end[1] - from[1]]
  const length = Math.hypot(dx, dy) || 1
  const cut = { none: 0, dot: 0, ring: endMm / 2, arrow: endMm * 0.8 }[head]
  const tip: Point = [end[0] - (dx / length) * cut, end[1] - (dy / length) * cut]
  const route = [start, ...(middle ? [middle] : []), tip].flat()
  const nodes: Node[] = [path(polyline(route), { strokes: [line] })]
  if (head === 'dot') nodes.push(path(circle(...end, endMm / 2), { fill: solid(colour) }))
  if (head === 'ring') nodes.push(path(circle(...end, endMm / 2), { strokes: [line] }))
  if (head === 'arrow') {
    const [ux, uy] = [dx / length, dy / length]
    const wing = (side: number): Point => [
      end[0] - ux * endMm - side * uy * endMm * 0.35,
      end[1] - uy * endMm + side * ux * endMm * 0.35,
    ]
    nodes.push(path(polygon([...end, ...wing(1), ...wing(-1)]), { fill: solid(colour) }))
  }
  return nodes
}

/** A text with a line to a place on the map. */
export const callout: PartType<CalloutSettings> = {
  ...text,
  label: 'Callout',
  ready: undefined,
  settings: CalloutSettings,
  compose(settings, box, context, part) {
    const size = text.measure(settings, box, context)
    const end = calloutEnd(settings, { box: { ...box, ...size }, rotationDeg: part.rotationDeg }, context)
    return [
      ...(end ? [group(`${part.name} line`, leaderLine(settings, { ...box, ...size }, end))] : []),
      ...text.compose(settings, box, context, part),
    ]
  },
  leansOn(settings, box, context, part) {
    return [...text.leansOn(settings, box, context, part), ...placeLeaning(settings.panelId, context)]
  },
  initial({ sheet, map, centres }) {
    const panel = sheet.parts.find(({ type, hidden }) => type === 'panel' && !hidden)
    const place = panel && centres.get(panel.id)
    if (!map || !place) return null
    // Beside the middle of the panel, which is its place: a line across half of the map helps nobody.
    const [middle, level] = middleOf(panel.box)
    const beside = { x: middle + 12, y: Math.max(panel.box.y, level - 22), width: 40, height: 8 }
    return {
      staysPut: true,
      box: { ...beside, x: Math.min(beside.x, panel.box.x + panel.box.width - beside.width) },
      settings: {
        ...plainText({
          text: 'What is to be seen here',
          style: inStyle('legend-label'),
          ground: { ...noGround, paddingMm: 1.5, background: '#ffffff', opacity: 0.9 },
        }),
        panelId: null,
        place,
        leader: { colour: '#1b1b1b', widthPt: 0.5, end: 'dot', endMm: 1.2, bent: false },
      },
    }
  },
  refs: ({ panelId }) => ({ ...noRefs, parts: panelId === null ? [] : [panelId] }),
  remap: (settings, ids) => ({
    ...settings,
    panelId: settings.panelId === null ? null : renamed(ids.parts, settings.panelId),
  }),
}
