import {
  meanOf,
  placeOf,
  plainContext,
  type BreakMethod,
  type MethodContext,
  type Pairs,
} from './break-method'
import { methodOf, type MethodId } from './methods'
import { boundaryAccuracy, moransI, tabularAccuracy, varianceFit } from './quality'
import { roundBreaks } from './round'
import { maxClasses, type ClassifyOptions, type Midpoint, type SetAside } from './spec'

export { computedIds, methodIds, methods, type MethodId } from './methods'
export { maxClasses, minClasses, type ClassifyOptions } from './spec'
export { varianceFit } from './quality'

/**
 * What is known of the ground: the area of each feature, and which features are neighbours. Both may be
 * missing.
 */
export type Ground = {
  sizes: Float64Array | null
  neighbours: Pairs | null
  /** Sum of the field over the sum of its denominator. */
  national?: number | null
}

/**
 * Classes of a list of values. `breaks` are the lowest value, the inner breaks and the highest value; class
 * `i` takes values from `breaks[i]` up to but not including `breaks[i + 1]`, the last class its upper end as
 * well (with `inclusive: 'upper'` the other way round). With breaks set by hand the ends may be wider than
 * the data or leave values out; `outside` counts those.
 */
export type Classification = {
  method: MethodId
  asked: number
  breaks: number[]
  counts: number[]
  outside: number
  missing: number
  /** Values of each set-aside class. */
  aside: number[]
  inclusive: 'lower' | 'upper'
  /** Where the middle of two-sided data lies, and how many classes are below it; null for one-sided data. */
  middle: { value: number; below: number } | null
  /** Goodness of variance fit, 0 to 1. */
  gvf: number
  /** What rounding took from the fit; 0 where breaks are not rounded. */
  roundingCost: number
  /** How many values rounding moved to another class. */
  roundingMoved: number
}

/** The set-aside class of a value, or −1. */
export const asideOf = (value: number, setAside: SetAside[] | undefined): number =>
  setAside?.findIndex(({ from, to }) => value >= from && value <= to) ?? -1

const classesBelow = (value: number, breaks: number[]): number =>
  Math.min(breaks.length - 1, value <= breaks[0] ? 0 : breaks.filter((b) => b < value).length)

/** How many values lie in another class after breaks moved. */
function movedBy(
  sorted: Float64Array,
  { from, to, inclusive }: { from: number[]; to: number[]; inclusive: 'lower' | 'upper' },
): number {
  const below = (value: number, limit: number) => (inclusive === 'lower' ? value < limit : value <= limit)
  let moved = 0
  for (const value of sorted) {
    const [before, after] = [from, to].map((breaks) => breaks.filter((b) => !below(value, b)).length)
    if (before !== after) moved++
  }
  return moved
}

/** Classifies the finite values of a list that are not set aside. Null when there are none. */
export function classify(
  values: Float64Array,
  options: ClassifyOptions,
  ground: Ground = { sizes: null, neighbours: null },
): Classification | null {
  const { sorted, aside, missing } = inOrder(values, options.setAside)
  if (!sorted.length) return null
  const inclusive = options.inclusive ?? 'lower'
  const classes = Math.max(1, Math.min(maxClasses, Math.round(options.classes)))
  const { compute, needs } = methodOf(options.method)
  const spread = sorted[0] < sorted[sorted.length - 1]
  const middle = options.midpoint && spread ? middleOf(sorted, options.midpoint, ground) : null
  const context = {
    ...plainContext(sorted),
    deviations: options.deviations ?? 1,
    step: options.step ?? null,
    ...(needs === 'areas' ? groundInOrder(values, options.setAside, ground) : {}),
  }
  const fixed = [...(options.locked ?? []), ...(middle === null ? [] : [middle])].filter(
    (b) => b > sorted[0] && b < sorted[sorted.length - 1],
  )
  const around = { fixed: ascending(fixed.sort((a, b) => a - b)), middle }
  const fitted = compute && spread ? fitAround(compute, sorted, { classes, context, ...around }) : []
  const exact = compute ? fitted : validManual(options.manualBreaks ?? [])
  const rounded = compute && options.rounded ? roundBreaks(sorted, exact, inclusive) : exact
  // What was fixed stays as it is.
  const inner = rounded.map((b, i) => (fixed.includes(exact[i]) ? exact[i] : b))
  const breaks = withEnds(inner, sorted[0], sorted[sorted.length - 1])
  const counts = countClasses(sorted, breaks, inclusive)
  const gvf = varianceFit(sorted, counts)
  return {
    method: options.method,
    asked: options.method === 'manual' ? breaks.length - 1 : classes,
    breaks,
    counts,
    outside: sorted.length - counts.reduce((a, b) => a + b, 0),
    missing,
    aside,
    inclusive,
    middle: middle === null ? null : { value: middle, below: classesBelow(middle, breaks) },
    gvf,
    roundingMoved: movedBy(sorted, { from: exact, to: inner, inclusive }),
    roundingCost: inner.every((b, i) => b === exact[i])
      ? 0
      : varianceFit(
          sorted,
          countClasses(sorted, [breaks[0], ...exact, breaks[breaks.length - 1]], inclusive),
        ) - gvf,
  }
}

/**
 * The same breaks with the counts and the fit of other values, such as one layer's of several that share
 * them.
 */
export function countedFor(
  classification: Classification,
  values: Float64Array,
  setAside: SetAside[] | undefined,
): Classification {
  const { sorted, aside, missing } = inOrder(values, setAside)
  const counts = countClasses(sorted, classification.breaks, classification.inclusive)
  return {
    ...classification,
    counts,
    aside,
    missing,
    outside: sorted.length - counts.reduce((a, b) => a + b, 0),
    gvf: varianceFit(sorted, counts),
  }
}

/** Present values that are not set aside, ascending. */
function inOrder(
  values: Float64Array,
  setAside: SetAside[] | undefined,
): { sorted: Float64Array; aside: number[]; missing: number } {
  const aside = (setAside ?? []).map(() => 0)
  let missing = 0
  const kept = values.filter((value) => {
    if (!Number.isFinite(value)) {
      missing++
      return false
    }
    const apart = aside.length ? asideOf(value, setAside) : -1
    if (apart >= 0) aside[apart]++
    return apart < 0
  })
  return { sorted: kept.sort(), aside, missing }
}

/** Areas and neighbours in the order of the sorted values. */
function groundInOrder(
  values: Float64Array,
  setAside: SetAside[] | undefined,
  { sizes, neighbours }: Ground,
): Pick<MethodContext, 'sizes' | 'neighbours'> {
  const kept = [...values.keys()]
    .filter((f) => Number.isFinite(values[f]) && asideOf(values[f], setAside) < 0)
    .sort((a, b) => values[a] - values[b] || a - b)
  const place = new Int32Array(values.length).fill(-1)
  kept.forEach((f, i) => (place[f] = i))
  return {
    sizes: sizes && Float64Array.from(kept, (f) => sizes[f]),
    neighbours: neighbours && pairsOf(neighbours, place),
  }
}

/**
 * Where the middle lies. The national figure is that of the field over its denominator; without one it is the
 * mean.
 */
export function middleOf(sorted: Float64Array, { at, value }: Midpoint, { national }: Ground): number {
  if (at === 'zero') return 0
  if (at === 'typed') return value
  if (at === 'national' && national !== null && national !== undefined) return national
  if (at === 'median')
    return sorted.length % 2
      ? sorted[sorted.length >> 1]
      : (sorted[sorted.length / 2 - 1] + sorted[sorted.length / 2]) / 2
  return meanOf(sorted)
}

type Fitting = {
  classes: number
  context: MethodContext
  /** Breaks that stay where they are, ascending. */
  fixed: number[]
  /** The middle of two-sided data, one of those that are fixed. */
  middle: number | null
}

/**
 * Breaks by a method in the stretches between those that are fixed. Where the middle of two-sided data is the
 * only one, both sides get as many classes, the upper one the odd one; otherwise classes are spread over the
 * stretches so that the variance fit of the whole is best.
 */
function fitAround(
  compute: BreakMethod,
  sorted: Float64Array,
  { classes, context, fixed, middle }: Fitting,
): number[] {
  if (!fixed.length) return ascending(within(compute(sorted, classes, context), sorted))
  const limits = [0, ...fixed.map((b) => placeOf(sorted, b)), sorted.length]
  const stretches = limits.slice(1).map((to, i) => ({
    from: limits[i],
    to,
    low: i ? fixed[i - 1] : context.low,
    high: fixed[i] ?? context.high,
  }))
  const most = Math.max(1, classes - fixed.length)
  const divide = (s: number, count: number): number[] => {
    const { from, to, low, high } = stretches[s]
    if (to - from < 2 || sorted[from] === sorted[to - 1] || count < 2) return []
    const part = sorted.subarray(from, to)
    const inner = compute(part, count, {
      ...context,
      low,
      high,
      sizes: context.sizes && context.sizes.subarray(from, to),
      neighbours: context.neighbours && pairsWithin(context.neighbours, from, to),
    })
    return ascending(within(inner, part)).filter((b) => b > low && b < high)
  }
  const shares =
    fixed.length === 1 && fixed[0] === middle
      ? [Math.max(1, classes >> 1), Math.max(1, classes - (classes >> 1))]
      : bestShares(
          stretches.map((_, s) =>
            Array.from({ length: most }, (_, c) => deviationOf(sorted, stretches[s], divide(s, c + 1))),
          ),
          Math.max(classes, stretches.length),
        )
  return ascending(
    stretches.flatMap((_, s) => [...divide(s, shares[s]), ...(s < fixed.length ? [fixed[s]] : [])]),
  )
}

function deviationOf(
  sorted: Float64Array,
  { from, to }: { from: number; to: number },
  inner: number[],
): number {
  let sum = 0
  let start = from
  for (const limit of [...inner, Infinity]) {
    const end = limit === Infinity ? to : from + placeOf(sorted.subarray(from, to), limit)
    const mean = meanOf(sorted, start, end)
    for (let i = start; i < end; i++) sum += (sorted[i] - mean) ** 2
    start = end
  }
  return sum
}

/**
 * How many classes each stretch gets, `total` in all and at least one each, so that the deviations add up to
 * the least.
 */
function bestShares(deviations: number[][], total: number): number[] {
  let table: { sum: number; shares: number[] }[] = [{ sum: 0, shares: [] }]
  deviations.forEach((own, s) => {
    const next: typeof table = []
    table.forEach((entry, used) => {
      if (!entry) return
      for (let c = 1; c <= own.length && used + c <= total - (deviations.length - 1 - s); c++) {
        const sum = entry.sum + own[c - 1]
        if (!next[used + c] || sum < next[used + c].sum)
          next[used + c] = { sum, shares: [...entry.shares, c] }
      }
    })
    table = next
  })
  return (table[total] ?? table.filter(Boolean).at(-1))?.shares ?? deviations.map(() => 1)
}

const pairsWithin = ({ a, b }: Pairs, from: number, to: number): Pairs => {
  const kept = [...a.keys()].filter((e) => a[e] >= from && a[e] < to && b[e] >= from && b[e] < to)
  return { a: Uint32Array.from(kept, (e) => a[e] - from), b: Uint32Array.from(kept, (e) => b[e] - from) }
}

/** Limits at or beyond the ends divide nothing. */
const within = (breaks: number[], sorted: Float64Array): number[] =>
  breaks.filter((b) => b > sorted[0] && b <= sorted[sorted.length - 1])

/** Limits so near each other that they are the same number count once. */
const ascending = (breaks: number[]): number[] => breaks.filter((b, i) => i === 0 || b > breaks[i - 1])

const validManual = (breaks: number[]): number[] =>
  [...new Set(breaks.filter(Number.isFinite))].sort((a, b) => a - b)

const withEnds = (inner: number[], low: number, high: number): number[] => [
  Math.min(low, inner[0] ?? Infinity),
  ...inner,
  Math.max(high, inner.at(-1) ?? -Infinity),
]

/** Breaks set by hand as `classify` has them for values from `low` to `high`: ascending, each once, with ends. */
export const breaksByHand = (manual: number[], low: number, high: number): number[] =>
  withEnds(validManual(manual), low, high)

/** The class a value falls in, or −1 for a missing value or one outside all classes. */
export function classIndex(breaks: number[], value: number, inclusive: 'lower' | 'upper' = 'lower'): number {
  const last = breaks.length - 1
  if (!(value >= breaks[0] && value <= breaks[last])) return -1
  if (inclusive === 'lower') for (let i = last - 1; i > 0; i--) if (value >= breaks[i]) return i
  if (inclusive === 'upper') for (let i = last - 1; i > 0; i--) if (value > breaks[i]) return i
  return 0
}

function countClasses(sorted: Float64Array, breaks: number[], inclusive: 'lower' | 'upper'): number[] {
  const counts = new Array<number>(breaks.length - 1).fill(0)
  for (const value of sorted) {
    const i = classIndex(breaks, value, inclusive)
    if (i >= 0) counts[i]++
  }
  return counts
}

/** How good classes are, beyond the variance fit; what needs neighbours is null without them. */
export type Quality = {
  gvf: number
  tabular: number
  boundary: number | null
  smallest: number
  largest: number
  empty: number
  moran: { i: number; expected: number; z: number } | null
}

export function qualityOf(
  values: Float64Array,
  { breaks, counts, inclusive, gvf }: Classification,
  setAside: SetAside[] | undefined,
  ground: Ground,
): Quality {
  const kept = [...values.keys()].filter(
    (f) => Number.isFinite(values[f]) && asideOf(values[f], setAside) < 0,
  )
  const sorted = Float64Array.from(kept, (f) => values[f]).sort()
  const place = new Int32Array(values.length).fill(-1)
  kept.forEach((f, i) => (place[f] = i))
  const own = Float64Array.from(kept, (f) => values[f])
  const pairs = ground.neighbours && pairsOf(ground.neighbours, place)
  const inClasses = counts.reduce((a, b) => a + b, 0) === sorted.length
  const boundary = pairs
    ? boundaryAccuracy(
        own,
        Int32Array.from(own, (value) => classIndex(breaks, value, inclusive)),
        pairs,
      )
    : NaN
  return {
    gvf,
    tabular: inClasses ? tabularAccuracy(sorted, counts) : NaN,
    boundary: Number.isNaN(boundary) ? null : boundary,
    smallest: Math.min(...counts),
    largest: Math.max(...counts),
    empty: counts.filter((count) => count === 0).length,
    moran: pairs ? moransI(own, pairs) : null,
  }
}

/** Pairs of features as pairs of places, those without a place left out. */
function pairsOf({ a, b }: Pairs, place: Int32Array): Pairs {
  const kept = [...a.keys()].filter((e) => place[a[e]] >= 0 && place[b[e]] >= 0)
  return { a: Uint32Array.from(kept, (e) => place[a[e]]), b: Uint32Array.from(kept, (e) => place[b[e]]) }
}
