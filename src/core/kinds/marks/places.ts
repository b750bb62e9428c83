import type { Geometry, Points } from '@/core/geo/geometry'
import { insidePoints } from '@/core/geo/reshape'
import { projectGeometry, type Projected } from '@/core/geo/projected'
import type { DrawContext } from '../kind'

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
export function paperPlaces(features: ArrayLike<number>, { dataset, projection, to }: Pick<DrawContext, 'dataset' | 'projection' | 'to'>): { feature: number; x: number; y: number }[] {
  const places = placesOf(dataset.geometry)
  const projected: Projected | null = places && projectGeometry(places, projection)
  if (projected?.kind !== 'points') return []
  const out: { feature: number; x: number; y: number }[] = []
  for (let i = 0; i < features.length; i++)
    for (let p = projected.featureStarts[features[i]]; p < projected.featureStarts[features[i] + 1]; p++) out.push({ feature: features[i], x: projected.coords[2 * p] * to.mmPerMetre + to.dx, y: projected.coords[2 * p + 1] * to.mmPerMetre + to.dy })
  return out.filter(({ x }) => Number.isFinite(x))
}
