import isoCodes from 'i18n-iso-countries/codes.json'
import { textAt, type Column } from './column'

/** Codes of countries and regions that many tables use, by the form in which they stand. */
export type CodeList = 'ISO 3166 alpha-2' | 'ISO 3166 alpha-3' | 'ISO 3166 numeric' | 'NUTS'

const alpha2 = new Map<string, string>()
const alpha3 = new Map<string, string>()
const numeric = new Map<string, string>()
for (const [two, three, number] of isoCodes as string[][]) {
  alpha2.set(two, three)
  alpha3.set(three, three)
  numeric.set(String(Number(number)), three)
}
/** Two letters of a country, for two of them other than those of ISO 3166, then up to three of the region. */
const isNuts = (code: string): boolean =>
  /^[A-Z]{2}[0-9A-Z]{1,3}$/.test(code) &&
  /\d/.test(code) &&
  (alpha2.has(code.slice(0, 2)) || /^(EL|UK)/.test(code))

const lists: Record<Exclude<CodeList, 'NUTS'>, (code: string) => string | null> = {
  'ISO 3166 alpha-2': (code) => alpha2.get(code.toUpperCase()) ?? null,
  'ISO 3166 alpha-3': (code) => alpha3.get(code.toUpperCase()) ?? null,
  'ISO 3166 numeric': (code) => (/^\d{1,3}$/.test(code) ? (numeric.get(String(Number(code))) ?? null) : null),
}

/** At least this share of the different values must be codes of a list, and as many of them at least. */
const [leastShare, leastCodes] = [0.8, 4]
/** The same for numbers below 500. */
const [leastShareSmall, leastSmall] = [0.95, 20]

/** The list that a column's values are codes of; null where they are of none. */
export function codeListOf(column: Column): CodeList | null {
  const words = new Set<string>()
  const rows = column.kind === 'number' ? column.values.length : column.codes.length
  for (let row = 0; row < rows && words.size < 2000; row++) {
    const word = textAt(column, row)
    if (word !== null) words.add(word.trim())
  }
  if (words.size < leastCodes) return null
  const share = (is: (word: string) => boolean) => [...words].filter(is).length / words.size
  for (const [list, of] of Object.entries(lists) as [CodeList, (code: string) => string | null][]) {
    // About half of all small numbers are codes: by chance where they are few, hardly where they are many.
    const isSmall =
      list === 'ISO 3166 numeric' && column.kind === 'number' && Math.max(...[...words].map(Number)) < 500
    if (isSmall && words.size < leastSmall) continue
    if (share((word) => of(word) !== null) >= (isSmall ? leastShareSmall : leastShare)) return list
  }
  return share(isNuts) >= leastShare ? 'NUTS' : null
}

/** The three letters that a code of a list stands for; null where it is none of them. */
export const countryOf = (list: CodeList, code: string): string | null =>
  list === 'NUTS' ? null : lists[list](code.trim())
