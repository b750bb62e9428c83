/** All methods take values in ascending order and a number of classes, and give the inner breaks, ascending. */
export type BreakMethod = (sorted: Float64Array, classes: number) => number[]

/** A limit between two neighbouring values: above the lower one and not above the higher one, whatever the rounding. */
export const between = (low: number, high: number): number => {
  const middle = low + (high - low) / 2
  return middle > low ? middle : high
}
