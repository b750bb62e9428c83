import { classify, classIndex, type Classification } from '@/core/classify/classify'
import { classLabels, decimalsFor, inOwnWords } from '@/core/classify/labels'
import { coloursFor } from '@/core/colour/colouring'
import { neighbourPairs } from '@/core/geo/neighbours'
import type { Colour } from '@/core/scene/paint'
import type { KindData } from '../kind'
import { valuesOf } from '../values'
import type { Contrast, ContrastSettings } from './spec'

/** A border between areas `low` and `high` by their numbers: its contrast, and which of them has the higher value. */
export type ContrastPlan = {
  low: Uint32Array
  high: Uint32Array
  /** NaN where either value is missing, or a ratio has no meaning. */
  values: Float64Array
  higher: Int32Array
  classOf: Int8Array
  classification: Classification | null
  colours: Colour[]
  labels: string[]
  generated: string[]
  decimals: number
  largest: number
  /** Borders beside a missing value, those for which there is no ratio, and those with too little contrast. */
  missing: number
  undefinedRatio: number
  leftOut: number
}

/** How different two values are: in their own unit, how many times, or in percent of their mean. */
export function contrastOf(contrast: Contrast, a: number, b: number): number {
  if (Number.isNaN(a) || Number.isNaN(b)) return NaN
  // A difference of numbers at the very end of what is written is held there.
  const difference = Math.min(Number.MAX_VALUE, Math.abs(a - b))
  if (contrast === 'difference') return difference
  // Ratios need a zero that means nothing is there.
  if (a < 0 || b < 0) return NaN
  if (contrast === 'ratio') return Math.min(a, b) > 0 ? Math.max(a, b) / Math.min(a, b) : NaN
  return a + b > 0 ? 100 * (difference / (a / 2 + b / 2)) : NaN
}

export function planContrast(settings: ContrastSettings, { dataset }: KindData): ContrastPlan {
  const shown = valuesOf(settings, dataset)
  const { a: low, b: high } = neighbourPairs(dataset.geometry)
  const { least } = settings
  let [missing, undefinedRatio, leftOut] = [0, 0, 0]
  const values = Float64Array.from(low, (a, i) => {
    const [one, other] = [shown[a], shown[high[i]]]
    const value = contrastOf(settings.contrast, one, other)
    if (!Number.isFinite(value)) {
      if (Number.isFinite(one) && Number.isFinite(other)) undefinedRatio++
      else missing++
      return NaN
    }
    if (least !== null && value < least) {
      leftOut++
      return NaN
    }
    return value
  })
  const classification = classify(values, settings)
  const breaks = classification?.breaks ?? []
  const decimals = breaks.length ? decimalsFor(breaks.map((b) => b / settings.numbers.divideBy)) : 0
  const generated =
    (classification && classLabels(breaks, decimals, settings.labelPattern, settings.numbers)) || []
  const count = classification?.counts.length ?? 0
  return {
    low,
    high,
    values,
    higher: Int32Array.from(low, (a, i) => (shown[a] >= shown[high[i]] ? a : high[i])),
    classOf: Int8Array.from(values, (value) =>
      Number.isFinite(value) ? classIndex(breaks, value, settings.inclusive) : -1,
    ),
    classification,
    colours: settings.coloured
      ? coloursFor(settings, count).map((colour, i) => settings.ownColours[String(i)] ?? colour)
      : Array.from({ length: count }, () => settings.colour),
    labels: inOwnWords(generated, settings.classWords),
    generated,
    decimals,
    largest: values.reduce((most, value) => (value > most ? value : most), 0),
    missing,
    undefinedRatio,
    leftOut,
  }
}

/** The width of a border's line in points. */
export function widthPt(
  { values, classOf, classification, largest }: ContrastPlan,
  settings: ContrastSettings,
  i: number,
): number {
  if (settings.width === 'proportional') {
    // A ratio of one is no contrast.
    const from = settings.contrast === 'ratio' ? 1 : 0
    return largest > from ? settings.widestPt * ((values[i] - from) / (largest - from)) : 0
  }
  return classWidthPt(classOf[i], classification?.counts.length ?? 1, settings)
}

/** Widths of classes run evenly up to the widest. */
export const classWidthPt = (
  at: number,
  count: number,
  { widestPt }: Pick<ContrastSettings, 'widestPt'>,
): number => (widestPt * (at + 1)) / count
