import { borderOutline, featureOutline } from '@/core/geo/outlines'
import { solid, stroke, type Paint } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/text'
import type { DrawContext } from '../kind'
import type { ChoroplethPlan } from './plan'
import type { ChoroplethSettings } from './spec'

export const missingPaint = ({ missing }: ChoroplethSettings): Paint => asidePaint(missing)

/** A flat colour, or lines of it on white. */
export const asidePaint = ({ colour, hatched }: { colour: string; hatched: boolean }): Paint => (hatched ? { type: 'hatch', colour, background: '#ffffff', angleDeg: 45, spacingMm: 0.9, widthMm: 0.2 } : solid(colour))

/** Values outside breaks set by hand are shown in a colour that cannot be overlooked. */
const outsidePaint: Paint = { type: 'hatch', colour: '#c2185b', background: '#ffffff', angleDeg: -45, spacingMm: 0.8, widthMm: 0.3 }

/** One path for each class, then every border once over them. */
export function drawChoropleth(plan: ChoroplethPlan, settings: ChoroplethSettings, { projected, to, window, featureName }: DrawContext): Node[] {
  if (projected.kind !== 'areas') return []
  const classCount = plan.colours.length
  const members: number[][] = Array.from({ length: classCount + 2 + settings.setAside.length }, () => [])
  // Behind the classes: missing, outside, then what was set aside.
  plan.classOf.forEach((c, feature) => members[c < 0 ? classCount - 1 - c : c].push(feature))
  const paints = [...plan.colours.map(solid), missingPaint(settings), outsidePaint, ...settings.setAside.map(asidePaint)]
  const names = [...plan.labels, settings.missing.label, 'outside all classes', ...settings.setAside.map(({ label }) => label)]
  const classes = paints.flatMap((fill, i) => {
    if (!members[i].length) return []
    const { outline, offsets, kept } = featureOutline(projected, members[i], to, window)
    return kept.length ? [group(`class ${names[i]}`, [path(outline, { fill, features: { offsets, names: kept.map(featureName) } })])] : []
  })
  return [...classes, ...veil(plan, settings, { projected, to, window, featureName }), ...borders(settings, { projected, to, window })]
}

/** What lies over values that are not reliable: lines, or a veil of the paper's white. */
export const unreliablePaint = (show: 'hatch' | 'fade'): Paint => (show === 'hatch' ? { type: 'hatch', colour: '#3a3a3a', background: null, angleDeg: -45, spacingMm: 1.1, widthMm: 0.16 } : solid('#ffffffa6'))

function veil({ unreliable }: ChoroplethPlan, { uncertainty }: ChoroplethSettings, { projected, to, window, featureName }: Pick<DrawContext, 'projected' | 'to' | 'window' | 'featureName'>): Node[] {
  if (!unreliable || !uncertainty || projected.kind !== 'areas') return []
  const members = [...unreliable.keys()].filter((f) => unreliable[f])
  const { outline, offsets, kept } = featureOutline(projected, members, to, window)
  return kept.length ? [group('not reliable', [path(outline, { fill: unreliablePaint(uncertainty.show), features: { offsets, names: kept.map(featureName) } })])] : []
}

function borders({ outline }: ChoroplethSettings, { projected, to, window }: Pick<DrawContext, 'projected' | 'to' | 'window'>): Node[] {
  const line = (which: 'between' | 'outer', colour: string, widthPt: number): Node[] =>
    widthPt > 0 ? [path(borderOutline(projected, which, to, window), { strokes: [stroke(colour, pointsToMm(widthPt))] })] : []
  const lines = [...line('between', outline.colour, outline.widthPt), ...line('outer', outline.coastColour, outline.coastWidthPt)]
  return lines.length ? [group('borders', lines)] : []
}
