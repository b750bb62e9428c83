import { placeOf, type BreakMethod } from './break-method'

/**
 * Each limit is the one before times a constant factor: low · (high ∕ low)^(i ∕ n) (Jenks and Coulson 1963).
 * A ratio needs values over zero: where there are others, they and the smallest positive ones share the
 * lowest class, and the progression starts at the smallest positive value.
 */
export const geometric: BreakMethod = (sorted, classes, { low, high }) => {
  const start = low > 0 ? low : sorted[placeOf(sorted, Number.MIN_VALUE)]
  if (!(start > 0) || !(high > start)) return []
  return Array.from({ length: classes - 1 }, (_, i) => start * (high / start) ** ((i + 1) / classes))
}

/**
 * Each class is wider than the one before by the same amount: widths of 1, 2, 3 … n parts (Jenks and Coulson
 * 1963).
 */
export const arithmetic: BreakMethod = (_, classes, { low, high }) => {
  const parts = (classes * (classes + 1)) / 2
  return Array.from({ length: classes - 1 }, (_, i) => low + ((high - low) * ((i + 1) * (i + 2))) / 2 / parts)
}
