import { classIndex, type Classification } from '@/core/classify/classify'
import { classLabels, decimalsFor, inOwnWords } from '@/core/classify/labels'
import { coloursFor } from '@/core/colour/colouring'
import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import type { Colour } from '@/core/scene/paint'
import { classified } from '../classified'
import type { KindData } from '../kind'
import { legendMarks, rangeOf } from '../marks/sizes'
import { valuesOf } from '../values'
import type { LineSettings } from './spec'

/**
 * `widths[f]`: mm, 0 for a line that is not drawn; `classOf[f]`: its class of colours, −1 where that is not
 * known.
 */
export type LinePlan = {
  widths: Float64Array
  classOf: Int16Array
  colours: Colour[]
  labels: string[]
  generated: string[]
  values: Float64Array | null
  classification: Classification | null
  /** The narrowest first, so that wide ones lie in front. */
  order: number[]
  marks: { value: number; widthMm: number }[]
  decimals: number
  missing: boolean
}

export function planLines(settings: LineSettings, { dataset }: KindData): LinePlan {
  const { width, colour } = settings
  const column = width && fieldOf(dataset, width.field)
  const amounts = column ? numbersOf(column) : null
  const widthOf = (value: number): number =>
    width && value > 0 ? Math.max(width.leastMm, (width.widthMm * value) / width.value) : 0
  const widths = amounts
    ? amounts.map(widthOf)
    : new Float64Array(dataset.rowCount).fill(settings.plainWidthMm)
  const values = colour && valuesOf(colour, dataset)
  const classification = colour && classified(colour, colour, dataset)
  const breaks = classification?.breaks ?? []
  const generated =
    colour && classification
      ? classLabels(
          breaks,
          decimalsFor(breaks.map((b) => b / colour.numbers.divideBy)),
          colour.labelPattern,
          colour.numbers,
        )
      : []
  const classOf = Int16Array.from({ length: dataset.rowCount }, (_, f) => {
    if (!values || !colour) return 0
    return Number.isFinite(values[f]) ? classIndex(breaks, values[f], colour.inclusive) : -1
  })
  const range = amounts && rangeOf(amounts)
  const marks =
    range && width
      ? legendMarks(settings.legendValues, range, widthOf, 3).map((value) => ({
          value,
          widthMm: widthOf(value),
        }))
      : []
  return {
    widths,
    classOf,
    colours:
      colour && classification ? coloursFor(colour.colouring, generated.length) : [settings.plainColour],
    labels: colour ? inOwnWords(generated, colour.classWords) : [],
    generated,
    values,
    classification,
    order: [...widths.keys()].filter((f) => widths[f] > 0).sort((a, b) => widths[a] - widths[b] || a - b),
    marks,
    decimals: Math.max(0, ...marks.map(({ value }) => decimalsFor([value / settings.numbers.divideBy]))),
    missing: classOf.includes(-1),
  }
}
