import { rectangle, type Outline } from '@/core/scene/outline'
import { solid, stroke, withOpacity } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/units'
import { isNear } from '@/core/geo/paper'
import type { DrawContext } from '../kind'
import { paperPlaces, roundReach, type Reach } from '../marks/places'
import { chartSize, isRound, type ChartPlan } from './plan'
import { slice } from './shapes'
import type { ChartSettings } from './spec'

/**
 * The outlines of one chart, one for each part that it has; bars stand on their place, pies have it in the
 * middle.
 */
export function chartParts(
  plan: ChartPlan,
  settings: ChartSettings,
  feature: number,
  { x, y }: { x: number; y: number },
): { part: number; outline: Outline }[] {
  const size = plan.sizes[feature]
  const parts: { part: number; outline: Outline }[] = []
  const { barWidthMm: w } = settings
  let before = 0
  plan.values.forEach((values, part) => {
    const value = values[feature]
    if (!(value > 0)) return
    if (isRound(settings)) {
      const total = plan.totals[feature]
      parts.push({
        part,
        outline: slice(x, y, {
          radius: size / 2,
          from: before / total,
          to: Math.min(1, before / total + value / total),
          hole: settings.form === 'ring' ? settings.hole : 0,
        }),
      })
    } else {
      const height = chartSize(settings, value)
      const left = settings.form === 'bars' ? x + (part - plan.values.length / 2) * w : x - w / 2
      const foot = settings.form === 'bars' ? y : y - chartSize(settings, before)
      parts.push({ part, outline: rectangle({ x: left, y: foot - height, width: w, height }) })
    }
    before = Math.min(Number.MAX_VALUE, before + value)
  })
  return parts
}

/** How far a chart reaches from its place, mm. */
export function chartReach(plan: ChartPlan, settings: ChartSettings, feature: number): Reach {
  const size = plan.sizes[feature]
  if (isRound(settings)) return roundReach(size / 2)
  const half =
    (settings.form === 'bars' ? settings.barWidthMm * settings.parts.length : settings.barWidthMm) / 2
  return { left: half, up: size, right: half, down: 0 }
}

export function drawCharts(plan: ChartPlan, settings: ChartSettings, context: DrawContext): Node[] {
  const { window, featureName } = context
  const strokes =
    settings.outline.widthPt > 0
      ? [stroke(settings.outline.colour, pointsToMm(settings.outline.widthPt), { join: 'miter' })]
      : []
  const wide = settings.form === 'bars' ? settings.barWidthMm * settings.parts.length : settings.barWidthMm
  const charts = paperPlaces(plan.order, context).flatMap(({ feature, x, y }) => {
    const reach = plan.sizes[feature] + wide
    if (!isNear(window, x, y, reach)) return []
    const parts = chartParts(plan, settings, feature, { x, y }).map(({ part, outline }) =>
      path(outline, { fill: solid(withOpacity(settings.parts[part].colour, settings.opacity)), strokes }),
    )
    return [group(featureName(feature), parts)]
  })
  return charts.length ? [group('charts', charts)] : []
}
