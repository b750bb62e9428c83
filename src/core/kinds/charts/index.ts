import { plainFormat, writeNumber } from '@/core/classify/number-format'
import { unordered } from '@/core/colour/schemes'
import type { KindData, MapKind } from '../kind'
import { marksAt } from '../marks/places'
import { proposedAnchor, rangeOf } from '../marks/sizes'
import { numberFields, worthAMap } from '../values'
import { chartReach, drawCharts } from './draw'
import { chartLegend } from './legend'
import { isRound, planCharts, type ChartPlan } from './plan'
import { chartSentence } from './sentence'
import { ChartSettings } from './spec'

const totals = (data: KindData): string[] =>
  numberFields(data).filter((key) => data.fieldMeta(key).role === 'total')

/** Charts of several fields at each place: their parts as slices or bars, their total as size. */
export const charts: MapKind<ChartSettings, ChartPlan> = {
  label: 'Charts',
  thematic: true,
  comparesAreas: false,
  fits: 'Fit for charts',
  settings: ChartSettings,
  accepts: (data) => ['areas', 'points'].includes(data.dataset.geometry.kind) && totals(data).length > 1,
  suggests(data) {
    const keys = worthAMap(data, 'total')
    const unit = (key: string) => data.fieldMeta(key).unit
    // Parts of a whole are counted in the same unit.
    const alike = keys.filter((key) => unit(key) !== '' && unit(key) === unit(keys[0]))
    if (alike.length < 2 || data.dataset.rowCount > 60) return []
    const settings = charts.initial(data)
    return [
      {
        settings,
        shows: settings.parts.map(({ field }) => data.fieldMeta(field).label).join(', '),
        because: 'Several totals of one unit side by side.',
        fit: 0.45,
      },
    ]
  },
  initial: (data) => {
    const parts = totals(data)
      .slice(0, 3)
      .map((field, i) => ({ field, colour: unordered.orchard.colours[i] }))
    const settings: ChartSettings = {
      form: 'pie',
      parts,
      sized: true,
      anchor: { value: 1, sizeMm: 10 },
      leastMm: 1.5,
      hole: 0.5,
      barWidthMm: 1.6,
      opacity: 1,
      outline: { colour: '#ffffff', widthPt: 0.3 },
      legend: { form: 'nested', values: [] },
      numbers: plainFormat(),
    }
    const range = rangeOf(planCharts(settings, data).totals)
    if (!range) return settings
    const { value, sizeMm } = proposedAnchor(0.5, range, 12)
    return { ...settings, anchor: { value, sizeMm } }
  },
  plan: planCharts,
  shapes: null,
  marks: (plan, settings, context) => marksAt(plan.order, context, (f) => chartReach(plan, settings, f)),
  draw: drawCharts,
  legend: chartLegend,
  legendLines: null,
  sentence: chartSentence,
  classings: () => [],
  classification: () => null,
  shared: null,
  years: null,
  showField: null,
  needs: () => [],
  remap: (settings, data) =>
    settings.parts.every(({ field }) => data.dataset.fields.some(({ key }) => key === field))
      ? settings
      : charts.initial(data),
  read: (plan, settings, { fieldMeta }, feature) => ({
    value: writeNumber(plan.totals[feature], settings.numbers, 0),
    detail: settings.parts
      .map(
        ({ field }, i) =>
          `${fieldMeta(field).label} ${plan.totals[feature] > 0 ? ((100 * plan.values[i][feature]) / plan.totals[feature]).toFixed(0) : 0} %`,
      )
      .join(' · '),
  }),
  fonts: () => [],
  chip: (_, { parts }) => parts.map(({ colour }) => colour),
  caution(_, settings, { fieldMeta }) {
    const rates = settings.parts.filter(({ field }) =>
      ['rate', 'share', 'index'].includes(fieldMeta(field).role),
    )
    if (rates.length && isRound(settings))
      return {
        words: 'Rates do not add up to a whole; bars do not ask them to.',
        remedies: [{ label: 'bars', settings: { ...settings, form: 'bars' } }],
      }
    return settings.parts.length > 6 ? { words: 'More than six parts are hard to read.', remedies: [] } : null
  },
}
