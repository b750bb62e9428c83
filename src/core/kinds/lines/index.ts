import { formatNumber } from '@/core/classify/labels'
import { plainFormat, writeNumber } from '@/core/classify/number-format'
import { Classing } from '@/core/classify/spec'
import { Colouring, colouringLabel } from '@/core/colour/colouring'
import { stroke, withOpacity } from '@/core/scene/paint'
import type { KindData, LegendItem, MapKind } from '../kind'
import { rangeOf } from '../marks/sizes'
import { groundOf, headingOf, lowerFirst, numberFields, unitOf, valuesOf } from '../values'
import { drawLines } from './draw'
import { planLines, type LinePlan } from './plan'
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
  ...Classing.parse({ method: 'natural-breaks', classes: 4, manualBreaks: [], rounded: true }),
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
  initial: (data) => ({
    width: widthBy(numberFields(data)[0] ?? '', data),
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
  marks: () => [],
  draw: drawLines,
  legend(plan, settings, { fieldMeta }) {
    const line = (colour: string, widthMm: number): LegendItem['swatch'] => ({
      shape: 'line',
      fill: null,
      stroke: stroke(withOpacity(colour, settings.opacity), widthMm, {
        dashMm: settings.dashed ? [1.6, 1.1] : [],
      }),
    })
    const { width, colour } = settings
    const widths = plan.marks.map(({ value, widthMm }, i): LegendItem => ({
      key: `width-${i}`,
      label: writeNumber(value, settings.numbers, plan.decimals),
      swatch: line(colour ? '#777777' : settings.plainColour, widthMm),
    }))
    const classes = plan.labels.map((label, i): LegendItem => ({
      key: `hue-${i}`,
      label:
        width && i === 0
          ? `${label} ${unitOf(colour ?? { field: '', per: null, perCount: 1 }, fieldMeta)}`.trim()
          : label,
      apart: i === 0 && widths.length > 0,
      swatch: line(plan.colours[i], width ? 1 : settings.plainWidthMm),
    }))
    const missing: LegendItem[] =
      colour && plan.missing
        ? [
            {
              key: 'missing',
              apart: true,
              label: settings.missing.label,
              swatch: line(settings.missing.colour, width ? 1 : settings.plainWidthMm),
            },
          ]
        : []
    const shown = width ? { field: width.field, per: null, perCount: 1, numbers: settings.numbers } : colour
    return { heading: shown ? headingOf(shown, fieldMeta) : '', items: [...widths, ...classes, ...missing] }
  },
  sentence: (settings, { name, fieldMeta }) => [
    { text: 'Draw ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ', their width ' },
    {
      text: settings.width ? `by ${lowerFirst(fieldMeta(settings.width.field).label)}` : 'alike',
      control: 'field',
    },
    ...(settings.width
      ? [
          { text: ', ' },
          {
            text: `${formatNumber(settings.width.value, 0)} being ${settings.width.widthMm} mm`,
            control: 'size' as const,
          },
        ]
      : []),
    { text: ', coloured ' },
    {
      text: settings.colour ? `by ${lowerFirst(fieldMeta(settings.colour.field).label)}` : 'alike',
      control: 'colour-by',
    },
    ...(settings.colour
      ? [{ text: ', ' }, { text: colouringLabel(settings.colour.colouring), control: 'colours' as const }]
      : []),
    { text: '.' },
  ],
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
  sharedKeys: [],
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
