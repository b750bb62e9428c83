import { between, type ValueMethod } from './break-method'

/** Breaks in the middle of the widest gaps between neighbouring values; of equal gaps the lower ones. */
export const maximumBreaks: ValueMethod = (sorted, classes) => {
  const gaps: number[] = []
  for (let i = 1; i < sorted.length; i++) if (sorted[i] > sorted[i - 1]) gaps.push(i)
  const widest = gaps
    .sort((a, b) => sorted[b] - sorted[b - 1] - (sorted[a] - sorted[a - 1]) || a - b)
    .slice(0, classes - 1)
  return widest.sort((a, b) => a - b).map((i) => between(sorted[i - 1], sorted[i]))
}
