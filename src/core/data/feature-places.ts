import { insidePoints } from '@/core/geo/reshape'
import { createMemory } from '@/core/memory/memory'
import type { Dataset } from './dataset'

const remember = createMemory<Dataset['geometry'], Float64Array>('places of features', {
  maxBytes: 16 * 2 ** 20,
})

/** One place for each feature, longitude and latitude by turns: its first point, or a place well inside; or NaN. */
export const featurePlaces = ({ geometry, rowCount }: Pick<Dataset, 'geometry' | 'rowCount'>): Float64Array =>
  remember(geometry, String(rowCount), () => {
    const out = new Float64Array(2 * rowCount).fill(NaN)
    if (geometry.kind !== 'areas' && geometry.kind !== 'points') return out
    const { coords, featureStarts } = geometry.kind === 'areas' ? insidePoints(geometry) : geometry
    for (let f = 0; f < rowCount; f++) {
      const from = featureStarts[f]
      if (from === featureStarts[f + 1]) continue
      out[2 * f] = coords[2 * from]
      out[2 * f + 1] = coords[2 * from + 1]
    }
    return out
  })
