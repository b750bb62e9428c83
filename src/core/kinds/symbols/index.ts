import { writeNumber } from '@/core/classify/number-format'
import type { MapKind } from '../kind'
import { yearIn } from '@/core/data/series'
import { yearsPool } from '../pool'
import { fieldYears } from '../years'
import { groundOf, headingOf, numberFields, unitOf } from '../values'
import { symbolReach } from '../marks/shapes'
import { symbolPlaces } from './places'
import { drawSymbols } from './draw'
import { symbolLegend, symbolLines } from './legend'
import { planSymbols, type SymbolPlan } from './plan'
import { firstField, firstSymbols } from './first'
import { symbolSentence } from './sentence'
import { symbolSuggestions } from './suggest'
import { SymbolSettings } from './spec'

/**
 * Symbols whose size tells an amount, on points or in areas; in classes on wish, and coloured by something
 * else.
 */
export const symbols: MapKind<SymbolSettings, SymbolPlan> = {
  label: 'Sized symbols',
  thematic: true,
  comparesAreas: false,
  fits: 'Fit for sizes',
  settings: SymbolSettings,
  // More symbols than this lie on each other wherever there are people.
  worthUpTo: 5000,
  accepts: (data) =>
    ['areas', 'points'].includes(data.dataset.geometry.kind) && numberFields(data).length > 0,
  suggests: symbolSuggestions,
  initial: (data) => firstSymbols(firstField(data), data),
  plan: planSymbols,
  shapes: null,
  marks: (plan, settings, context) =>
    symbolPlaces(plan, settings, context).map(({ feature, x, y }) => ({
      feature,
      x,
      y,
      ...symbolReach(settings.shape, plan.sizes[feature], settings.barWidthMm, settings.picture),
    })),
  draw: drawSymbols,
  legend: symbolLegend,
  legendLines: symbolLines,
  sentence: symbolSentence,
  classings: (settings) => [
    ...(settings.graded ? [settings] : []),
    ...(settings.colour.by === 'value' ? [settings.colour] : []),
  ],
  classification(plan, settings, data, which) {
    const bySize = settings.graded && which === 0
    if (bySize && plan.grades)
      return {
        heading: headingOf(settings, data.fieldMeta),
        unit: unitOf(settings, data.fieldMeta),
        result: plan.grades.classification,
        colours: plan.grades.labels.map(() => settings.fill),
        labels: plan.grades.labels,
        generated: plan.grades.generated,
        values: plan.values,
        ground: groundOf(settings, data.dataset),
        pool: yearsPool(settings, data.dataset),
        mayMove: null,
      }
    const { colour } = settings
    if (colour.by !== 'value' || !plan.hues?.classification || !plan.hues.values) return null
    return {
      heading: headingOf(colour, data.fieldMeta),
      unit: unitOf(colour, data.fieldMeta),
      result: plan.hues.classification,
      colours: plan.hues.list.map((hue) => hue.colour),
      labels: plan.hues.list.map(({ label }) => label),
      generated: plan.hues.generated,
      values: plan.hues.values,
      ground: groundOf(colour, data.dataset),
      pool: yearsPool(colour, data.dataset),
      mayMove: null,
    }
  },
  shared: null,
  years: {
    ...fieldYears,
    to(settings, data, year) {
      const next = fieldYears.to(settings, data, year)
      const { colour } = settings
      // A colour that tells of the same year goes with it.
      const along = colour.by === 'value' && yearIn(colour.field)?.year === yearIn(settings.field)?.year
      return along ? { ...next, colour: fieldYears.to(colour, data, year) } : next
    },
    together: (settings, overYears) => ({
      ...settings,
      overYears,
      colour: settings.colour.by === 'value' ? { ...settings.colour, overYears } : settings.colour,
    }),
  },
  showField: null,
  needs: () => [],
  remap(settings, data) {
    const has = (key: string | null) => key === null || data.dataset.fields.some((field) => field.key === key)
    const field = has(settings.field) ? settings.field : firstField(data)
    return {
      ...settings,
      field,
      per: has(settings.per) ? settings.per : null,
      colour:
        settings.colour.by !== 'nothing' && !has(settings.colour.field) ? { by: 'nothing' } : settings.colour,
    }
  },
  read(plan, settings, { fieldMeta }, feature) {
    const value = plan.values[feature]
    if (!Number.isFinite(value)) return { value: 'missing', detail: 'no symbol' }
    const hue = plan.hues && (plan.hues.list[plan.hues.of[feature]]?.label ?? settings.missing.label)
    return {
      value:
        `${writeNumber(value, settings.numbers, Number.isInteger(value) ? 0 : 2)} ${unitOf(settings, fieldMeta)}`.trim(),
      detail: [`${plan.sizes[feature].toFixed(2)} mm`, ...(hue ? [hue] : [])].join(' · '),
    }
  },
  fonts: () => [],
  chip: (plan, settings) => plan.hues?.list.slice(0, 6).map(({ colour }) => colour) ?? [settings.fill],
  caution: (_, settings, { fieldMeta }) => {
    const { role, label } = fieldMeta(settings.field)
    return settings.per !== null || ['rate', 'share', 'index'].includes(role)
      ? {
          words: `Sizes add up to the eye; ${role === 'total' ? 'a rate' : label.toLowerCase()} does not.`,
          remedies: [],
        }
      : null
  },
}
