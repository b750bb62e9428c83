import { plainFormat, writeNumber } from '@/core/classify/number-format'
import { formatNumber } from '@/core/classify/labels'
import { unordered } from '@/core/colour/schemes'
import { solid, stroke, withOpacity } from '@/core/scene/paint'
import { pointsToMm } from '@/core/scene/units'
import type { KindData, MapKind } from '../kind'
import { lowerFirst, numberFields } from '../values'
import { proposedAnchor, rangeOf } from '../marks/sizes'
import { marksAt } from '../marks/places'
import { chartReach, drawCharts } from './draw'
import { isRound, planCharts, type ChartPlan } from './plan'
import { ChartSettings } from './spec'

const totals = (data: KindData): string[] =>
  numberFields(data).filter((key) => data.fieldMeta(key).role === 'total')
const formWords = { pie: 'pies', ring: 'rings', bars: 'bars side by side', stack: 'stacked bars' } as const
export const chartFormWords = formWords

/** Charts of several fields at each place: their parts as slices or bars, their total as size. */
export const charts: MapKind<ChartSettings, ChartPlan> = {
  label: 'Charts',
  thematic: true,
  comparesAreas: false,
  fits: 'Fit for charts',
  settings: ChartSettings,
  accepts: (data) => ['areas', 'points'].includes(data.dataset.geometry.kind) && totals(data).length > 1,
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
  marks: (plan, settings, context) => marksAt(plan.order, context, (f) => chartReach(plan, settings, f)),
  draw: drawCharts,
  legend(plan, settings, { fieldMeta }) {
    const line =
      settings.outline.widthPt > 0 && settings.outline.colour.toLowerCase() !== '#ffffff'
        ? stroke(settings.outline.colour, pointsToMm(settings.outline.widthPt))
        : null
    const items = settings.parts.map(({ field, colour }) => ({
      key: `part-${field}`,
      label: fieldMeta(field).label,
      swatch: { shape: 'box' as const, fill: solid(withOpacity(colour, settings.opacity)), stroke: line },
    }))
    const unit = fieldMeta(settings.parts[0].field).unit
    const heading = isRound(settings) ? `Together${unit ? `, ${unit}` : ''}` : unit || 'Height'
    return plan.marks.length
      ? {
          heading: heading.charAt(0).toUpperCase() + heading.slice(1),
          items,
          itemsHeading: 'Parts',
          sizes: {
            shape: isRound(settings) ? 'circle' : 'bar',
            barWidthMm: settings.barWidthMm,
            form: isRound(settings) ? settings.legend.form : 'beside',
            fill: solid('#ffffff'),
            stroke: stroke('#555555', 0.15),
            marks: plan.marks.map(({ value, sizeMm }) => ({
              label: writeNumber(value, settings.numbers, plan.decimals),
              sizeMm,
            })),
          },
        }
      : { heading: 'Parts', items }
  },
  sentence: (settings, { name, fieldMeta }) => [
    { text: 'Draw ' },
    { text: formWords[settings.form], control: 'shape' },
    { text: ' for ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ' of ' },
    {
      text:
        settings.parts.length > 3
          ? `${settings.parts.length} fields`
          : settings.parts.map(({ field }) => lowerFirst(fieldMeta(field).label)).join(', '),
      control: 'field',
    },
    {
      text:
        isRound(settings) && !settings.sized
          ? ', all '
          : `, ${formatNumber(settings.anchor.value, 0)} being `,
    },
    { text: `${settings.anchor.sizeMm} mm`, control: 'size' },
    { text: isRound(settings) ? ' wide.' : ' high.' },
  ],
  classings: () => [],
  classification: () => null,
  sharedKeys: [],
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
