import type { Field } from './dataset'

/** Fields that tell the same of several years, in their order. */
export type Series = { label: string; years: { year: number; key: string }[] }

/** What a key is without its year, and the year; null where it has none or several. */
export function yearIn(key: string): { stem: string; year: number } | null {
  const found = [...key.matchAll(/(?<!\d)(1[6-9]\d\d|20\d\d|21\d\d)(?!\d)/g)]
  if (found.length !== 1) return null
  const [match] = found
  const stem = `${key.slice(0, match.index)}\u0000${key.slice(match.index + 4)}`
  return { stem, year: Number(match[0]) }
}

/**
 * The series that a field is one year of: all fields of numbers whose keys differ by the year alone. Null where there
 * are not two of them.
 */
export function seriesOf(fields: Field[], key: string): Series | null {
  const own = yearIn(key)
  const years = own && yearsBy(fields).get(own.stem)
  if (!years || years.length < 2 || !years.some((one) => one.key === key)) return null
  const label = own.stem
    .replace('\u0000', ' ')
    .replace(/[_\s]+/g, ' ')
    .replace(/[\s,;(]+$/, '')
    .trim()
  return { label, years }
}

const known = new WeakMap<Field[], Map<string, Series['years']>>()

/** The years of all series among fields, in order, by what their keys are without the year. */
function yearsBy(fields: Field[]): Map<string, Series['years']> {
  const before = known.get(fields)
  if (before) return before
  const series = new Map<string, Series['years']>()
  for (const { key, column } of fields) {
    const found = column.kind === 'number' ? yearIn(key) : null
    if (found) series.set(found.stem, [...(series.get(found.stem) ?? []), { year: found.year, key }])
  }
  for (const years of series.values()) years.sort((a, b) => a.year - b.year)
  known.set(fields, series)
  return series
}
