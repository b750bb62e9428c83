import { z } from 'zod'
import { groundAreas, groundLengths } from '@/core/geo/measure'
import { numberColumn, numbersOf, textColumn, type Column } from '../column'
import { fieldOf, type Dataset } from '../dataset'
import type { FieldMeta, FieldRole } from '../field-meta'
import { FormulaError, formulaColumn } from '../formula'
import { freeKey, metaIn, StepProblem, type Preparing, type StepKind } from './step'

export const recipes = [
  'formula',
  'rate',
  'density',
  'share',
  'change',
  'percent change',
  'index',
  'rank',
  'z-score',
  'location quotient',
  'ranges',
  'area',
  'length',
] as const
export type Recipe = (typeof recipes)[number]

export const DeriveSettings = z.object({
  recipe: z.enum(recipes),
  /** The new field's name, as readers see it. */
  label: z.string(),
  unit: z.string(),
  formula: z.string(),
  field: z.string(),
  /** Denominator of a rate; earlier field of a change; reference of a location quotient. */
  other: z.string(),
  perCount: z.number().positive(),
  /** Upper limits and names of ranges, ascending; the last name has no limit. */
  ranges: z.array(z.object({ under: z.number().nullable(), name: z.string() })),
})
export type DeriveSettings = z.infer<typeof DeriveSettings>

const needsOther: Recipe[] = ['rate', 'change', 'percent change', 'location quotient']
const needsField: Recipe[] = [...needsOther, 'density', 'share', 'index', 'rank', 'z-score', 'ranges']

const roles: Record<Recipe, FieldRole> = {
  formula: 'index',
  rate: 'rate',
  density: 'rate',
  share: 'share',
  change: 'index',
  'percent change': 'index',
  index: 'index',
  rank: 'index',
  'z-score': 'index',
  'location quotient': 'index',
  ranges: 'category',
  area: 'total',
  length: 'total',
}

type Compute = (
  values: Float64Array,
  other: Float64Array,
  settings: DeriveSettings,
  dataset: Dataset,
) => Column

const numbers = (values: Float64Array): Column => ({ kind: 'number', values })
const present = (values: Float64Array): Float64Array => values.filter((v) => Number.isFinite(v))
const sum = (values: Float64Array): number => present(values).reduce((a, b) => a + b, 0)
const divide = (a: number, b: number): number => (b === 0 ? NaN : a / b)

const computations: Record<Exclude<Recipe, 'formula'>, Compute> = {
  rate: (values, other, { perCount }) => numbers(values.map((v, i) => divide(v, other[i]) * perCount)),
  density: (values, _, __, { geometry }) => {
    const areas = groundAreas(geometry)
    return numbers(values.map((v, i) => divide(v, areas[i] / 1e6)))
  },
  share: (values) => {
    const total = sum(values)
    return numbers(values.map((v) => divide(v, total) * 100))
  },
  change: (values, other) => numbers(values.map((v, i) => v - other[i])),
  'percent change': (values, other) => numbers(values.map((v, i) => divide(v - other[i], other[i]) * 100)),
  index: (values) => {
    const there = present(values)
    const mean = sum(values) / there.length
    return numbers(values.map((v) => divide(v, mean) * 100))
  },
  // The highest value has rank 1; equal values share the better rank.
  rank: (values) => {
    const falling = present(values).sort().reverse()
    const rank = new Map<number, number>()
    falling.forEach((v, i) => !rank.has(v) && rank.set(v, i + 1))
    return numbers(values.map((v) => rank.get(v) ?? NaN))
  },
  'z-score': (values) => {
    const there = present(values)
    const mean = sum(values) / there.length
    const deviation = Math.sqrt(there.reduce((a, v) => a + (v - mean) ** 2, 0) / there.length)
    return numbers(values.map((v) => divide(v - mean, deviation)))
  },
  // Local share of the field in its reference over the share in the whole (Isard 1960).
  'location quotient': (values, other) => {
    let [local, reference] = [0, 0]
    values.forEach((v, i) => {
      if (Number.isNaN(v) || Number.isNaN(other[i])) return
      local += v
      reference += other[i]
    })
    return numbers(values.map((v, i) => divide(divide(v, other[i]), divide(local, reference))))
  },
  ranges: (values, _, { ranges }) =>
    textColumn(
      Array.from(values, (v) =>
        Number.isNaN(v) ? null : (ranges.find(({ under }) => under === null || v < under)?.name ?? null),
      ),
    ),
  area: (_, __, ___, { geometry }) => numbers(groundAreas(geometry).map((m2) => m2 / 1e6)),
  length: (_, __, ___, { geometry }) => numbers(groundLengths(geometry).map((m) => m / 1000)),
}

/**
 * Adds a field computed from others: by a formula, or by one of the ready-made recipes of statistics and
 * geography.
 */
export const derive: StepKind<DeriveSettings> = {
  label: 'Derive',
  about: 'fields',
  settings: DeriveSettings,
  form: [
    {
      name: 'recipe',
      label: 'Field by',
      control: 'choice',
      options: [
        { value: 'formula', label: 'a formula' },
        { value: 'rate', label: 'rate: field per other field' },
        { value: 'density', label: 'density: field per km² of ground' },
        { value: 'share', label: 'share of the total' },
        { value: 'change', label: 'change since another field' },
        { value: 'percent change', label: 'change in percent' },
        { value: 'index', label: 'index, mean = 100' },
        { value: 'rank', label: 'rank, highest first' },
        { value: 'z-score', label: 'z-score' },
        { value: 'location quotient', label: 'location quotient' },
        { value: 'ranges', label: 'categories from ranges' },
        { value: 'area', label: 'area of the ground in km²' },
        { value: 'length', label: 'length on the ground in km' },
      ],
    },
    { name: 'formula', label: 'Formula', control: 'formula', when: { name: 'recipe', is: ['formula'] } },
    {
      name: 'field',
      label: 'Field',
      control: 'field',
      kind: 'number',
      when: { name: 'recipe', is: needsField },
    },
    {
      name: 'other',
      label: 'Other field',
      control: 'field',
      kind: 'number',
      when: { name: 'recipe', is: needsOther },
    },
    {
      name: 'perCount',
      label: 'For so many',
      control: 'number',
      unit: '',
      min: 1,
      step: 1,
      when: { name: 'recipe', is: ['rate'] },
    },
    { name: 'ranges', label: 'Ranges', control: 'ranges', when: { name: 'recipe', is: ['ranges'] } },
    { name: 'label', label: 'Called', control: 'text' },
    { name: 'unit', label: 'Unit', control: 'text' },
  ],
  accepts: () => true,
  initial(from) {
    const fields = from.dataset.fields.filter((f) => f.column.kind === 'number')
    return {
      recipe: 'rate',
      label: 'New field',
      unit: '',
      formula: '',
      field: fields[0]?.key ?? '',
      other: fields[1]?.key ?? '',
      perCount: 1,
      ranges: [
        { under: 0, name: 'below zero' },
        { under: null, name: 'zero and over' },
      ],
    }
  },
  needs: () => [],
  words: ({ label, recipe, formula, field, other }, name) =>
    `${label}: ${recipe === 'formula' ? formula : `${recipe}${needsField.includes(recipe) ? ` of ${name('', field)}` : ''}${needsOther.includes(recipe) ? ` and ${name('', other)}` : ''}`}`,
  apply(settings, from) {
    const { dataset } = from
    const valuesOf = (key: string): Float64Array => {
      const column = fieldOf(dataset, key)
      if (!column) throw new StepProblem(`The field “${key}” is gone. Choose another one.`)
      return numbersOf(column)
    }
    const { recipe } = settings
    if (recipe === 'density' && dataset.geometry.kind !== 'areas')
      throw new StepProblem('Only areas have a density.')
    const none = new Float64Array(dataset.rowCount).fill(NaN)
    const column =
      recipe === 'formula'
        ? byFormula(settings.formula, dataset)
        : computations[recipe](
            needsField.includes(recipe) ? valuesOf(settings.field) : none,
            needsOther.includes(recipe) ? valuesOf(settings.other) : none,
            settings,
            dataset,
          )
    const key = freeKey(dataset.fields, keyFrom(settings.label))
    const meta: FieldMeta = {
      label: settings.label,
      unit: settings.unit || unitOf(recipe),
      role: roleOf(settings, column, from),
    }
    return {
      ...from,
      dataset: { ...dataset, fields: [...dataset.fields, { key, column }] },
      origins: new Map(from.origins).set(key, { datasetId: from.datasetId, key }),
      made: new Map(from.made).set(key, meta),
    }
  },
}

/** What the new field measures: of totals that are taken from each other, the sum still makes sense. */
function roleOf({ recipe, field, other }: DeriveSettings, column: Column, from: Preparing): FieldRole {
  if (column.kind === 'text') return 'category'
  const areTotals = [field, other].every((key) => metaIn(from, key).role === 'total')
  return recipe === 'change' && areTotals ? 'total' : roles[recipe]
}

const unitOf = (recipe: Recipe): string =>
  (
    ({ share: '%', 'percent change': '%', area: 'km²', length: 'km', density: 'per km²' }) as Partial<
      Record<Recipe, string>
    >
  )[recipe] ?? ''

/** “Loans per head” becomes `loans_per_head`. */
export const keyFrom = (label: string): string =>
  label
    .trim()
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '_')
    .replace(/^_+|_+$/g, '') || 'field'

function byFormula(formula: string, dataset: Dataset): Column {
  if (!formula.trim()) return numberColumn(new Array<null>(dataset.rowCount).fill(null))
  try {
    return formulaColumn(formula, dataset)
  } catch (error) {
    throw error instanceof FormulaError ? new StepProblem(error.message) : error
  }
}
