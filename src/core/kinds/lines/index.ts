import { plainFormat, writeNumber } from '@/core/classify/number-format'
import { firstClassing } from '@/core/classify/spec'
import { Colouring } from '@/core/colour/colouring'
import type { KindData, MapKind } from '../kind'
import { rangeOf } from '../marks/sizes'
import { groundOf, headingOf, numberFields, unitOf, valuesOf, worthAMap } from '../values'
import { drawLines } from './draw'
import { lineLegend, lineLines } from './legend'
import { planLines, type LinePlan } from './plan'
import { lineSentence } from './sentence'
import { LineSettings } from './spec'

export const widthBy = (
  field: string,
  data: Pick<KindData, 'dataset'>,
): NonNullable<LineSettings['width']> => ({
  field,
  value: Number(
    (rangeOf(valuesOf({ field, per: null, perCount: 1 }, data.dataset))?.largest ?? 1).toPrecision(1),
  ),
  widthMm: 3,
  leastMm: 0.1,
})
export const colourBy = (field: string): NonNullable<LineSettings['colour']> => ({
  field,
  per: null,
  perCount: 1,
  ...firstClassing(4),
  colouring: Colouring.parse({ scheme: 'ember', reversed: false, trim: [0.2, 1] }),
})

/** Lines by a value: as width, as colour, or one as each. */
export const lines: MapKind<LineSettings, LinePlan> = {
  label: 'Lines by value',
  thematic: true,
  comparesAreas: false,
  fits: 'Fit for lines',
  settings: LineSettings,
  accepts: (data) => data.dataset.geometry.kind === 'lines' && numberFields(data).length > 0,
  suggests: (data) =>
    worthAMap(data, 'total', 'rate', 'share', 'index')
      .slice(0, 3)
      .map((field) => ({
        settings: { ...lines.initial(data), width: widthBy(field, data) },
        shows: data.fieldMeta(field).label,
        because: 'Broader lines carry more.',
        fit: 0.85,
      })),
  initial: (data) => ({
    width: widthBy(
      worthAMap(data, 'total', 'rate', 'share', 'index')[0] ?? numberFields(data)[0] ?? '',
      data,
    ),
    colour: null,
    plainWidthMm: 0.6,
    plainColour: '#2b5d73',
    dashed: false,
    casing: null,
    shadow: null,
    over: [],
    offsetMm: 0,
    missing: { colour: '#a8a8a8', label: 'no data' },
    opacity: 1,
    ends: 'round',
    legendValues: [],
    numbers: plainFormat(),
  }),
  plan: planLines,
  shapes: null,
  marks: () => [],
  draw: drawLines,
  legend: lineLegend,
  legendLines: lineLines,
  sentence: lineSentence,
  classings: ({ colour }) => (colour ? [colour] : []),
  classification: (plan, { colour }, data) =>
    colour && plan.classification && plan.values
      ? {
          heading: headingOf(colour, data.fieldMeta),
          unit: unitOf(colour, data.fieldMeta),
          result: plan.classification,
          colours: plan.colours,
          labels: plan.labels,
          generated: plan.generated,
          values: plan.values,
          ground: groundOf(colour, data.dataset),
          pool: null,
          mayMove: null,
        }
      : null,
  shared: null,
  years: null,
  showField: null,
  needs: () => [],
  remap(settings, data) {
    const has = (field: string) => data.dataset.fields.some(({ key }) => key === field)
    return {
      ...settings,
      width: settings.width && has(settings.width.field) ? settings.width : null,
      colour: settings.colour && has(settings.colour.field) ? settings.colour : null,
    }
  },
  read(plan, settings, { fieldMeta }, feature) {
    const { width, colour } = settings
    const amount = width ? `${plan.widths[feature].toFixed(2)} mm wide` : ''
    return {
      value:
        colour && plan.values
          ? `${writeNumber(plan.values[feature], colour.numbers, 2)} ${unitOf(colour, fieldMeta)}`.trim()
          : amount,
      detail: plan.labels[plan.classOf[feature]] ?? '',
    }
  },
  fonts: () => [],
  chip: (plan) => plan.colours,
  caution: () => null,
}
