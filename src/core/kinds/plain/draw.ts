import { borderOutline, featureOutline } from '@/core/geo/outlines'
import { placePointLabels } from '@/core/labels/point-labels'
import { circle } from '@/core/scene/outline'
import { solid, stroke, type Stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/text'
import type { DrawContext } from '../kind'
import type { PlainPlan } from './plan'
import type { PlainSettings } from './spec'

export const plainStroke = ({ stroke: s }: PlainSettings): Stroke | null =>
  s.widthPt > 0 ? stroke(s.colour, pointsToMm(s.widthPt), { dashMm: s.dashed ? [1.2, 0.9] : [], cap: s.dashed ? 'butt' : 'round' }) : null

export function drawPlain(plan: PlainPlan, settings: PlainSettings, context: DrawContext): Node[] {
  const { projected, to, window, featureName } = context
  if (projected.kind === 'points') return drawDots(plan, settings, context)
  if (projected.kind === 'none') return []
  const line = plainStroke(settings)
  const { outline, offsets, kept } = featureOutline(projected, plan.order, to, window)
  if (!kept.length) return []
  const features = { offsets, names: kept.map(featureName) }
  if (projected.kind === 'lines') return line ? [path(outline, { strokes: [line], features })] : []
  const fill = settings.fill ? [path(outline, { fill: solid(settings.fill), features })] : []
  return line ? [...fill, path(borderOutline(projected, 'all', to, window), { strokes: [line] })] : fill
}

function drawDots(plan: PlainPlan, settings: PlainSettings, { projected, to, window, fonts }: DrawContext): Node[] {
  if (projected.kind !== 'points') return []
  const radius = pointsToMm(settings.dotPt) / 2
  const line = plainStroke(settings)
  const places = plan.order.flatMap((feature, i) => {
    const dots: { x: number; y: number; name: string | null }[] = []
    for (let p = projected.featureStarts[feature]; p < projected.featureStarts[feature + 1]; p++) {
      const [x, y] = [projected.coords[2 * p] * to.mmPerMetre + to.dx, projected.coords[2 * p + 1] * to.mmPerMetre + to.dy]
      if (x > window.x && y > window.y && x < window.x + window.width && y < window.y + window.height) dots.push({ x, y, name: plan.names[i] })
    }
    return dots
  })
  const dots = radius > 0 ? places.map(({ x, y }) => path(circle(x, y, radius), { fill: settings.fill ? solid(settings.fill) : null, strokes: line ? [line] : [] })) : []
  if (!settings.label) return dots
  const { family, sizePt } = settings.label
  const style = { font: { family, weight: 400 as const, italic: false }, sizeMm: pointsToMm(sizePt), letterSpacingMm: 0 }
  return [group('dots', dots), group('names', placePointLabels(places, { fonts, style, radiusMm: radius, window }))]
}
