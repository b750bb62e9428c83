import { classify, type Classification } from './classify'
import type { MethodId } from './methods'
import { plainFormat } from './number-format'
import type { Classing, SetAside } from './spec'

/** What is known of a field beside its values. */
export type FirstField = {
  /** Whether its values are changes, which may fall as well as rise. */
  isChange?: boolean
  /** Whether zero means that there is none of what is counted. */
  isCount?: boolean
}

/** Why something was chosen, in a sentence, and what could be chosen in its place. */
export type Reason = { words: string; instead?: { label: string; classing: Partial<Classing> } }

export type FirstChoices = { classing: Partial<Classing>; diverging: boolean; reasons: Reason[] }

/** A class with more of the values than this leaves the map in one colour. */
const mostInOne = 0.6
/** Values further to one side than this are not put into classes by their nearness. */
const mostSkew = 3
/** As large a part of the values must lie on the smaller side of zero for the two sides to be told apart. */
const leastOnSide = 0.05
/** As many zeros make a class of their own. */
const manyZeros = 0.1
/** More values than this are judged by as many, evenly taken out of their order. */
const mostJudged = 5000

/**
 * How values are put into classes before anybody chose, by their shape (docs/guide/class-bench.md has the rule):
 * 1. zeros of counts that are more than a tenth of the values are set aside;
 * 2. values on both sides of zero, at least a twentieth on either, are classed from zero up and down;
 * 3. few rows or few different values get fewer classes;
 * 4. natural breaks, unless the values are skewed by more than three or one class would have more than three fifths of
 *    them: then the first of geometric progression (values all above zero) and quantiles of which that is not so;
 * 5. numbers of seven figures and more are written in thousands or millions.
 */
export function firstChoices(
  values: Float64Array,
  { isChange = false, isCount = false }: FirstField = {},
): FirstChoices {
  const reasons: Reason[] = []
  const all = Float64Array.from(values.filter(Number.isFinite)).sort()
  if (!all.length) return { classing: {}, diverging: false, reasons }
  const zeros = all.filter((v) => v === 0).length
  const [low, high] = [all[0], all[all.length - 1]]
  const below = all.filter((v) => v < 0).length / all.length
  const above = all.filter((v) => v > 0).length / all.length
  const diverging = Math.min(below, above) >= leastOnSide || (isChange && low < 0 && high > 0)
  const apart = isCount && low >= 0 && zeros > manyZeros * all.length && zeros < all.length
  const setAside: SetAside[] = apart
    ? [{ id: 'zero', from: 0, to: 0, colour: '#ffffff', hatched: false, label: 'none' }]
    : []
  if (apart)
    reasons.push({
      words: `${Math.round((100 * zeros) / all.length)} % of the values are zero: they have a class of their own.`,
      instead: { label: 'Class them with the others', classing: { setAside: [] } },
    })
  if (diverging)
    reasons.push({
      words: 'There are values on both sides of zero: classes go up and down from there.',
      instead: { label: 'Classes from the lowest up', classing: { midpoint: null } },
    })
  const judged = thinned(apart ? all.filter((v) => v !== 0) : all)
  const classes = classesFor(judged, diverging)
  const common: Partial<Classing> = {
    classes,
    setAside,
    rounded: true,
    midpoint: diverging ? { at: 'zero', value: 0 } : null,
  }
  const method = methodFor(judged, common, reasons)
  const numbers = numbersFor(low, high)
  return { classing: { ...common, method, ...(numbers && { numbers }) }, diverging, reasons }
}

/** At most so many of sorted values, evenly taken. */
const thinned = (sorted: Float64Array): Float64Array =>
  sorted.length <= mostJudged
    ? sorted
    : Float64Array.from(
        { length: mostJudged },
        (_, i) => sorted[Math.round((i * (sorted.length - 1)) / (mostJudged - 1))],
      )

/** With fewer values than the first, so many classes. */
const classesBySize: [upTo: number, classes: number][] = [
  [12, 3],
  [30, 4],
  [Infinity, 5],
]

function classesFor(sorted: Float64Array, diverging: boolean): number {
  const different = new Set(sorted).size
  const [, bySize] = classesBySize.find(([upTo]) => sorted.length < upTo) as [number, number]
  const wanted = Math.max(2, Math.min(bySize, different))
  return diverging ? Math.max(4, wanted + (wanted % 2)) : wanted
}

function methodFor(sorted: Float64Array, options: Partial<Classing>, reasons: Reason[]): MethodId {
  const made = (method: MethodId): Classification | null =>
    classify(sorted, { method, classes: options.classes ?? 5, ...options })
  // Where there are no more values than classes, each has its own.
  if (new Set(sorted).size <= (options.classes ?? 5)) return 'natural-breaks'
  const natural = made('natural-breaks')
  const skew = skewness(sorted)
  const crowd = natural ? largestShare(natural) : 0
  if (!natural || (crowd <= mostInOne && Math.abs(skew) <= mostSkew)) return 'natural-breaks'
  const tried: MethodId[] = sorted[0] > 0 ? ['geometric', 'quantile'] : ['quantile']
  const good = tried.find((method) => {
    const result = made(method)
    return result !== null && largestShare(result) <= mostInOne && result.counts.every((count) => count > 0)
  })
  const method = good ?? 'quantile'
  reasons.push({
    words:
      crowd > mostInOne
        ? `Natural breaks would put ${Math.round(100 * crowd)} % of the values into one class: ${whys[method]}.`
        : `A few values are far ${skew > 0 ? 'above' : 'below'} the others: ${whys[method]}.`,
    instead: { label: 'Natural breaks', classing: { method: 'natural-breaks' } },
  })
  return method
}

const whys: Partial<Record<MethodId, string>> = {
  geometric: 'each class reaches up by the same factor',
  quantile: 'each class has about as many values',
}

/** The share of the values that lie in the fullest class. */
export function largestShare({ counts }: Pick<Classification, 'counts'>): number {
  const sum = counts.reduce((a, b) => a + b, 0)
  return sum ? Math.max(...counts) / sum : 0
}

/** The third standardised moment of values: how far more of them lie to one side. */
export function skewness(values: Float64Array): number {
  const n = values.length
  const mean = values.reduce((a, b) => a + b / n, 0)
  let [two, three] = [0, 0]
  for (const v of values) {
    two += (v - mean) ** 2 / n
    three += (v - mean) ** 3 / n
  }
  return two > 0 ? three / two ** 1.5 : 0
}

/** Values from here on are written in thousands, millions or thousand millions. */
const leastFor = { 1e3: 1e6, 1e6: 1e8, 1e9: 1e10 }

/** Numbers of seven figures and more in thousands or millions; undefined where they are short enough. */
function numbersFor(low: number, high: number): Classing['numbers'] | undefined {
  const most = Math.max(Math.abs(low), Math.abs(high))
  const divideBy = ([1e9, 1e6, 1e3] as const).find((many) => most >= leastFor[many])
  return divideBy && { ...plainFormat(), divideBy }
}
