import { asideOf, classIndex, type Classification } from '@/core/classify/classify'
import { classLabels, decimalsFor, inOwnWords } from '@/core/classify/labels'
import { coloursFor } from '@/core/colour/colouring'
import { unordered } from '@/core/colour/schemes'
import { textAt } from '@/core/data/column'
import { createMemory } from '@/core/memory/memory'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import type { Colour } from '@/core/scene/paint'
import { classified } from '../classified'
import type { KindData } from '../kind'
import { yearsPool } from '../pool'
import { valuesOf } from '../values'
import { decimalsOfMarks, legendMarks, proposedAnchor, rangeOf } from '../marks/sizes'
import { powerOf, sizeScale } from './scale'
import type { SymbolSettings } from './spec'

export type Hue = { key: string; label: string; colour: Colour; count: number }

/**
 * `sizes[f]`: millimetres, 0 for a feature without a symbol; `order`: features from the largest symbol to the
 * smallest.
 */
export type SymbolPlan = {
  values: Float64Array
  sizes: Float64Array
  order: number[]
  range: { least: number; largest: number } | null
  /** Values of the size legend with their sizes, the largest first. */
  marks: { value: number; sizeMm: number }[]
  decimals: number
  /** Classes of sizes, where there are some, and those of colours. */
  grades: { classification: Classification; labels: string[]; generated: string[]; sizesMm: number[] } | null
  hues: {
    classification: Classification | null
    values: Float64Array | null
    list: Hue[]
    /** −1 where it is not known. */
    of: Int16Array
    generated: string[]
  } | null
}

export function planSymbols(settings: SymbolSettings, data: KindData): SymbolPlan {
  const { dataset } = data
  const values = valuesOf(settings, dataset)
  const range = rangeOf(yearsPool(settings, dataset)?.values ?? values)
  const plainSize = sizeScale(settings, range)
  const grades = settings.graded ? gradesOf(settings, dataset) : null
  const sizeOf = grades
    ? (value: number) =>
        grades.sizesMm[classIndex(grades.classification.breaks, value, settings.inclusive)] ?? 0
    : plainSize
  const { sizes, order } = sized(values, settings, grades, sizeOf)
  const wanted = legendMarks(settings.legend.values, range, plainSize)
  const marks = wanted.map((value) => ({ value, sizeMm: plainSize(value) }))
  const decimals = decimalsOfMarks(wanted, settings.numbers.divideBy)
  const hues = huesOf(settings, data)
  return { values, sizes, order, range, marks, decimals, grades, hues }
}

const remember = createMemory<Float64Array, Pick<SymbolPlan, 'sizes' | 'order'>>('sizes of symbols', {
  maxBytes: 32 * 2 ** 20,
})

/**
 * The sizes of all symbols and their order, reckoned once for each way of sizing them: another colour changes
 * neither.
 */
function sized(
  values: Float64Array,
  { shape, scaling, exponent, anchor, leastMm, setAside, inclusive }: SymbolSettings,
  grades: SymbolPlan['grades'],
  sizeOf: (value: number) => number,
): Pick<SymbolPlan, 'sizes' | 'order'> {
  const key = JSON.stringify([
    shape,
    scaling,
    exponent,
    anchor,
    leastMm,
    setAside,
    inclusive,
    grades && [grades.classification.breaks, grades.sizesMm],
  ])
  return remember(values, key, () => {
    const sizes = Float64Array.from(values, (value) =>
      Number.isFinite(value) && asideOf(value, setAside) < 0 ? sizeOf(value) : 0,
    )
    const drawn = [...sizes.keys()].filter((f) => sizes[f] > 0)
    return { sizes, order: drawn.sort((a, b) => sizes[b] - sizes[a] || a - b) }
  })
}

function gradesOf(settings: SymbolSettings, dataset: Dataset): SymbolPlan['grades'] {
  const classification = classified(settings, settings, dataset)
  if (!classification) return null
  const count = classification.counts.length
  const [from, to] =
    settings.anchor.by === 'ends'
      ? [settings.anchor.smallestMm, settings.anchor.largestMm]
      : [Math.max(settings.leastMm, settings.anchor.sizeMm / count), settings.anchor.sizeMm]
  const decimals = decimalsFor(classification.breaks.map((b) => b / settings.numbers.divideBy))
  const generated = classLabels(classification.breaks, decimals, settings.labelPattern, settings.numbers)
  return {
    classification,
    generated,
    labels: inOwnWords(generated, settings.classWords),
    sizesMm: classification.counts.map((_, i) => (count === 1 ? to : from + ((to - from) * i) / (count - 1))),
  }
}

function huesOf({ colour }: SymbolSettings, { dataset }: KindData): SymbolPlan['hues'] {
  if (colour.by === 'nothing') return null
  if (colour.by === 'category') {
    const column = fieldOf(dataset, colour.field)
    const texts = Array.from(
      { length: dataset.rowCount },
      (_, row) => (column && textAt(column, row)) || null,
    )
    const counts = new Map<string, number>()
    for (const text of texts) if (text) counts.set(text, (counts.get(text) ?? 0) + 1)
    const keys = [...counts.keys()].sort(
      (a, b) => (counts.get(b) ?? 0) - (counts.get(a) ?? 0) || (a < b ? -1 : 1),
    )
    const { colours } = unordered.market
    const place = new Map(keys.map((key, i) => [key, i]))
    return {
      classification: null,
      values: null,
      generated: keys,
      list: keys.map((key, i) => ({
        key: `category-${key}`,
        label: key,
        colour: colour.colours[key] ?? colours[i % colours.length],
        count: counts.get(key) ?? 0,
      })),
      of: Int16Array.from(texts, (text) => (text === null ? -1 : (place.get(text) ?? -1))),
    }
  }
  const values = valuesOf(colour, dataset)
  const classification = classified(colour, colour, dataset)
  const breaks = classification?.breaks ?? []
  const generated = classification
    ? classLabels(
        breaks,
        decimalsFor(breaks.map((b) => b / colour.numbers.divideBy)),
        colour.labelPattern,
        colour.numbers,
      )
    : []
  const labels = inOwnWords(generated, colour.classWords)
  const colours = coloursFor(colour.colouring, labels.length)
  return {
    classification,
    values,
    generated,
    list: labels.map((label, i) => ({
      key: `class-${i}`,
      label,
      colour: colours[i],
      count: classification?.counts[i] ?? 0,
    })),
    of: Int16Array.from(values, (value) =>
      Number.isFinite(value) ? classIndex(breaks, value, colour.inclusive) : -1,
    ),
  }
}

/** A size for a dataset's symbols at which the largest one is about as wide as maps bear. */
export const firstAnchor = (
  settings: Pick<SymbolSettings, 'scaling' | 'exponent' | 'shape'>,
  values: Float64Array,
): SymbolSettings['anchor'] => {
  const range = rangeOf(values)
  return range ? proposedAnchor(powerOf(settings), range, 9) : { by: 'value', value: 1, sizeMm: 9 }
}
