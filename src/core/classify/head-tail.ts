import { meanOf, placeOf, type ValueMethod } from './break-method'

/** The head goes on being divided while it holds no more than this share of what was divided (Jiang 2013). */
const headShare = 0.4

/**
 * Head/tail breaks for values with many small and few large ones (Jiang 2013): the mean divides them, then
 * the mean of the values above it, and so on while the head stays a minority. The data decide how many
 * classes there are; no more are made than asked for.
 */
export const headTail: ValueMethod = (sorted, classes) => {
  const breaks: number[] = []
  let from = 0
  while (breaks.length < classes - 1 && sorted.length - from > 1) {
    const mean = meanOf(sorted, from)
    const head = placeOf(sorted, mean)
    if (
      head <= from ||
      head >= sorted.length ||
      (breaks.length > 0 && (sorted.length - head) / (sorted.length - from) > headShare)
    )
      break
    breaks.push(mean)
    from = head
  }
  return breaks
}
