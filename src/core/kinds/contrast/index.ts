import { methods } from '@/core/classify/classify'
import { decimalsFor, formatNumber, numberWord } from '@/core/classify/labels'
import { writeNumber } from '@/core/classify/number-format'
import { firstClassing } from '@/core/classify/spec'
import { Colouring } from '@/core/colour/colouring'
import { stroke } from '@/core/scene/paint'
import { pointsToMm } from '@/core/scene/units'
import type { KindData, LegendEntry, LegendItem, MapKind, SentencePart } from '../kind'
import { headingOf, lowerFirst, numberFields, perWords, unitOf, valuesOf, worthShading } from '../values'
import { fieldYears } from '../years'
import { drawContrast } from './draw'
import { classWidthPt, planContrast, type ContrastPlan } from './plan'
import { ContrastSettings, type Contrast } from './spec'

export const contrastLabels: Record<Contrast, string> = {
  difference: 'difference',
  ratio: 'ratio',
  relative: 'relative difference',
}

const unitOfContrast = (settings: ContrastSettings, fieldMeta: KindData['fieldMeta']): string =>
  ({ difference: unitOf(settings, fieldMeta), ratio: 'times', relative: '%' })[settings.contrast]

const heading = (settings: ContrastSettings, { fieldMeta }: Pick<KindData, 'fieldMeta'>): string => {
  const what = headingOf(settings, fieldMeta)
  return settings.contrast === 'difference'
    ? `Difference: ${what}`
    : `${settings.contrast === 'ratio' ? 'Ratio' : 'Relative difference'}: ${fieldMeta(settings.field).label}`
}

/** How different neighbours are. */
export const contrast: MapKind<ContrastSettings, ContrastPlan> = {
  label: 'Border contrast',
  thematic: true,
  comparesAreas: false,
  fits: 'Fit for where neighbours differ',
  settings: ContrastSettings,
  accepts: (data) =>
    data.dataset.geometry.kind === 'areas' && data.dataset.rowCount > 1 && numberFields(data).length > 0,
  initial: (data) => ({
    field: worthShading(data)[0] ?? '',
    per: null,
    perCount: 1,
    contrast: 'difference',
    width: 'proportional',
    widestPt: 5,
    least: null,
    oneSided: false,
    colour: '#5a2230',
    coloured: false,
    ...firstClassing(4),
    ...Colouring.parse({ scheme: 'ember', reversed: false, trim: [0.3, 1] }),
    ownColours: {},
  }),
  plan: planContrast,
  shapes: null,
  marks: () => [],
  draw: drawContrast,
  legend: contrastLegend,
  legendLines: null,
  sentence: contrastSentence,
  classings: (settings) => [settings],
  classification: (plan, settings, data) =>
    plan.classification && {
      heading: heading(settings, data),
      unit: unitOfContrast(settings, data.fieldMeta),
      result: plan.classification,
      colours: plan.colours,
      labels: plan.labels,
      generated: plan.generated,
      values: plan.values.filter((value) => Number.isFinite(value)),
      things: ['border', 'borders'],
      ground: { sizes: null, neighbours: null },
      pool: null,
      mayMove: null,
    },
  shared: null,
  years: {
    ...fieldYears,
    valuesOf: (settings, data, feature) => fieldYears.valuesOf(settings, data, feature),
  },
  showField: (settings, field) => ({ ...settings, field }),
  needs: () => [],
  remap: (settings, data) => {
    const has = (key: string | null) => key === null || data.dataset.fields.some((field) => field.key === key)
    return {
      ...settings,
      field: has(settings.field) ? settings.field : (worthShading(data)[0] ?? ''),
      per: has(settings.per) ? settings.per : null,
    }
  },
  read(_, settings, { dataset, fieldMeta }, feature) {
    const value = valuesOf(settings, dataset)[feature]
    const written = writeNumber(value, settings.numbers, decimalsFor([value]))
    return Number.isFinite(value)
      ? { value: `${written} ${unitOf(settings, fieldMeta)}`.trim(), detail: '' }
      : { value: 'missing', detail: 'no value' }
  },
  fonts: () => [],
  chip: (plan) => (plan.colours.length ? [...new Set(plan.colours)] : ['#9a9a9a']),
  caution(plan, settings) {
    if (plan.undefinedRatio)
      return {
        words: `${formatNumber(plan.undefinedRatio, 0)} borders have no line: a ratio needs values above zero.`,
        remedies: [{ label: 'the difference', settings: { ...settings, contrast: 'difference' } }],
      }
    if (!plan.low.length) return { words: 'No two areas share a border.', remedies: [] }
    return null
  },
}

/** Lines of the classes, or of round values where widths are in proportion. */
function contrastLegend(plan: ContrastPlan, settings: ContrastSettings, data: KindData): LegendEntry {
  const count = plan.classification?.counts.length ?? 0
  const swatch = (colour: string, widthPt: number): LegendItem['swatch'] => ({
    shape: 'line',
    fill: null,
    stroke: stroke(colour, pointsToMm(Math.max(0.1, widthPt))),
  })
  if (settings.width === 'classes')
    return {
      heading: heading(settings, data),
      items: plan.labels.map((label, i) => ({
        key: `class-${i}`,
        label,
        swatch: swatch(plan.colours[i], classWidthPt(i, count, settings)),
      })),
    }
  const from = settings.contrast === 'ratio' ? 1 : 0
  const marks = [1, 0.5, 0.2].map((share) =>
    Math.min(plan.largest, Number((from + (plan.largest - from) * share).toPrecision(2))),
  )
  const decimals = Math.max(0, Math.min(6, 1 - Math.floor(Math.log10(plan.largest || 1))))
  return {
    heading: heading(settings, data),
    items: [...new Set(marks)].map((value, i) => ({
      key: `width-${i}`,
      label: writeNumber(value, settings.numbers, decimals),
      swatch: swatch(
        plan.colours.at(-1 - i) ?? settings.colour,
        settings.widestPt * ((value - from) / (plan.largest - from || 1)),
      ),
    })),
  }
}

/** “Borders of districts by the difference of loans per resident, as lines in proportion.” */
function contrastSentence(settings: ContrastSettings, { name, fieldMeta }: KindData): SentencePart[] {
  const count = settings.method === 'manual' ? settings.manualBreaks.length + 1 : settings.classes
  return [
    { text: 'Borders of ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ' by the ' },
    { text: contrastLabels[settings.contrast], control: 'size' },
    { text: ' of ' },
    { text: lowerFirst(fieldMeta(settings.field).label), control: 'field' },
    { text: ' ' },
    { text: perWords(settings, fieldMeta), control: 'per' },
    ...(settings.width === 'classes'
      ? [
          { text: ', in ' },
          { text: numberWord(count), control: 'classes' as const },
          { text: ' classes by ' },
          { text: methods[settings.method].label, control: 'method' as const },
        ]
      : [{ text: ', ' }, { text: 'in proportion', control: 'shape' as const }]),
    { text: '.' },
  ]
}
