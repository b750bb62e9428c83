import { singularUnit } from '@/core/data/field-meta'
import { writeNumber } from '@/core/classify/number-format'
import { Classing, classingShape } from '@/core/classify/spec'
import type { KindData, MapKind } from '../kind'
import { drawChoropleth } from './draw'
import { choroplethLegend, headingOf } from './legend'
import { groundOf, poolOf, unitOf } from '../values'
import { planChoropleth, type ChoroplethPlan } from './plan'
import { choroplethSentence } from './sentence'
import { Colouring, colouringShape, shadeOf } from '@/core/colour/colouring'
import { ChoroplethSettings } from './spec'

const numberFields = ({ dataset }: KindData): string[] => dataset.fields.filter((field) => field.column.kind === 'number').map((field) => field.key)

/** What a total is usually divided by, the commonest first. */
const denominators = [/\b(population|residents|persons|people|inhabitants)\b/i, /\bhouseholds\b/i, /\b(area|km²)/i]

/** The first field worth shading: a rate, share or index before a total, never a code or a date. */
function firstField(data: KindData): string {
  const keys = numberFields(data)
  const rank = (key: string) => ['rate', 'share', 'index', 'total'].indexOf(data.fieldMeta(key).role)
  const ranked = keys.filter((key) => rank(key) >= 0).sort((a, b) => rank(a) - rank(b))
  return ranked[0] ?? keys[0] ?? ''
}

export const choropleth: MapKind<ChoroplethSettings, ChoroplethPlan> = {
  label: 'Choropleth',
  thematic: true,
  settings: ChoroplethSettings,
  accepts: (data) => data.dataset.geometry.kind === 'areas' && numberFields(data).length > 0,
  initial: (data) => ({
    field: firstField(data),
    per: null,
    perCount: 1,
    ...Classing.parse({ method: 'natural-breaks', classes: 5, manualBreaks: [], rounded: true }),
    ...Colouring.parse({ scheme: 'reed', reversed: false }),
    uncertainty: null,
    missing: { colour: '#a8a8a8', hatched: true, label: 'no data' },
    outline: { colour: '#ffffff', widthPt: 0.25, coastColour: '#6f7f86', coastWidthPt: 0.35 },
  }),
  plan: planChoropleth,
  draw: drawChoropleth,
  legend: choroplethLegend,
  sentence: choroplethSentence,
  classification: (plan, settings, data) =>
    plan.classification && {
      ...(plan.scale && { shadeOf: (value: number) => shadeOf(settings, plan.scale?.share(value) ?? 0) }),
      heading: headingOf(settings, data.fieldMeta), unit: unitOf(settings, data.fieldMeta), result: plan.classification, colours: plan.scale ? [plan.colours[plan.colours.length >> 1]] : plan.colours, labels: plan.scale ? [`${writeNumber(plan.classification.breaks[0], settings.numbers, plan.decimals)} to ${writeNumber(plan.classification.breaks[1], settings.numbers, plan.decimals)}`] : plan.labels, values: plan.values, ground: groundOf(settings, data.dataset), pool: poolOf(settings.share, data), mayMove: plan.mayMove },
  sharedKeys: [...Object.keys(classingShape), ...Object.keys(colouringShape), 'missing'],
  // The error of one field says nothing of another.
  showField: (settings, field) => ({ ...settings, field, uncertainty: null }),
  read(plan, settings, { fieldMeta }, feature) {
    const index = plan.classOf[feature]
    if (index === -1) return { value: 'missing', detail: 'no value' }
    const value = `${writeNumber(plan.values[feature], settings.numbers, plan.decimals + 1)} ${unitOf(settings, fieldMeta)}`.trim()
    if (index <= -3) return { value, detail: `set aside: ${settings.setAside[-3 - index].label}` }
    const total = plan.classification?.counts.length ?? 0
    const inClass = plan.scale ? '' : `class ${index + 1} of ${total} · `
    const higher = plan.values.reduce((n, v) => n + (v > plan.values[feature] ? 1 : 0), 1)
    return { value, detail: index === -2 ? 'outside all classes' : `${inClass}rank ${higher} of ${plan.values.length - plan.missingCount}` }
  },
  fonts: () => [],
  chip: (plan) => (plan.scale ? [0.05, 0.3, 0.55, 0.8, 0.99].map((share) => plan.colours[Math.floor(share * plan.colours.length)]) : plan.colours),
  caution(settings, { dataset, fieldMeta }) {
    const meta = fieldMeta(settings.field)
    if (settings.per !== null || meta.role !== 'total') return null
    const totals = dataset.fields.filter(({ key, column }) => column.kind === 'number' && key !== settings.field && fieldMeta(key).role === 'total')
    const good = (key: string) => denominators.findIndex((words) => words.test(`${fieldMeta(key).label} ${fieldMeta(key).unit}`))
    const remedies = totals.filter(({ key }) => good(key) >= 0).sort((a, b) => good(a.key) - good(b.key)).slice(0, 2).map(({ key }) => ({ label: `per ${singularUnit(fieldMeta(key))}`, settings: { ...settings, per: key } }))
    return { words: 'A total: large areas will win.', remedies }
  },
}
