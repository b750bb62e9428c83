import { classIndex, type Classification } from '@/core/classify/classify'
import { classLabels, decimalsFor, inOwnWords } from '@/core/classify/labels'
import { coloursFor } from '@/core/colour/colouring'
import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import type { Colour } from '@/core/scene/paint'
import { decimalsOfMarks } from '@/core/kinds/marks/sizes'
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
    width && value > 0 ? Math.max(width.leastMm, (value / width.value) * width.widthMm) : 0
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
  const colours =
    colour && classification ? coloursFor(colour.colouring, generated.length) : [settings.plainColour]
  const labels = colour ? inOwnWords(generated, colour.classWords) : []
  // The widest on top.
  const drawn = [...widths.keys()].filter((f) => widths[f] > 0)
  const order = drawn.sort((a, b) => widths[a] - widths[b] || a - b)
  const written = marks.map(({ value }) => value)
  const decimals = decimalsOfMarks(written, settings.numbers.divideBy)
  const missing = classOf.includes(-1)
  return {
    widths,
    classOf,
    colours,
    labels,
    generated,
    values,
    classification,
    order,
    marks,
    decimals,
    missing,
  }
}
