import { circle, polyline } from '@/core/scene/outline'
import { solid, stroke, withOpacity, type Colour } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/units'
import { reaches, isNear } from '@/core/geo/paper'
import type { DrawContext } from '../kind'
import { fillRuleOf, symbolOutline, symbolReach } from '../marks/shapes'
import { symbolPlaces, type SymbolPlace } from './places'
import type { SymbolPlan } from './plan'
import type { SymbolSettings } from './spec'

/** The colour of a feature's symbol, before its opacity. */
export const colourAt = (plan: SymbolPlan, settings: SymbolSettings, feature: number): Colour => {
  if (plan.hues) return plan.hues.list[plan.hues.of[feature]]?.colour ?? settings.missing.colour
  return plan.values[feature] < 0 ? settings.negative.fill : settings.fill
}

/** Symbols are told apart from their places when they lie farther away than this, mm. */
const leaderFrom = 0.3

/**
 * One symbol for each place, the largest first, so that small ones lie on top; lines to the places of those
 * pushed away.
 */
export function drawSymbols(plan: SymbolPlan, settings: SymbolSettings, context: DrawContext): Node[] {
  const { window, featureName } = context
  const { shape, barWidthMm, picture, opacity, outline, negative } = settings
  const strokes =
    outline.widthPt > 0
      ? [
          stroke(outline.colour, pointsToMm(outline.widthPt), {
            join: shape === 'picture' ? 'round' : 'miter',
          }),
        ]
      : []
  const limits = Uint32Array.of(0, 1)
  const fillRule = fillRuleOf(shape, picture)
  const places = symbolPlaces(plan, settings, context)
  // What all symbols of a colour have in common is made once.
  const fills = new Map<Colour, ReturnType<typeof solid>>()
  const fillOf = (colour: Colour) => {
    const known = fills.get(colour) ?? solid(withOpacity(colour, opacity))
    fills.set(colour, known)
    return known
  }
  const symbols: Node[] = []
  for (const { feature, x, y } of places) {
    const size = plan.sizes[feature]
    const { left, up, right, down } = symbolReach(shape, size, barWidthMm, picture)
    if (!reaches([x - left, y - up, x + right, y + down], window)) continue
    const hollow = plan.values[feature] < 0 && negative.hollow
    const colour = colourAt(plan, settings, feature)
    symbols.push(
      path(symbolOutline(shape, x, { y, sizeMm: size, barWidthMm, picture }), {
        fill: hollow ? null : fillOf(colour),
        fillRule,
        strokes: hollow ? [stroke(colour, Math.max(0.25, strokes[0]?.widthMm ?? 0))] : strokes,
        features: { offsets: limits, names: [featureName(feature)] },
      }),
    )
  }
  return [
    ...(settings.displace ? leaders(places, settings.displace, context) : []),
    ...(symbols.length ? [group('symbols', symbols)] : []),
  ]
}

/** A dot on the place of each symbol that was pushed away, and a line to the symbol. */
function leaders(
  places: SymbolPlace[],
  { leader }: NonNullable<SymbolSettings['displace']>,
  { window }: DrawContext,
): Node[] {
  const width = pointsToMm(leader.widthPt)
  if (!(width > 0)) return []
  const pushed = places.filter(
    ({ x, y, homeX, homeY }) =>
      Math.hypot(x - homeX, y - homeY) > leaderFrom && isNear(window, homeX, homeY, 20),
  )
  if (!pushed.length) return []
  const lines = polyline(...pushed.map(({ x, y, homeX, homeY }) => [homeX, homeY, x, y]))
  return [
    group('leaders', [
      path(lines, { strokes: [stroke(leader.colour, width)] }),
      ...pushed.map(({ homeX, homeY }) =>
        path(circle(homeX, homeY, 1.6 * width), { fill: solid(leader.colour) }),
      ),
    ]),
  ]
}
