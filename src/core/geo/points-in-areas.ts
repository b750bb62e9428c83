import { featureAt, featureTouching } from './feature-at'
import type { Areas, Points } from './geometry'

/**
 * For each feature of points, the area that its first point lies in; −1 where it lies in none. A point on the outer
 * border lies in the area that it bounds; one between two areas in one of them.
 */
export function areaOfPoints(areas: Areas, { coords, featureStarts }: Points): Int32Array {
  const out = new Int32Array(featureStarts.length - 1).fill(-1)
  for (let f = 0; f < out.length; f++) {
    const p = featureStarts[f]
    if (p === featureStarts[f + 1]) continue
    const [lon, lat] = [coords[2 * p], coords[2 * p + 1]]
    out[f] = featureAt(areas, lon, lat)
    if (out[f] < 0) out[f] = featureTouching(areas, lon, lat)
  }
  return out
}
