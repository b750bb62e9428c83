import { asideOf, classify, classIndex, type Classification } from '@/core/classify/classify'
import { classLabels, decimalsFor } from '@/core/classify/labels'
import { schemeColours } from '@/core/colour/schemes'
import type { Colour } from '@/core/scene/paint'
import type { KindData } from '../kind'
import { groundOf, valuesOf } from '../values'
import type { ChoroplethSettings } from './spec'

/** `classOf[f]`: the class of feature `f`; −1 missing, −2 a value outside breaks set by hand, −3 − i the i-th class set aside. */
export type ChoroplethPlan = {
  values: Float64Array
  classOf: Int8Array
  classification: Classification | null
  colours: Colour[]
  labels: string[]
  decimals: number
  missingCount: number
}

export function planChoropleth(settings: ChoroplethSettings, { dataset }: KindData): ChoroplethPlan {
  const values = valuesOf(settings, dataset)
  const classification = classify(values, settings, groundOf(settings, dataset))
  const breaks = classification?.breaks ?? []
  const decimals = breaks.length ? decimalsFor(breaks.map((b) => b / settings.numbers.divideBy)) : 0
  let missingCount = 0
  const classOf = Int8Array.from(values, (value) => {
    if (Number.isFinite(value)) {
      const apart = settings.setAside.length ? asideOf(value, settings.setAside) : -1
      if (apart >= 0) return -3 - apart
      const index = classIndex(breaks, value, settings.inclusive)
      return index < 0 ? -2 : index
    }
    missingCount++
    return -1
  })
  return {
    values,
    classOf,
    classification,
    colours: classification ? coloursOf(settings, classification) : [],
    labels: classification ? classLabels(breaks, decimals, settings.labelPattern, settings.numbers) : [],
    decimals,
    missingCount,
  }
}

/** Colours from low to high. On either side of a middle they run outwards from the middle of the scheme. */
function coloursOf({ scheme, reversed, ownColours }: ChoroplethSettings, { counts, middle }: Classification): Colour[] {
  const classes = counts.length
  const above = middle ? classes - middle.below : 0
  const side = middle ? Math.max(middle.below, above) : 0
  const colours = middle && middle.below !== above && side > 0 ? schemeColours(scheme, 2 * side, reversed).slice(side - middle.below, side + above) : schemeColours(scheme, classes, reversed)
  return colours.map((colour, i) => ownColours[String(i)] ?? colour)
}
