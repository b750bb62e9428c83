import { formatNumber } from '@/core/classify/labels'
import { plainFormat } from '@/core/classify/number-format'
import { numbersOf, textAt } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import type { KindData, MapKind } from '../kind'
import { groundOf, headingOf, numberFields, unitOf } from '../values'
import { drawFlows } from './draw'
import { flowLegend } from './legend'
import { planFlows, type FlowPlan } from './plan'
import { flowSentence } from './sentence'
import { FlowSettings } from './spec'

const texts = ({ dataset }: Pick<KindData, 'dataset'>): string[] =>
  dataset.fields.filter(({ column }) => column.kind !== 'number').map(({ key }) => key)

/** The dataset and field whose values are the ones of a column most often; null where there is none. */
function placesFor(column: string, { dataset, datasetIds, datasetOf }: KindData): FlowSettings['places'] {
  const origins = fieldOf(dataset, column)
  if (!origins) return null
  const wanted = new Set(
    Array.from({ length: Math.min(2000, dataset.rowCount) }, (_, row) => textAt(origins, row)),
  )
  let best: { found: number; places: FlowSettings['places'] } = { found: 0, places: null }
  for (const datasetId of datasetIds) {
    const other = datasetOf(datasetId)
    if (!other || !['areas', 'points'].includes(other.geometry.kind)) continue
    for (const { key, column: names } of other.fields) {
      if (names.kind === 'number') continue
      const count = countIn(names, other, wanted)
      if (count > best.found) best = { found: count, places: { datasetId, key } }
    }
  }
  return best.places
}

function countIn(
  names: Dataset['fields'][number]['column'],
  { rowCount }: Dataset,
  wanted: ReadonlySet<string | null>,
): number {
  let count = 0
  for (let row = 0; row < rowCount; row++) if (wanted.has(textAt(names, row))) count++
  return count
}

/** The value that as many flows reach as a map bears. */
function bearable(values: Float64Array, most = 150): number {
  const sorted = values.filter((value) => value > 0).sort()
  return sorted.length > most ? Number(sorted[sorted.length - most].toPrecision(2)) : 0
}

/** Flows between places, from a table of origins and destinations. */
export const flows: MapKind<FlowSettings, FlowPlan> = {
  label: 'Flow lines',
  thematic: true,
  comparesAreas: false,
  fits: 'Fit for flows',
  settings: FlowSettings,
  accepts: (data) =>
    data.dataset.geometry.kind === 'none' &&
    data.dataset.raster === undefined &&
    texts(data).length >= 2 &&
    numberFields(data).length > 0 &&
    placesFor(texts(data)[0], data) !== null,
  suggests: (data) => [
    {
      settings: flows.initial(data),
      shows: data.name,
      because: 'Each row leads from one place to another.',
      fit: 0.9,
    },
  ],
  initial: (data) => {
    const [from = '', to = ''] = texts(data)
    const field = numberFields(data)[0] ?? ''
    const column = fieldOf(data.dataset, field)
    const values = column ? numbersOf(column) : new Float64Array(0)
    const largest = values.reduce((most, value) => (value > most ? value : most), 1)
    return {
      from,
      to,
      field,
      places: placesFor(from, data),
      anchor: { value: Number(largest.toPrecision(1)), widthMm: 3 },
      leastMm: 0.1,
      graded: null,
      threshold: bearable(values),
      bend: 0.12,
      arrows: true,
      colour: { by: 'nothing', fill: '#2b5d73' },
      opacity: 0.75,
      legendValues: [],
      numbers: plainFormat(),
    }
  },
  plan: planFlows,
  shapes: null,
  marks: () => [],
  draw: drawFlows,
  legend: flowLegend,
  legendLines: null,
  sentence: flowSentence,
  classings: ({ graded }) => (graded ? [graded] : []),
  classification(plan, settings, data) {
    const { grades } = plan
    const shown = { field: settings.field, per: null, perCount: 1, numbers: settings.numbers }
    const ink = settings.colour.by === 'nothing' ? settings.colour.fill : '#777777'
    return (
      grades && {
        heading: headingOf(shown, data.fieldMeta),
        unit: unitOf(shown, data.fieldMeta),
        result: grades.classification,
        colours: grades.labels.map(() => ink),
        labels: grades.labels,
        generated: grades.generated,
        values: grades.values,
        ground: groundOf(shown, data.dataset),
        pool: null,
        mayMove: null,
      }
    )
  },
  shared: null,
  years: null,
  showField: null,
  needs: ({ places }) => (places ? [places.datasetId] : []),
  remap: (settings, data) =>
    data.dataset.fields.some(({ key }) => key === settings.field) &&
    data.dataset.fields.some(({ key }) => key === settings.from) &&
    data.dataset.fields.some(({ key }) => key === settings.to)
      ? settings
      : flows.initial(data),
  read: () => null,
  fonts: () => [],
  chip: (plan, settings) =>
    settings.colour.by === 'nothing' ? [settings.colour.fill] : plan.hues.map(({ colour }) => colour),
  caution(plan, settings, data) {
    if (!settings.places) return { words: 'No areas or points have these names.', remedies: [] }
    if (plan.unplaced) return { words: `${plan.unplaced} rows name places that are not there.`, remedies: [] }
    const column = fieldOf(data.dataset, settings.field)
    return plan.flows.length > 600 && column
      ? {
          words: `${formatNumber(plan.flows.length, 0)} lines hide each other.`,
          remedies: [
            { label: 'the 150 largest', settings: { ...settings, threshold: bearable(numbersOf(column)) } },
          ],
        }
      : null
  },
}
