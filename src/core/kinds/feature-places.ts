import type { Dataset } from '@/core/data/dataset'
import { placesOf } from './marks/places'

/** One place for each feature, longitude and latitude by turns: its first point, or a place well inside; or NaN. */
export function featurePlaces({ geometry, rowCount }: Pick<Dataset, 'geometry' | 'rowCount'>): Float64Array {
  const out = new Float64Array(2 * rowCount).fill(NaN)
  const places = placesOf(geometry)
  if (!places) return out
  for (let f = 0; f < rowCount; f++) {
    const from = places.featureStarts[f]
    if (from === places.featureStarts[f + 1]) continue
    out[2 * f] = places.coords[2 * from]
    out[2 * f + 1] = places.coords[2 * from + 1]
  }
  return out
}
