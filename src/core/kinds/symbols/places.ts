import { createMemory } from '@/core/memory/memory'
import { pushApart } from '../marks/displace'
import { paperPlaces } from '../marks/places'
import { symbolReach } from '../marks/shapes'
import type { PlaceContext } from '../kind'
import type { SymbolPlan } from './plan'
import type { SymbolSettings } from './spec'

/** Where a symbol stands on paper, and where its place is; the same unless symbols are pushed apart. */
export type SymbolPlace = { feature: number; x: number; y: number; homeX: number; homeY: number }

const remember = createMemory<Float64Array, { x: number; y: number }[]>('symbols pushed apart', {
  maxBytes: 32 * 2 ** 20,
})

/**
 * The places of all symbols, the largest first. Pushing apart is reckoned once for each scale: panning moves
 * all alike.
 */
export function symbolPlaces(
  plan: SymbolPlan,
  settings: SymbolSettings,
  context: PlaceContext,
): SymbolPlace[] {
  const places = paperPlaces(plan.order, context)
  const { displace } = settings
  if (!displace || places.length < 2)
    return places.map(({ feature, x, y }) => ({ feature, x, y, homeX: x, homeY: y }))
  const { to, projection } = context
  const key = JSON.stringify([
    displace.gapMm,
    settings.shape,
    settings.picture,
    settings.barWidthMm,
    to.mmPerMetre,
    projection.spec,
  ])
  // By the sizes, which another colour leaves as they are.
  const shifts = remember(plan.sizes, key, () => {
    const discs = places.map(({ feature, x, y }) => {
      const { left, up, right, down } = symbolReach(
        settings.shape,
        plan.sizes[feature],
        settings.barWidthMm,
        settings.picture,
      )
      return { x: x - to.dx, y: y - to.dy, r: Math.max(left + right, up + down) / 2 }
    })
    return pushApart(discs, displace.gapMm).map(({ x, y }, i) => ({ x: x - discs[i].x, y: y - discs[i].y }))
  })
  return places.map(({ feature, x, y }, i) => ({
    feature,
    x: x + shifts[i].x,
    y: y + shifts[i].y,
    homeX: x,
    homeY: y,
  }))
}
