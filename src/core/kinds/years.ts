import type { Dataset } from '@/core/data/dataset'
import { seriesOf, yearIn } from '@/core/data/series'
import type { KindData, SentencePart, Years } from './kind'
import { lowerFirst, valuesOf, type Shown } from './values'

type InYears = Pick<Shown, 'field' | 'per'> & { overYears: boolean | null }

/** Null where the field is not one year of a series. */
export function yearsOf(
  { field, overYears }: InYears,
  { dataset, fieldMeta }: Pick<KindData, 'dataset' | 'fieldMeta'>,
): Years | null {
  const series = seriesOf(dataset.fields, field)
  const year = yearIn(field)?.year
  if (!series || year === undefined) return null
  return { label: withoutYear(fieldMeta(field).label, year), year, years: series.years, together: overYears }
}

/** “Library loans 2025” and “Loans (2025)” without their year. */
const withoutYear = (label: string, year: number): string =>
  label
    .replace(new RegExp(`[\\s,]*\\(?\\b(in )?${year}\\b\\)?`), '')
    .replace(/^[\s,:]+/, '')
    .trim() || label

/**
 * What is shown, in another year; nothing changes where the series has none. A denominator that tells of the same
 * year moves along as far as its own series reaches.
 */
export function inYear<S extends Pick<Shown, 'field' | 'per'>>(
  shown: S,
  { fields }: Pick<Dataset, 'fields'>,
  year: number,
): S {
  const key = seriesOf(fields, shown.field)?.years.find((one) => one.year === year)?.key
  if (key === undefined) return shown
  const { per } = shown
  const moves = per !== null && yearIn(per)?.year === yearIn(shown.field)?.year
  const perKey = moves ? seriesOf(fields, per)?.years.find((one) => one.year === year)?.key : undefined
  return { ...shown, field: key, per: perKey ?? per }
}

/** What a kind with `field` and `per` says of its years, and how it shows another one. */
export const fieldYears = {
  of: yearsOf,
  to: <S extends InYears>(settings: S, { dataset }: Pick<KindData, 'dataset'>, year: number): S => ({
    ...inYear(settings, dataset, year),
    // Whoever steps through years compares them: classes stay, unless somebody wants it otherwise.
    overYears: settings.overYears ?? true,
  }),
  together: <S extends InYears>(settings: S, overYears: boolean): S => ({ ...settings, overYears }),
  valuesOf: ({ field, per, perCount }: Shown, { dataset }: Pick<KindData, 'dataset'>, feature: number) =>
    (seriesOf(dataset.fields, field)?.years ?? []).map(({ year }) => ({
      year,
      value: valuesOf(inYear({ field, per, perCount }, dataset, year), dataset)[feature],
    })),
}

/** The words for a field in a sentence: its name, and its year apart where it has one. */
export function fieldWords(settings: InYears, data: KindData): SentencePart[] {
  const years = yearsOf(settings, data)
  if (!years) return [{ text: lowerFirst(data.fieldMeta(settings.field).label), control: 'field' }]
  return [
    { text: lowerFirst(years.label), control: 'field' },
    { text: ' in ' },
    { text: String(years.year), control: 'year' },
  ]
}

/** “over all years” behind the words for classes, where they are made so. */
export const overYearsWords = (settings: InYears, data: KindData): SentencePart[] =>
  settings.overYears && yearsOf(settings, data) ? [{ text: ' over all years' }] : []
