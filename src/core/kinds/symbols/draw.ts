import { solid, stroke, withOpacity, type Colour } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/text'
import type { DrawContext } from '../kind'
import { paperPlaces } from '../marks/places'
import type { SymbolPlan } from './plan'
import { extents, symbolOutline } from '../marks/shapes'
import type { SymbolSettings } from './spec'

/** The colour of a feature's symbol, before its opacity. */
export const colourAt = (plan: SymbolPlan, settings: SymbolSettings, feature: number): Colour => {
  if (plan.hues) return plan.hues.list[plan.hues.of[feature]]?.colour ?? settings.missing.colour
  return plan.values[feature] < 0 ? settings.negative.fill : settings.fill
}

/** One symbol for each place, the largest first, so that small ones lie on top. */
export function drawSymbols(plan: SymbolPlan, settings: SymbolSettings, context: DrawContext): Node[] {
  const { window, featureName } = context
  const { shape, barWidthMm, opacity, outline, negative } = settings
  const strokes = outline.widthPt > 0 ? [stroke(outline.colour, pointsToMm(outline.widthPt), { join: 'miter' })] : []
  const [left, up, right, down] = extents[shape].box
  const half = shape === 'bar' ? barWidthMm / 2 : 0
  const symbols = paperPlaces(plan.order, context).flatMap(({ feature, x, y }) => {
    const size = plan.sizes[feature]
    if (x + right * size + half < window.x || y + down * size < window.y || x - left * size - half > window.x + window.width || y - up * size > window.y + window.height) return []
    const hollow = plan.values[feature] < 0 && negative.hollow
    const colour = colourAt(plan, settings, feature)
    const limits = Uint32Array.of(0, 1)
    return [path(symbolOutline(shape, x, y, size, barWidthMm), { fill: hollow ? null : solid(withOpacity(colour, opacity)), strokes: hollow ? [stroke(colour, Math.max(0.25, strokes[0]?.widthMm ?? 0))] : strokes, features: { offsets: limits, names: [featureName(feature)] } })]
  })
  return symbols.length ? [group('symbols', symbols)] : []
}
