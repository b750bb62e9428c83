import type { Ground } from '@/core/classify/classify'
import type { NumberFormat } from '@/core/classify/number-format'
import { formatNumber } from '@/core/classify/labels'
import { numbersOf } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import { singularUnit, type FieldRole } from '@/core/data/field-meta'
import { yearIn } from '@/core/data/series'
import { groundAreas } from '@/core/geo/measure'
import { neighbourPairs } from '@/core/geo/neighbours'
import { createMemory } from '@/core/memory/memory'
import type { Caution, KindData } from './kind'

/** What a kind shows: a field, divided by another one (null: as it is), for so many of it. */
export type Shown = { field: string; per: string | null; perCount: number }

/** The ground under the areas; reckoned only where it is asked for. */
export const groundOf = ({ field, per, perCount }: Shown, dataset: Dataset): Ground => ({
  get sizes() {
    return dataset.geometry.kind === 'areas' ? groundAreas(dataset.geometry) : null
  },
  get neighbours() {
    return dataset.geometry.kind === 'areas' ? neighbourPairs(dataset.geometry) : null
  },
  get national() {
    return per === null ? null : nationalFigure(field, per, dataset) * perCount
  },
})

/** The sum of the field over the sum of its denominator, over the areas that have both. */
function nationalFigure(field: string, per: string, dataset: Dataset): number {
  const [top, bottom] = [field, per].map((key) => {
    const column = fieldOf(dataset, key)
    return column ? numbersOf(column) : new Float64Array(0)
  })
  let [a, b] = [0, 0]
  top.forEach((value, row) => {
    if (!Number.isFinite(value) || !Number.isFinite(bottom[row])) return
    a += value
    b += bottom[row]
  })
  return a / b
}

const remember = createMemory<Dataset, Float64Array>('values shown', { maxBytes: 64 * 2 ** 20 })

/**
 * The numbers that are shaded: the field, divided by the denominator where one is set. A denominator of zero
 * gives a missing value.
 */
export function valuesOf({ field, per, perCount }: Shown, dataset: Dataset): Float64Array {
  const key = JSON.stringify([field, per, perCount])
  return remember(dataset, key, () => computeValues(field, per, perCount, dataset))
}

function computeValues(field: string, per: string | null, perCount: number, dataset: Dataset): Float64Array {
  const column = fieldOf(dataset, field)
  const values = column ? numbersOf(column) : new Float64Array(dataset.rowCount).fill(NaN)
  if (per === null) return values
  const denominator = fieldOf(dataset, per)
  const divisors = denominator ? numbersOf(denominator) : new Float64Array(dataset.rowCount).fill(NaN)
  return values.map((value, row) => (divisors[row] === 0 ? NaN : (value / divisors[row]) * perCount))
}

/** How many of a denominator are written of: of people and things 1,000 and more, as it is usual, of ground 100 too. */
const perCounts = { ground: [1, 100, 1000, 10_000], things: [1, 1000, 10_000, 100_000, 1_000_000] }

/**
 * For how many of the denominator a field is best written: the least round number that makes most values one or more,
 * so that nobody has to read “0.007 per resident”.
 */
export function perCountFor(
  field: string,
  per: string,
  data: Pick<KindData, 'dataset' | 'fieldMeta'>,
): number {
  const sizes = valuesOf({ field, per, perCount: 1 }, data.dataset)
    .map(Math.abs)
    .filter((size) => size > 0 && size < Infinity)
    .sort()
  const median = sizes[sizes.length >> 1] ?? 1
  const counts = isGround(per, data) ? perCounts.ground : perCounts.things
  return counts.find((count) => median * count >= 1) ?? counts[counts.length - 1]
}

export function unitOf({ field, per, perCount }: Shown, fieldMeta: KindData['fieldMeta']): string {
  const unit = fieldMeta(field).unit
  if (per === null) return unit
  return `${unit || fieldMeta(field).label.toLowerCase()} ${perWords({ field, per, perCount }, fieldMeta)}`.trim()
}

const manyWords = { 1: '', 1000: 'thousand ', 1000000: 'million ', 1000000000: 'thousand million ' }

/** “Library loans 2025 per resident”, or the field with its unit. */
export function headingOf(
  settings: Shown & { numbers: NumberFormat },
  fieldMeta: KindData['fieldMeta'],
): string {
  const meta = fieldMeta(settings.field)
  const many = manyWords[settings.numbers.divideBy]
  if (settings.per === null) {
    const said = meta.label.toLowerCase()
    const unitSaid =
      !many && (said.includes(meta.unit.toLowerCase()) || (meta.unit === '%' && /\bper ?cent\b/.test(said)))
    const unit = meta.unit && !unitSaid ? `${many}${meta.unit}` : many.trim()
    return unit ? `${meta.label} (${unit})` : meta.label
  }
  return `${meta.label} per ${unitOf(settings, fieldMeta).split(' per ').at(-1)}`
}

/** Keeps abbreviations such as GDP as they are. */
export const lowerFirst = (label: string): string =>
  /^[A-Z][a-z]/.test(label) ? label.charAt(0).toLowerCase() + label.slice(1) : label

export const numberFields = ({ dataset }: Pick<KindData, 'dataset'>): string[] =>
  dataset.fields.filter((field) => field.column.kind === 'number').map((field) => field.key)

/**
 * Fields worth showing, the best first: rates, shares and indexes before totals. Codes, coordinates and dates measure
 * nothing; they come only where a field is needed and there is nothing else.
 */
export function worthShading(data: KindData): string[] {
  const ranked = measuring(data)
  return ranked.length ? ranked : numberFields(data)
}

/** Fields that measure something, in the same order; none where there is none. */
export function measuring(data: Pick<KindData, 'dataset' | 'fieldMeta'>): string[] {
  const rank = (key: string) => ['rate', 'share', 'index', 'total'].indexOf(data.fieldMeta(key).role)
  return numberFields(data)
    .filter((key) => rank(key) >= 0)
    .sort((a, b) => rank(a) - rank(b))
}

/** Of fields that differ by their year alone the latest; the others as they are, in their order. */
export function latestOf(keys: string[]): string[] {
  const latest = new Map<string, { key: string; year: number }>()
  for (const key of keys) {
    const found = yearIn(key)
    const before = latest.get(found?.stem ?? key)
    if (!before || (found && found.year > before.year))
      latest.set(found?.stem ?? key, { key, year: found?.year ?? 0 })
  }
  return [...latest.values()].map(({ key }) => key)
}

/** Fields of one role that are worth a map: the latest of a series, those with values, no margins of error. */
export const worthAMap = (
  { dataset, fieldMeta }: Pick<KindData, 'dataset' | 'fieldMeta'>,
  ...roles: FieldRole[]
): string[] =>
  latestOf(
    dataset.fields
      .filter(
        ({ key, column }) =>
          column.kind === 'number' &&
          roles.includes(fieldMeta(key).role) &&
          !/margin of error|\bnumber of (rows|points)\b|standard error/i.test(fieldMeta(key).label) &&
          column.values.some((value) => Number.isFinite(value) && value !== column.values[0]),
      )
      .map(({ key }) => key),
  )

/**
 * What a total is divided by in the first place, residents before households before the ground, and what others are
 * divided by itself by the ground alone; null without any.
 */
export const denominatorOf = (field: string, data: Pick<KindData, 'dataset' | 'fieldMeta'>): string | null =>
  worthAMap(data, 'total')
    .filter((key) => key !== field && denominatorRank(key, data) >= 0)
    .filter((key) => !isDenominator(field, data) || isGround(key, data))
    .sort((a, b) => denominatorRank(a, data) - denominatorRank(b, data))[0] ?? null

/** Whether others are usually divided by a field. */
export const isDenominator = (key: string, data: Pick<KindData, 'fieldMeta'>): boolean =>
  denominatorRank(key, data) >= 0

/** Whether a field is an area of ground. */
export const isGround = (key: string, data: Pick<KindData, 'fieldMeta'>): boolean =>
  denominatorRank(key, data) === denominators.length - 1

const denominatorRank = (key: string, { fieldMeta }: Pick<KindData, 'fieldMeta'>): number =>
  denominators.findIndex((words) => words.test(`${fieldMeta(key).label} ${fieldMeta(key).unit}`))

/** What a total is usually divided by, the commonest first. */
const denominators = [
  /\b(population|residents|persons|people|inhabitants)\b/i,
  /\bhouseholds\b/i,
  /\b(area|km²)/i,
]

/** The warning about a total that is shaded undivided, with what it could be divided by. */
export function totalCaution<Settings>(
  shown: Shown,
  { dataset, fieldMeta }: KindData,
  dividedBy: (per: string) => Settings,
): Caution<Settings> | null {
  const meta = fieldMeta(shown.field)
  if (shown.per !== null || meta.role !== 'total') return null
  const totals = dataset.fields.filter(
    ({ key, column }) => column.kind === 'number' && key !== shown.field && fieldMeta(key).role === 'total',
  )
  const good = (key: string) => denominatorRank(key, { fieldMeta })
  const remedies = totals
    .filter(({ key }) => good(key) >= 0)
    .sort((a, b) => good(a.key) - good(b.key))
    .slice(0, 2)
    .map(({ key }) => ({ label: `per ${singularUnit(fieldMeta(key))}`, settings: dividedBy(key) }))
  return { words: 'A total: large areas will win.', remedies }
}

/** “per resident”, “per 1,000 households”, “per resident of 2020” where the field is of another year; or “as it is”. */
export function perWords({ field, per, perCount }: Shown, fieldMeta: KindData['fieldMeta']): string {
  if (per === null) return 'as it is'
  const divisor = fieldMeta(per)
  const thing =
    perCount === 1
      ? singularUnit(divisor)
      : `${formatNumber(perCount, 0)} ${divisor.unit || divisor.label.toLowerCase()}`
  const [own, other] = [yearIn(field)?.year, yearIn(per)?.year]
  const apart = own !== undefined && other !== undefined && own !== other && !thing.includes(String(other))
  return `per ${thing}${apart ? ` of ${other}` : ''}`
}
