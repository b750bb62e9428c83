import type { BreakMethod } from './break-method'

/** Classes of equal width between the extremes. */
export const equalInterval: BreakMethod = (sorted, classes) => {
  const [min, max] = [sorted[0], sorted[sorted.length - 1]]
  return Array.from({ length: classes - 1 }, (_, i) => min + ((max - min) * (i + 1)) / classes)
}
