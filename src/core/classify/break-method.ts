/** Pairs of neighbouring areas: `a[i]` and `b[i]` are the places of their values in the sorted list. */
export type Pairs = { a: Uint32Array; b: Uint32Array }

/** What a method may draw on besides the values. */
export type MethodContext = {
  /** The ends of the stretch that is to be divided; the values lie between them. */
  low: number
  high: number
  /** Width of a class in standard deviations, for the method of that name: 1, ½ or ⅓. */
  deviations: number
  /** Width of a class, for rounded steps; null lets the number of classes decide. */
  step: number | null
  /** Ground covered by each value's area, in the order of the values. */
  sizes: Float64Array | null
  neighbours: Pairs | null
}

/**
 * All methods take values in ascending order and a number of classes, and give the inner breaks, ascending.
 */
export type BreakMethod = (sorted: Float64Array, classes: number, context: MethodContext) => number[]

/** A method that draws on nothing but the values. */
export type ValueMethod = (sorted: Float64Array, classes: number) => number[]

export const plainContext = (sorted: Float64Array): MethodContext => ({
  low: sorted[0],
  high: sorted[sorted.length - 1],
  deviations: 1,
  step: null,
  sizes: null,
  neighbours: null,
})

/**
 * A limit between two neighbouring values: above the lower one and not above the higher one, whatever the
 * rounding.
 */
export const between = (low: number, high: number): number => {
  const middle = low + (high - low) / 2
  return middle > low ? middle : high
}

export const meanOf = (sorted: Float64Array, from = 0, to = sorted.length): number => {
  let sum = 0
  for (let i = from; i < to; i++) sum += sorted[i]
  return sum / (to - from)
}

/** The first place whose value is at least `limit`. */
export function placeOf(sorted: Float64Array, limit: number): number {
  let [low, high] = [0, sorted.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (sorted[middle] < limit) low = middle + 1
    else high = middle
  }
  return low
}
