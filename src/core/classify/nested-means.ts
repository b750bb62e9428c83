import { meanOf, placeOf, type ValueMethod } from './break-method'

/**
 * The mean divides the values in two, the mean of each part divides it again, and so on (Scripter 1970).
 * Gives two, four or eight classes: the largest of these that is not more than asked for.
 */
export const nestedMeans: ValueMethod = (sorted, classes) => {
  const depth = Math.floor(Math.log2(Math.max(2, classes)))
  const divide = (from: number, to: number, left: number): number[] => {
    if (left === 0 || to - from < 2 || sorted[from] === sorted[to - 1]) return []
    const mean = meanOf(sorted, from, to)
    const middle = placeOf(sorted, mean)
    if (middle <= from || middle >= to) return []
    return [...divide(from, middle, left - 1), mean, ...divide(middle, to, left - 1)]
  }
  return divide(0, sorted.length, depth)
}
