import type { Geometry, Points } from '@/core/geo/geometry'
import { insidePoints } from '@/core/geo/reshape'
import { projectGeometry, type Projected } from '@/core/geo/projected'
import type { Mark } from '@/core/labels/beside'
import type { PlaceContext } from '../kind'

const inside = new WeakMap<Geometry, Points>()

/** Where symbols stand: on points, and inside areas as far from their borders as can be. */
export function placesOf(geometry: Geometry): Points | null {
  if (geometry.kind === 'points') return geometry
  if (geometry.kind !== 'areas') return null
  const known = inside.get(geometry) ?? insidePoints(geometry)
  inside.set(geometry, known)
  return known
}

/** Places on paper of some features, in their order; a feature with several points has several. */
export function paperPlaces(
  features: ArrayLike<number>,
  { dataset, projection, to }: PlaceContext,
): { feature: number; x: number; y: number }[] {
  const places = placesOf(dataset.geometry)
  const projected: Projected | null = places && projectGeometry(places, projection)
  if (projected?.kind !== 'points') return []
  const out: { feature: number; x: number; y: number }[] = []
  for (let i = 0; i < features.length; i++)
    for (let p = projected.featureStarts[features[i]]; p < projected.featureStarts[features[i] + 1]; p++)
      out.push({
        feature: features[i],
        x: projected.coords[2 * p] * to.mmPerMetre + to.dx,
        y: projected.coords[2 * p + 1] * to.mmPerMetre + to.dy,
      })
  return out.filter(({ x }) => Number.isFinite(x))
}

/** How far a symbol reaches from its place, mm. */
export type Reach = { left: number; up: number; right: number; down: number }

/** A mark for each place of some features, with the reach that its kind gives it. */
export const marksAt = (
  features: ArrayLike<number>,
  context: PlaceContext,
  reach: (feature: number) => Reach,
): Mark[] => paperPlaces(features, context).map((place) => ({ ...place, ...reach(place.feature) }))

export const roundReach = (radiusMm: number): Reach => ({
  left: radiusMm,
  up: radiusMm,
  right: radiusMm,
  down: radiusMm,
})
