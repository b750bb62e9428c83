import {
  asideOf,
  classify,
  classIndex,
  countedFor,
  middleOf,
  type Classification,
  type ClassifyOptions,
  type Ground,
} from '@/core/classify/classify'
import { classLabels, decimalsFor, inOwnWords } from '@/core/classify/labels'
import { scaleTicks, shareAlong, type Scaling } from '@/core/classify/scaling'
import { coloursFor, shadeOf, type Colouring } from '@/core/colour/colouring'
import { numbersOf } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import type { Colour } from '@/core/scene/paint'
import { classified } from '../classified'
import type { KindData } from '../kind'
import { poolOf } from '../pool'
import { groundOf, valuesOf } from '../values'
import type { ChoroplethSettings } from './spec'

/**
 * `classOf[f]`: the class of feature `f`; −1 missing, −2 a value outside breaks set by hand, −3 − i the i-th
 * class set aside.
 */
export type ChoroplethPlan = {
  values: Float64Array
  classOf: Int8Array
  classification: Classification | null
  colours: Colour[]
  labels: string[]
  /** The labels as they would be without words written by hand. */
  generated: string[]
  decimals: number
  /** For maps without classes: where a value stands, and the values that the legend names. */
  scale: ShadeScale | null
  missingCount: number
  /** 1 for features whose value is not reliable; null where that is not asked for. */
  unreliable: Uint8Array | null
  /** How many features may belong to another class, given their error. */
  mayMove: number | null
}

/** How values of a map without classes stand along its shades: `shareAlong` of these gives each its share. */
export type ShadeScale = {
  /** The values that the scale goes by, ascending. */
  sorted: Float64Array
  scaling: Scaling
  middle: number | null
  /** Values that the legend names. */
  ticks: number[]
}

/** Where a value stands along the shades, 0 to 1. */
export const shareOn = ({ sorted, scaling, middle }: ShadeScale): ((value: number) => number) =>
  shareAlong(sorted, scaling, middle)

/** Shades of a map without classes; more cannot be told apart. */
const shades = 64

export function planChoropleth(settings: ChoroplethSettings, data: KindData): ChoroplethPlan {
  const { dataset } = data
  const values = valuesOf(settings, dataset)
  const pool = poolOf(settings, data)
  // Without classes there is one that holds everything, and its shades.
  const options: ClassifyOptions = settings.unclassed
    ? { ...settings, method: 'equal-interval', classes: 1, locked: [], midpoint: null }
    : settings
  const shared = settings.share?.over === 'all' && pool ? classify(pool.values, options, pool.ground) : null
  const classification = shared
    ? countedFor(shared, values, settings.setAside)
    : classified(settings, options, dataset)
  const scale =
    settings.unclassed && classification
      ? scaleOf(settings, pool ?? { values, ground: groundOf(settings, dataset) })
      : null
  const share = scale && shareOn(scale)
  const breaks = classification?.breaks ?? []
  const decimals = breaks.length ? decimalsFor(breaks.map((b) => b / settings.numbers.divideBy)) : 0
  const errors = relativeErrors(settings, dataset)
  const limit = (settings.uncertainty?.over ?? 0) / 100
  const isUnreliable = (value: number, error: number): boolean => Number.isFinite(value) && error > limit
  let missingCount = 0
  const classOf = Int8Array.from(values, (value) => {
    if (Number.isFinite(value)) {
      const apart = settings.setAside.length ? asideOf(value, settings.setAside) : -1
      if (apart >= 0) return -3 - apart
      if (share) return Math.min(shades - 1, Math.floor(share(value) * shades))
      const index = classIndex(breaks, value, settings.inclusive)
      return index < 0 ? -2 : index
    }
    missingCount++
    return -1
  })
  const generated = scale
    ? Array.from({ length: shades }, (_, i) => `shade ${i + 1}`)
    : (classification && classLabels(breaks, decimals, settings.labelPattern, settings.numbers)) || []
  const colours = scale
    ? Array.from({ length: shades }, (_, i) => shadeOf(settings, (i + 0.5) / shades))
    : (classification && coloursOf(settings, classification)) || []
  const labels = inOwnWords(generated, scale ? {} : settings.classWords)
  const unreliable = errors && Uint8Array.from(errors, (error, f) => Number(isUnreliable(values[f], error)))
  const mayMove = errors && countCrossing(values, errors, breaks)
  return {
    values,
    classOf,
    classification,
    colours,
    labels,
    generated,
    scale,
    decimals,
    missingCount,
    unreliable,
    mayMove,
  }
}

/** How many values lie so near to a break that their error reaches over it. */
const countCrossing = (values: Float64Array, errors: Float64Array, breaks: number[]): number =>
  values.reduce((count, value, f) => count + Number(crosses(breaks, value, errors[f] * Math.abs(value))), 0)

function scaleOf(
  { unclassed, setAside, midpoint }: ChoroplethSettings,
  { values, ground }: { values: Float64Array; ground: Ground },
): NonNullable<ChoroplethPlan['scale']> {
  const sorted = values.filter((value) => Number.isFinite(value) && asideOf(value, setAside) < 0).sort()
  const middle = midpoint ? middleOf(sorted, midpoint, ground) : null
  const scaling = unclassed ?? 'linear'
  return { sorted, scaling, middle, ticks: scaleTicks(sorted, scaling) }
}

/** Whether a break lies within a value's margin of error: it could then well belong to the next class. */
const crosses = (breaks: number[], value: number, margin: number): boolean =>
  breaks.slice(1, -1).some((b) => b > value - margin && b < value + margin)

/** A margin of error at the level of 90 % is so many standard errors wide. */
const marginWidth = 1.645

/**
 * The margin of error of each value as a share of it; null where none was named. The error of a denominator
 * is taken for small beside it.
 */
function relativeErrors({ field, uncertainty }: ChoroplethSettings, dataset: Dataset): Float64Array | null {
  const [error, value] = [uncertainty && fieldOf(dataset, uncertainty.field), fieldOf(dataset, field)]
  if (!uncertainty || !error || !value) return null
  const values = numbersOf(value)
  return numbersOf(error).map((e, f) =>
    uncertainty.measure === 'variation' ? (marginWidth * e) / 100 : Math.abs(e / values[f]),
  )
}

/** Colours from low to high. On either side of a middle they run outwards from the middle of the scheme. */
export function coloursOf(
  settings: Colouring & Pick<ChoroplethSettings, 'ownColours'>,
  { counts, middle }: Pick<Classification, 'counts' | 'middle'>,
): Colour[] {
  const classes = counts.length
  const above = middle ? classes - middle.below : 0
  const side = middle ? Math.max(middle.below, above) : 0
  const colours =
    middle && middle.below !== above && side > 0
      ? coloursFor(settings, 2 * side).slice(side - middle.below, side + above)
      : coloursFor(settings, classes)
  return colours.map((colour, i) => settings.ownColours[String(i)] ?? colour)
}
