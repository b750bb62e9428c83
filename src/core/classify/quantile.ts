import { between, type ValueMethod } from './break-method'

/**
 * Classes of equal size, as nearly as ties allow: the limit nearest to each share that lies between two
 * different values is taken, so equal values never fall in different classes.
 */
export const quantile: ValueMethod = (sorted, classes) => {
  const n = sorted.length
  const breaks: number[] = []
  let previous = 0
  for (let i = 1; i < classes; i++) {
    const limit = nearestStep(sorted, (n * i) / classes, previous)
    if (limit === null) break
    breaks.push(between(sorted[limit - 1], sorted[limit]))
    previous = limit
  }
  return breaks
}

/**
 * The index nearest to `target` and above `after` where the sorted values step up; null when there is none.
 */
function nearestStep(sorted: Float64Array, target: number, after: number): number | null {
  const steps = (i: number) => i > after && i < sorted.length && sorted[i - 1] < sorted[i]
  const around = Math.round(target)
  for (let d = 0; d < sorted.length; d++) {
    // Of two limits equally near, the one on the target's own side comes first.
    const order = around <= target ? [around + d, around - d] : [around - d, around + d]
    const steady = order.find(steps)
    if (steady !== undefined) return steady
  }
  return null
}
