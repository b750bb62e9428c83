import type { Dataset } from '@/core/data/dataset'
import { seriesOf, yearIn, type Series } from '@/core/data/series'
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
 * What is shown, in another year; nothing changes where the series has none. A denominator that goes with the year goes
 * along, as near to it as its own series has one; so the same year gives the same, from whichever year one comes.
 */
export function inYear<S extends Pick<Shown, 'field' | 'per'>>(
  shown: S,
  { fields }: Pick<Dataset, 'fields'>,
  year: number,
): S {
  const key = seriesOf(fields, shown.field)?.years.find((one) => one.year === year)?.key
  const now = yearIn(shown.field)?.year
  if (key === undefined || now === undefined) return shown
  const { per } = shown
  const others = per === null ? null : seriesOf(fields, per)
  // One that is not the nearest was chosen to stay.
  const goesAlong = others !== null && nearestTo(others, now) === per
  return { ...shown, field: key, per: goesAlong ? nearestTo(others, year) : per }
}

/** The key of the year of a series that is nearest to another one, the later of two. */
const nearestTo = ({ years }: Series, year: number): string =>
  years.reduce((best, one) => (Math.abs(one.year - year) <= Math.abs(best.year - year) ? one : best)).key

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
