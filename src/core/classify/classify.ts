import { presentSorted } from '@/core/data/summary'
import type { BreakMethod } from './break-method'
import { equalInterval } from './equal-interval'
import { naturalBreaks } from './natural-breaks'
import { quantile } from './quantile'
import { roundBreaks } from './round'

/** Methods by id, in the order in which they are offered. `manual` keeps the breaks it is given. */
export const methods = {
  'natural-breaks': { label: 'natural breaks', compute: naturalBreaks },
  quantile: { label: 'quantiles', compute: quantile },
  'equal-interval': { label: 'equal intervals', compute: equalInterval },
  manual: { label: 'breaks set by hand', compute: null },
} as const satisfies Record<string, { label: string; compute: BreakMethod | null }>

export type MethodId = keyof typeof methods
export const methodIds = Object.keys(methods) as MethodId[]
export const minClasses = 2
export const maxClasses = 12

export type ClassifyOptions = {
  method: MethodId
  classes: number
  /** Inner breaks for the method `manual`. */
  manualBreaks?: number[]
  /** Make the breaks readable, without moving a value out of all classes. */
  rounded?: boolean
}

/**
 * Classes of a list of values. `breaks` are the lowest value, the inner breaks and the highest value; class `i`
 * takes values from `breaks[i]` up to but not including `breaks[i + 1]`, the last class its upper end as well.
 * With breaks set by hand the ends may be wider than the data or leave values out; `outside` counts those.
 */
export type Classification = {
  method: MethodId
  asked: number
  breaks: number[]
  counts: number[]
  outside: number
  missing: number
  /** Goodness of variance fit, 0 to 1 (Robinson et al. 1984): 1 − squared deviations from class means / from the mean. */
  gvf: number
  /** What rounding took from the fit; 0 where breaks are not rounded. */
  roundingCost: number
}

/** Classifies the finite values of a list. Null when there are none. */
export function classify(values: Float64Array, options: ClassifyOptions): Classification | null {
  const sorted = presentSorted(values)
  if (!sorted.length) return null
  const classes = Math.max(1, Math.min(maxClasses, Math.round(options.classes)))
  const compute = methods[options.method].compute
  const exact = compute ? (sorted[0] === sorted[sorted.length - 1] ? [] : ascending(compute(sorted, classes))) : validManual(options.manualBreaks ?? [])
  const inner = compute && options.rounded ? roundBreaks(sorted, exact) : exact
  const breaks = [Math.min(sorted[0], inner[0] ?? Infinity), ...inner, Math.max(sorted[sorted.length - 1], inner.at(-1) ?? -Infinity)]
  const counts = countClasses(sorted, breaks)
  const gvf = varianceFit(sorted, counts)
  return {
    method: options.method,
    asked: options.method === 'manual' ? breaks.length - 1 : classes,
    breaks,
    counts,
    outside: sorted.length - counts.reduce((a, b) => a + b, 0),
    missing: values.length - sorted.length,
    gvf,
    roundingCost: inner === exact ? 0 : varianceFit(sorted, countClasses(sorted, [breaks[0], ...exact, breaks[breaks.length - 1]])) - gvf,
  }
}

/** Limits so near each other that they are the same number count once. */
const ascending = (breaks: number[]): number[] => breaks.filter((b, i) => i === 0 || b > breaks[i - 1])

const validManual = (breaks: number[]): number[] => [...new Set(breaks.filter(Number.isFinite))].sort((a, b) => a - b)

/** The class a value falls in, or −1 for a missing value or one outside all classes. */
export function classIndex(breaks: number[], value: number): number {
  const last = breaks.length - 1
  if (!(value >= breaks[0] && value <= breaks[last])) return -1
  for (let i = last - 1; i > 0; i--) if (value >= breaks[i]) return i
  return 0
}

function countClasses(sorted: Float64Array, breaks: number[]): number[] {
  const counts = new Array<number>(breaks.length - 1).fill(0)
  for (const value of sorted) {
    const i = classIndex(breaks, value)
    if (i >= 0) counts[i]++
  }
  return counts
}

/** Goodness of variance fit of sorted values cut into classes of the given sizes. */
export function varianceFit(sorted: Float64Array, counts: number[]): number {
  const total = squaredDeviations(sorted, 0, sorted.length)
  if (total === 0) return 1
  let within = 0
  let from = 0
  for (const count of counts) {
    within += squaredDeviations(sorted, from, from + count)
    from += count
  }
  return 1 - within / total
}

function squaredDeviations(sorted: Float64Array, from: number, to: number): number {
  let sum = 0
  for (let i = from; i < to; i++) sum += sorted[i]
  const mean = sum / (to - from)
  let squares = 0
  for (let i = from; i < to; i++) squares += (sorted[i] - mean) ** 2
  return squares
}
