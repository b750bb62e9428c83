import { nearestOf, type Interpolator, type Samples } from './samples'

/**
 * Inverse distance weighting (Shepard 1968): the mean of the nearest values, weighed by distance to the power −`power`;
 * at a sample it is its value.
 */
export function inverseDistance(
  samples: Samples,
  { power, nearest }: { power: number; nearest: number },
): Interpolator {
  const { places, values } = samples
  const all = values.length <= nearest ? Array.from(values.keys()) : null
  const index = nearestOf(samples)
  return {
    errorAt: null,
    at(x, y) {
      let [sum, weights] = [0, 0]
      for (const i of all ?? index.nearest(x, y, nearest)) {
        const d2 = (places[2 * i] - x) ** 2 + (places[2 * i + 1] - y) ** 2
        if (d2 === 0) return values[i]
        const w = power === 2 ? 1 / d2 : d2 ** (-power / 2)
        sum += w * values[i]
        weights += w
      }
      return weights > 0 ? sum / weights : NaN
    },
  }
}
