import { distance } from 'fastest-levenshtein'
import { codeListOf, countryOf } from './code-lists'
import { textAt, type Column } from './column'

/** Two keys that may mean the same: why, and how alike they are, 0 to 1. */
export type NearMiss = {
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
  unmatched: number[]
  otherUnmatched: number[]
  nearMisses: NearMiss[]
  repeated: string[]
}

/** Matches rows by equal keys; `mended` maps keys of the left side to keys of the other, decided by hand. */
export function matchKeys(keys: Column, otherKeys: Column, mended: Record<string, string> = {}): Match {
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
  return {
    rows,
    matched: rows.length - unmatched.length,
    unmatched,
    otherUnmatched,
    nearMisses: nearMisses(keys, otherKeys, unmatched, otherUnmatched),
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
]

const loosest = (key: string): string => loosenings.reduce((k, [, loosen]) => loosen(k), key)

/** Words that say what a place is, not which. */
const commonWords = [
  ...['the', 'of', 'and', 'republic', 'kingdom', 'state', 'states', 'federation'],
  ...['federal', 'democratic', 'islamic', 'united', 'principality', 'grand', 'duchy', 'county'],
  ...['district', 'province', 'region', 'city', 'municipality'],
].join('|')

/** Words that names of countries and places have in one table and not in another. */
const plainWords: [RegExp, string][] = [
  [/\bst\.?(?=\s)/g, 'saint'],
  [/\bste\.?(?=\s)/g, 'sainte'],
  [/\bmt\.?(?=\s)/g, 'mount'],
  [/\bis\.(?=\s|$)/g, 'islands'],
  [/\brep\.?(?=\s|$)/g, 'republic'],
  [/\bdem\.?(?=\s|$)/g, 'democratic'],
  [/&/g, ' and '],
  [/\([^)]*\)|\[[^\]]*\]/g, ' '],
  [/[^\p{L}\p{N}]+/gu, ' '],
  [new RegExp(String.raw`\b(?:${commonWords})\b`, 'g'), ' '],
]

const plainName = (name: string): string => {
  const words = plainWords.reduce(
    (text, [what, by]) => text.replace(what, by),
    loosenings[2][1](name).toLowerCase(),
  )
  return words.split(/\s+/).filter(Boolean).sort().join(' ')
}

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
  const lists = [codeListOf(keys), codeListOf(otherKeys)]
  const [list, otherList] = lists
  const sameCountry = (code: string, of: typeof list) =>
    of && list && otherList ? countryOf(of, code) : null
  const stages: {
    own: (key: string) => string | null
    other: (key: string) => string | null
    reason: string | null
    score: number
  }[] = [
    { own: loosest, other: loosest, reason: null, score: 0.99 },
    {
      own: (key) => sameCountry(key, list),
      other: (key) => sameCountry(key, otherList),
      reason: 'codes of one country',
      score: 0.98,
    },
    { own: plainName, other: plainName, reason: 'the same but for common words', score: 0.9 },
  ]
  const found: NearMiss[] = []
  const left = new Set(unmatched)
  const otherLeft = new Set(otherUnmatched)
  for (const { own, other, reason, score } of stages) {
    const candidates = new Map<string, number[]>()
    for (const row of otherLeft) {
      const key = textAt(otherKeys, row)
      const loose = key === null ? null : other(key)
      if (loose) candidates.set(loose, [...(candidates.get(loose) ?? []), row])
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
