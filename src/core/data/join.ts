import { textAt, type Column } from './column'

export type NearMiss = { row: number; otherRow: number; value: string; otherValue: string; reason: string }

/**
 * How two key columns meet. Rows are numbered from 0.
 * - `rows[i]`: the row of the other table that belongs to row `i`, or −1.
 * - `unmatched` / `otherUnmatched`: rows of either side that found no partner.
 * - `nearMisses`: pairs of such rows whose keys differ only in case, blanks, leading zeros or accents.
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

function nearMisses(
  keys: Column,
  otherKeys: Column,
  unmatched: number[],
  otherUnmatched: number[],
): NearMiss[] {
  const candidates = new Map<string, number[]>()
  for (const row of otherUnmatched) {
    const key = textAt(otherKeys, row)
    if (key !== null) candidates.set(loosest(key), [...(candidates.get(loosest(key)) ?? []), row])
  }
  return unmatched.flatMap((row) => {
    const value = textAt(keys, row)
    const alike = value === null ? undefined : candidates.get(loosest(value))
    if (value === null || alike?.length !== 1) return []
    const [otherRow] = alike
    const otherValue = textAt(otherKeys, otherRow) ?? ''
    return [{ row, otherRow, value, otherValue, reason: reasonFor(value, otherValue) }]
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
      if (field.column.kind !== other.column.kind) continue
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
  return a.kind === 'text' ? shared : shared / 4
}
