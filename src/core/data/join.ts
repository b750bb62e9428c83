import { distance } from 'fastest-levenshtein'
import { codeListOf, countryOf } from './code-lists'
import { countryNamed } from './country-names'
import { plainName } from './plain-name'
import { textAt, type Column } from './column'

/**
 * Ways in which keys that are not equal may mean the same, each taken or left as a whole: the same but for zeros,
 * blanks, case, accents, punctuation or a beginning that all of them have; one code or name of a country for another;
 * the same but for words such as *Republic of*.
 */
export const looseMatches = ['loose', 'codes', 'words'] as const
export type LooseMatch = (typeof looseMatches)[number]

/** Two keys that may mean the same: in which way (`alike` is judged pair by pair), why, and how alike, 0 to 1. */
export type NearMiss = {
  kind: LooseMatch | 'alike'
  row: number
  otherRow: number
  value: string
  otherValue: string
  reason: string
  score: number
}

/**
 * How two key columns meet. Rows are numbered from 0.
 * - `rows[i]`: the row of the other table that belongs to row `i`, or −1.
 * - `unmatched` / `otherUnmatched`: rows of either side that found no partner.
 * - `nearMisses`: pairs of such rows whose keys differ little: in case, blanks, leading zeros or accents, in words
 *   such as *Republic of* or *St.*, by being codes of the same country, or by a few letters; the likeliest first.
 * - `repeated`: keys that stand in several rows of the other table; the first of these rows is used.
 */
export type Match = {
  rows: Int32Array
  matched: number
  /** How many of the matched rows were so in each of the ways that are accepted. */
  byKind: Record<LooseMatch, number>
  unmatched: number[]
  otherUnmatched: number[]
  nearMisses: NearMiss[]
  repeated: string[]
}

/**
 * Matches rows by equal keys; `mended` maps keys of the left side to keys of the other, decided by hand, and `accepts`
 * are the ways in which keys that differ count as the same.
 */
export function matchKeys(
  keys: Column,
  otherKeys: Column,
  mended: Record<string, string> = {},
  accepts: readonly LooseMatch[] = [],
): Match {
  const otherCount = lengthOf(otherKeys)
  const index = new Map<string, number>()
  const repeated = new Set<string>()
  for (let row = 0; row < otherCount; row++) {
    const key = textAt(otherKeys, row)
    if (key === null) continue
    if (index.has(key)) repeated.add(key)
    else index.set(key, row)
  }
  const used = new Set<number>()
  const unmatched: number[] = []
  const rows = Int32Array.from({ length: lengthOf(keys) }, (_, row) => {
    const key = textAt(keys, row)
    const otherRow = key === null ? undefined : index.get(mended[key] ?? key)
    if (otherRow === undefined) unmatched.push(row)
    else used.add(otherRow)
    return otherRow ?? -1
  })
  const otherUnmatched: number[] = []
  for (let row = 0; row < otherCount; row++) {
    const key = textAt(otherKeys, row)
    if (!used.has(row) && !(key !== null && repeated.has(key))) otherUnmatched.push(row)
  }
  const near = nearMisses(keys, otherKeys, unmatched, otherUnmatched)
  const accepted = near.filter(({ kind }) => kind !== 'alike' && accepts.includes(kind))
  for (const { row, otherRow } of accepted) rows[row] = otherRow
  const [found, otherFound] = [
    new Set(accepted.map(({ row }) => row)),
    new Set(accepted.map(({ otherRow }) => otherRow)),
  ]
  const left = unmatched.filter((row) => !found.has(row))
  const byKind = { loose: 0, codes: 0, words: 0 }
  for (const { kind } of accepted) byKind[kind as LooseMatch]++
  return {
    rows,
    matched: rows.length - left.length,
    byKind,
    unmatched: left,
    otherUnmatched: otherUnmatched.filter((row) => !otherFound.has(row)),
    nearMisses: near.filter((one) => !accepted.includes(one)),
    repeated: [...repeated],
  }
}

const lengthOf = (column: Column): number =>
  column.kind === 'number' ? column.values.length : column.codes.length

const loosenings: [string, (key: string) => string][] = [
  ['blanks', (key) => key.replace(/\s+/g, '')],
  ['case', (key) => key.toLowerCase()],
  ['accents', (key) => key.normalize('NFD').replace(/[\u0300-\u036f]/g, '')],
  ['leading zeros', (key) => key.replace(/(^|[^0-9])0+(?=[0-9])/g, '$1')],
  ['punctuation', (key) => key.replace(/[^\p{L}\p{N}]+/gu, '')],
]

/** A key in the form in which it is looked for where it is not found as it stands. */
export const loosest = (key: string): string => loosenings.reduce((k, [, loosen]) => loosen(k), key)

/**
 * What all keys of a column begin with, up to the last sign of it that is no figure: a land before its districts, the
 * sort of a code. Nothing where there are too few keys to tell.
 */
export function beginningOf(column: Column): string {
  const words = column.kind === 'text' ? column.dictionary : []
  if (words.length < 3) return ''
  let shared = words[0]
  for (const word of words) {
    let length = 0
    while (length < shared.length && word[length] === shared[length]) length++
    shared = shared.slice(0, length)
    if (!shared) return ''
  }
  return /^.*[^0-9]/s.exec(shared)?.[0] ?? ''
}

/** A key without the beginning that all of its column have, and loose. */
export function bareForm(column: Column): (key: string) => string {
  const beginning = beginningOf(column)
  return (key) => loosest(beginning && key.startsWith(beginning) ? key.slice(beginning.length) : key)
}

/** The country that a key names, by a code or in words; null for columns that name none. */
export function countryForm(column: Column): ((key: string) => string | null) | null {
  const list = codeListOf(column)
  if (list && list !== 'NUTS') return (key) => countryOf(list, key)
  if (column.kind !== 'text') return null
  const known = column.dictionary.filter((word) => countryNamed(word) !== null).length
  if (known < leastCountries || known < shareOfCountries * column.dictionary.length) return null
  return (key) => {
    const code = countryNamed(key)
    return code && countryOf('ISO 3166 alpha-2', code)
  }
}

/** So many words, and such a share of all, must be names of countries for a column to be one of countries. */
const [leastCountries, shareOfCountries] = [4, 0.4]

/** Names are compared letter by letter where no more than this many are left over on either side. */
const mostCompared = 800
/** At least so alike are names that are proposed for each other. */
const leastAlike = 0.75

function nearMisses(
  keys: Column,
  otherKeys: Column,
  unmatched: number[],
  otherUnmatched: number[],
): NearMiss[] {
  if (!unmatched.length || !otherUnmatched.length) return []
  const [ownCountry, otherCountry] = [countryForm(keys), countryForm(otherKeys)]
  const stages: {
    kind: LooseMatch
    own: (key: string) => string | null
    other: (key: string) => string | null
    reason: string | null
    score: number
  }[] = [
    { kind: 'loose', own: loosest, other: loosest, reason: null, score: 0.99 },
    { kind: 'loose', own: bareForm(keys), other: bareForm(otherKeys), reason: null, score: 0.99 },
    ...(ownCountry && otherCountry
      ? [
          {
            kind: 'codes' as const,
            own: ownCountry,
            other: otherCountry,
            reason: 'codes or names of one country',
            score: 0.98,
          },
        ]
      : []),
    { kind: 'words', own: plainName, other: plainName, reason: 'the same but for common words', score: 0.9 },
  ]
  const found: NearMiss[] = []
  const left = new Set(unmatched)
  const otherLeft = new Set(otherUnmatched)
  for (const { kind, own, other, reason, score } of stages) {
    const candidates = new Map<string, number[]>()
    for (const row of otherLeft) {
      const key = textAt(otherKeys, row)
      const loose = key === null ? null : other(key)
      if (loose) {
        const list = candidates.get(loose)
        if (list) list.push(row)
        else candidates.set(loose, [row])
      }
    }
    for (const row of left) {
      const value = textAt(keys, row)
      const loose = value === null ? null : own(value)
      const alike = loose ? candidates.get(loose) : undefined
      // What could be meant in two ways is not proposed, nor in a looser way.
      if (alike && alike.length > 1) left.delete(row)
      if (value === null || alike?.length !== 1 || !otherLeft.has(alike[0])) continue
      const otherValue = textAt(otherKeys, alike[0]) ?? ''
      found.push({
        kind,
        row,
        otherRow: alike[0],
        value,
        otherValue,
        reason: reason ?? reasonFor(value, otherValue),
        score,
      })
      left.delete(row)
      otherLeft.delete(alike[0])
    }
  }
  return [...found, ...misspelt(keys, otherKeys, [...left], [...otherLeft])]
}

/** Names of at least five letters that differ in few of them, each with the one that is likest, both ways. */
function misspelt(keys: Column, otherKeys: Column, rows: number[], otherRows: number[]): NearMiss[] {
  if (rows.length > mostCompared || otherRows.length > mostCompared) return []
  const named = (column: Column, list: number[]) =>
    list.flatMap((row) => {
      const value = textAt(column, row)
      const plain = value === null ? '' : plainName(value)
      // Codes that differ in a figure are different codes.
      return value !== null && plain.length >= 5 && !/\d/.test(plain) ? [{ row, value, plain }] : []
    })
  const [own, others] = [named(keys, rows), named(otherKeys, otherRows)]
  const alike = (a: string, b: string) => 1 - distance(a, b) / Math.max(a.length, b.length)
  const pairs = own
    .flatMap((a) => others.map((b) => ({ a, b, score: alike(a.plain, b.plain) })))
    .filter(({ score }) => score >= leastAlike)
    .sort((x, y) => y.score - x.score)
  const clear = ({ a, b, score }: (typeof pairs)[number]) =>
    !pairs.some((one) => one.score > score - 0.06 && (one.a === a) !== (one.b === b))
  return pairs.filter(clear).flatMap(({ a, b, score }): NearMiss[] => {
    return [
      {
        kind: 'alike',
        row: a.row,
        otherRow: b.row,
        value: a.value,
        otherValue: b.value,
        reason: 'similar spelling',
        score: Math.min(0.89, score),
      },
    ]
  })
}

const reasonFor = (a: string, b: string): string => {
  const single = loosenings.filter(([, loosen]) => loosen(a) === loosen(b)).map(([name]) => name)
  return single.length ? single[0] : 'several small differences'
}

/** The pair of fields with the most equal keys, as a first proposal for a join. */
export function proposeKeys(
  fields: { key: string; column: Column }[],
  others: { key: string; column: Column }[],
): { key: string; otherKey: string } | null {
  let best: { key: string; otherKey: string } | null = null
  let most = 0
  for (const field of fields)
    for (const other of others) {
      const score = sharedKeys(field.column, other.column)
      if (score > most) [best, most] = [{ key: field.key, otherKey: other.key }, score]
    }
  return best
}

function sharedKeys(a: Column, b: Column): number {
  const set = new Set<string>()
  for (let row = 0; row < lengthOf(b); row++) set.add(textAt(b, row) ?? '')
  set.delete('')
  if (set.size < lengthOf(b) * 0.8) return 0
  let shared = 0
  for (let row = 0; row < lengthOf(a); row++) if (set.has(textAt(a, row) ?? '')) shared++
  // Numbers often agree by chance (years, small counts); text rarely does.
  return a.kind === 'text' || b.kind === 'text' ? shared : shared / 4
}
