import { unordered } from '@/core/colour/schemes'
import { numbersOf, textAt, type Column } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import { classIndex, type Classification } from '@/core/classify/classify'
import { classLabels, decimalsFor, inOwnWords } from '@/core/classify/labels'
import type { Colour } from '@/core/scene/paint'
import { decimalsOfMarks } from '@/core/kinds/marks/sizes'
import { classified } from '../classified'
import type { KindData } from '../kind'
import { legendMarks } from '../marks/sizes'
import { placesOf } from '../marks/places'
import { valuesOf } from '../values'
import type { FlowSettings } from './spec'

/** A flow between two features of the places; `row` is its row in the table. */
export type Flow = { row: number; from: number; to: number; value: number; widthMm: number; colour: Colour }

/** `flows`: the smallest first, so that large ones lie in front. */
export type FlowPlan = {
  flows: Flow[]
  unplaced: number
  left: number
  within: number
  marks: { value: number; widthMm: number }[]
  decimals: number
  hues: { key: string; label: string; colour: Colour }[]
  /** Classes of widths, where there are some. */
  grades: {
    classification: Classification
    labels: string[]
    generated: string[]
    widthsMm: number[]
    values: Float64Array
  } | null
}

/** Widths are proportional to values: twice the value is twice as wide. */
export const widthOf = (
  { anchor, leastMm }: Pick<FlowSettings, 'anchor' | 'leastMm'>,
  value: number,
): number => Math.max(leastMm, (anchor.widthMm * Math.abs(value)) / anchor.value)

export function planFlows(settings: FlowSettings, { dataset, datasetOf }: KindData): FlowPlan {
  const ground = settings.places && datasetOf(settings.places.datasetId)
  const names = ground && settings.places && fieldOf(ground, settings.places.key)
  const [from, to, amounts] = [
    fieldOf(dataset, settings.from),
    fieldOf(dataset, settings.to),
    fieldOf(dataset, settings.field),
  ]
  if (!ground || !names || !from || !to || !amounts)
    return { flows: [], unplaced: 0, left: 0, within: 0, marks: [], decimals: 0, hues: [], grades: null }
  const feature = new Map(Array.from({ length: ground.rowCount }, (_, f) => [textAt(names, f), f]))
  const hues = huesOf(settings, ground)
  const values = numbersOf(amounts)
  const grades = settings.graded ? gradesOf(settings, settings.graded, dataset) : null
  const width = (value: number): number =>
    grades && settings.graded
      ? (grades.widthsMm[classIndex(grades.classification.breaks, value, settings.graded.inclusive)] ??
        settings.leastMm)
      : widthOf(settings, value)
  const flows: Flow[] = []
  let [unplaced, left, within] = [0, 0, 0]
  values.forEach((value, row) => {
    const [a, b] = [feature.get(textAt(from, row)), feature.get(textAt(to, row))]
    if (!(value > 0)) return
    if (a === undefined || b === undefined) unplaced++
    else if (a === b) within++
    else if (value < settings.threshold) left++
    else flows.push({ row, from: a, to: b, value, widthMm: width(value), colour: hues.of(a, b) })
  })
  flows.sort((a, b) => a.value - b.value || a.row - b.row)
  const marks = flows.length
    ? legendMarks(
        settings.legendValues,
        { least: flows[0].value, largest: flows[flows.length - 1].value },
        (value) => widthOf(settings, value),
        3,
      ).map((value) => ({ value, widthMm: widthOf(settings, value) }))
    : []
  const written = marks.map(({ value }) => value)
  const decimals = decimalsOfMarks(written, settings.numbers.divideBy)
  return { flows, unplaced, left, within, marks, decimals, hues: hues.list, grades }
}

function gradesOf(
  settings: FlowSettings,
  graded: NonNullable<FlowSettings['graded']>,
  dataset: Dataset,
): FlowPlan['grades'] {
  const shown = { field: settings.field, per: null, perCount: 1 }
  const classification = classified(shown, graded, dataset)
  if (!classification) return null
  const count = classification.counts.length
  const most = settings.anchor.widthMm
  const least = Math.max(settings.leastMm, most / count)
  const decimals = decimalsFor(classification.breaks.map((b) => b / settings.numbers.divideBy))
  const generated = classLabels(classification.breaks, decimals, graded.labelPattern, settings.numbers)
  return {
    classification,
    generated,
    labels: inOwnWords(generated, graded.classWords),
    widthsMm: classification.counts.map((_, i) =>
      count === 1 ? most : least + ((most - least) * i) / (count - 1),
    ),
    values: valuesOf(shown, dataset),
  }
}

function huesOf(
  { colour }: FlowSettings,
  ground: Dataset,
): { list: FlowPlan['hues']; of: (from: number, to: number) => Colour } {
  if (colour.by === 'nothing') return { list: [], of: () => colour.fill }
  if (colour.by === 'direction') {
    const places = placesOf(ground.geometry)
    const lon = (f: number): number => (places ? places.coords[2 * places.featureStarts[f]] : 0)
    // The shorter way around the globe counts.
    const east = (a: number, b: number): boolean => (((lon(b) - lon(a)) % 360) + 540) % 360 >= 180
    return {
      list: [
        { key: 'east', label: 'to the east', colour: colour.east },
        { key: 'west', label: 'to the west', colour: colour.west },
      ],
      of: (a, b) => (east(a, b) ? colour.east : colour.west),
    }
  }
  const column: Column | null = fieldOf(ground, colour.field)?.kind ? fieldOf(ground, colour.field) : null
  const texts = Array.from({ length: ground.rowCount }, (_, f) => (column && textAt(column, f)) || '')
  const keys = [...new Set(texts)].filter(Boolean).sort()
  const { colours } = unordered.orchard
  const list = keys.map((key, i) => ({
    key,
    label: key,
    colour: colour.colours[key] ?? colours[i % colours.length],
  }))
  const byKey = new Map(list.map((hue) => [hue.key, hue.colour]))
  return { list, of: (a) => byKey.get(texts[a]) ?? '#8a8a8a' }
}
