import { placeOf } from './break-method'
import { roundedSteps } from './rounded-steps'
import { plainContext } from './break-method'
import type { Classing } from './spec'

export type Scaling = NonNullable<Classing['unclassed']>

/**
 * Where each value stands along a continuous scale, 0 to 1: by its size, its square root (with its sign), its
 * logarithm (values that have none stand at the lower end), or its rank (equal values stand together). With a
 * middle, that is at ½ and both sides have the same scale. After Tobler (1973) on maps without classes.
 */
export function shareAlong(
  sorted: Float64Array,
  scaling: Scaling,
  middle: number | null = null,
): (value: number) => number {
  const [low, high] = [sorted[0], sorted[sorted.length - 1]]
  const smallest = sorted[Math.min(sorted.length - 1, placeOf(sorted, Number.MIN_VALUE))]
  const along: Record<Scaling, (value: number) => number> = {
    linear: (value) => value,
    'square-root': (value) => Math.sign(value) * Math.sqrt(Math.abs(value)),
    logarithmic: (value) => Math.log10(Math.max(value, smallest > 0 ? smallest : 1)),
    rank: (value) => (placeOf(sorted, value) + placeOf(sorted, nextUp(value)) - 1) / 2,
  }
  const to = along[scaling]
  const clamp = (share: number) => Math.min(1, Math.max(0, share))
  if (middle !== null) {
    const half = Math.max(to(high) - to(middle), to(middle) - to(low)) || 1
    return (value) => clamp(0.5 + (to(value) - to(middle)) / (2 * half))
  }
  const span = to(high) - to(low) || 1
  return (value) => clamp((to(value) - to(low)) / span)
}

/** The next number above, near enough to count the values up to and with this one. */
const nextUp = (value: number): number => value + Math.max(Math.abs(value) * 2 ** -52, Number.MIN_VALUE)

/**
 * Round values for the legend of a continuous scale, ascending: evenly spaced, by decades for logarithms,
 * quartiles for ranks.
 */
export function scaleTicks(sorted: Float64Array, scaling: Scaling): number[] {
  const [low, high] = [sorted[0], sorted[sorted.length - 1]]
  if (!(high > low)) return [low]
  if (scaling === 'rank')
    return [0, 0.25, 0.5, 0.75, 1]
      .map((p) => sorted[Math.round(p * (sorted.length - 1))])
      .filter((v, i, all) => i === 0 || v > all[i - 1])
  if (scaling === 'logarithmic' && high > 0) {
    const from = Math.max(low, sorted[Math.min(sorted.length - 1, placeOf(sorted, Number.MIN_VALUE))])
    const steps = Array.from({ length: 40 }, (_, i) => Math.floor(Math.log10(from)) + Math.floor(i / 3))
      .map((power, i) => [1, 2, 5][i % 3] * 10 ** power)
      .filter((v) => v >= from && v <= high)
    return steps.length > 7
      ? steps.filter((v) => Number.isInteger(Math.round(Math.log10(v) * 1e9) / 1e9))
      : steps
  }
  return roundedSteps(sorted, 7, { ...plainContext(sorted), step: null })
}
