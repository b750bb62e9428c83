import { featureAt } from './feature-at'
import type { Areas, Points } from './geometry'

/** For each feature of points, the area that its first point lies in; −1 where it lies in none. */
export function areaOfPoints(areas: Areas, { coords, featureStarts }: Points): Int32Array {
  const out = new Int32Array(featureStarts.length - 1).fill(-1)
  for (let f = 0; f < out.length; f++) {
    const p = featureStarts[f]
    if (p < featureStarts[f + 1]) out[f] = featureAt(areas, coords[2 * p], coords[2 * p + 1])
  }
  return out
}
