import { between, type BreakMethod } from './break-method'

/**
 * Classes that cover the same ground, as nearly as the areas allow: after Lloyd and Steinke (1977). Areas
 * with equal values stay together. Without areas it gives no breaks.
 */
export const equalArea: BreakMethod = (sorted, classes, { sizes }) => {
  if (!sizes) return []
  const running = new Float64Array(sorted.length + 1)
  for (let i = 0; i < sorted.length; i++) running[i + 1] = running[i] + sizes[i]
  const total = running[sorted.length]
  const breaks: number[] = []
  let after = 0
  for (let k = 1; k < classes; k++) {
    const target = (total * k) / classes
    let best = -1
    for (let i = after + 1; i < sorted.length; i++) {
      if (sorted[i - 1] === sorted[i]) continue
      if (best < 0 || Math.abs(running[i] - target) < Math.abs(running[best] - target)) best = i
      else if (running[i] > target) break
    }
    if (best < 0) break
    breaks.push(between(sorted[best - 1], sorted[best]))
    after = best
  }
  return breaks
}
