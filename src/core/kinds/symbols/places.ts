import { pushApart } from '../marks/displace'
import { paperPlaces } from '../marks/places'
import { symbolReach } from '../marks/shapes'
import type { PlaceContext } from '../kind'
import type { SymbolPlan } from './plan'
import type { SymbolSettings } from './spec'

/** Where a symbol stands on paper, and where its place is; the same unless symbols are pushed apart. */
export type SymbolPlace = { feature: number; x: number; y: number; homeX: number; homeY: number }

const memory = new WeakMap<SymbolPlan, Map<string, { x: number; y: number }[]>>()

/** The places of all symbols, the largest first. Pushing apart is reckoned once for each scale: panning moves all alike. */
export function symbolPlaces(plan: SymbolPlan, settings: SymbolSettings, context: PlaceContext): SymbolPlace[] {
  const places = paperPlaces(plan.order, context)
  const { displace } = settings
  if (!displace || places.length < 2) return places.map(({ feature, x, y }) => ({ feature, x, y, homeX: x, homeY: y }))
  const { to, projection } = context
  const known = memory.get(plan) ?? new Map<string, { x: number; y: number }[]>()
  memory.set(plan, known)
  const key = JSON.stringify([displace.gapMm, settings.shape, settings.picture, settings.barWidthMm, to.mmPerMetre, projection.spec])
  let shifts = known.get(key)
  if (!shifts) {
    const radii = places.map(({ feature }) => {
      const { left, up, right, down } = symbolReach(settings.shape, plan.sizes[feature], settings.barWidthMm, settings.picture)
      return Math.max(left + right, up + down) / 2
    })
    const pushed = pushApart(places.map(({ x, y }, i) => ({ x: x - to.dx, y: y - to.dy, r: radii[i] })), displace.gapMm)
    shifts = pushed.map(({ x, y }, i) => ({ x: x - (places[i].x - to.dx), y: y - (places[i].y - to.dy) }))
    if (known.size > 6) known.clear()
    known.set(key, shifts)
  }
  return places.map(({ feature, x, y }, i) => ({ feature, x: x + (shifts?.[i].x ?? 0), y: y + (shifts?.[i].y ?? 0), homeX: x, homeY: y }))
}
