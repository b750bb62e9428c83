import { meanOf, type BreakMethod } from './break-method'

/**
 * Breaks whole, half or third standard deviations apart, about the mean: with an even number of classes the
 * mean is a break, with an odd one it lies in the middle of a class (Evans 1977). The deviation is that of
 * the values themselves (divided by n). Breaks beyond the values are left out, so there may be fewer classes.
 */
export const standardDeviation: BreakMethod = (sorted, classes, { deviations }) => {
  const mean = meanOf(sorted)
  let squares = 0
  for (const value of sorted) squares += (value - mean) ** 2
  const width = Math.sqrt(squares / sorted.length) * deviations
  return Array.from({ length: classes - 1 }, (_, i) => mean + (i + 1 - classes / 2) * width)
}
