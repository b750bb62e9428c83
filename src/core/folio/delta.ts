/**
 * How a value that is never changed in place came from an older one. What is the same object in both is not
 * in it: a folio in which a part was moved differs by one box.
 */
export type Delta =
  | { is: 'value'; value: unknown }
  | { is: 'object'; keys: [key: string, delta: Delta][]; gone: string[] }
  | { is: 'list'; entries: ListEntry[] }

/** One entry of a list: entry `at` of the older list as it was, or changed by a delta; or a new value. */
type ListEntry = { at: number; delta?: Delta } | { value: unknown }

type Plain = Record<string, unknown>

const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && Object.getPrototypeOf(value) === Object.prototype

/** What has changed; null where both are the same object, or the same simple value. */
export function deltaOf(before: unknown, after: unknown): Delta | null {
  if (Object.is(before, after)) return null
  if (Array.isArray(before) && Array.isArray(after)) return listDelta(before, after)
  if (isPlain(before) && isPlain(after)) return objectDelta(before, after)
  return { is: 'value', value: after }
}

function objectDelta(before: Plain, after: Plain): Delta {
  const keys = Object.keys(after).flatMap((key): [string, Delta][] => {
    if (!(key in before)) return [[key, { is: 'value', value: after[key] }]]
    const delta = deltaOf(before[key], after[key])
    return delta ? [[key, delta]] : []
  })
  return { is: 'object', keys, gone: Object.keys(before).filter((key) => !(key in after)) }
}

/** Entries are found again as the same object wherever they went, or by their `id`; others by their place. */
function listDelta(before: unknown[], after: unknown[]): Delta {
  const places = new Map(before.map((entry, at) => [entry, at]))
  const ids = new Map(
    before.flatMap((entry, at) => (isPlain(entry) && 'id' in entry ? [[entry.id, at]] : [])),
  )
  const sameLength = before.length === after.length
  const entries = after.map((value, i): ListEntry => {
    const isObject = typeof value === 'object' && value !== null
    const same = isObject ? places.get(value) : undefined
    if (same !== undefined) return { at: same }
    if (sameLength && Object.is(before[i], value)) return { at: i }
    const older = isPlain(value) && 'id' in value ? ids.get(value.id) : undefined
    const at = older ?? (sameLength && isObject ? i : undefined)
    const delta = at === undefined ? null : deltaOf(before[at], value)
    return at === undefined || !delta || delta.is === 'value' ? { value } : { at, delta }
  })
  return { is: 'list', entries }
}

/**
 * The newer value from the older one. What did not change is the same object as before.
 * @throws TypeError where the delta is not one of this value
 */
export function withDelta(before: unknown, delta: Delta): unknown {
  if (delta.is === 'value') return delta.value
  if (delta.is === 'list') {
    if (!Array.isArray(before)) throw new TypeError('A list was expected.')
    return delta.entries.map((entry) => {
      if ('value' in entry) return entry.value
      if (entry.at >= before.length) throw new TypeError('The list is shorter than it should be.')
      return entry.delta ? withDelta(before[entry.at], entry.delta) : before[entry.at]
    })
  }
  if (!isPlain(before)) throw new TypeError('An object was expected.')
  const gone = new Set(delta.gone)
  const kept = Object.entries(before).filter(([key]) => !gone.has(key))
  const changed = delta.keys.map(([key, change]) => [key, withDelta(before[key], change)])
  return Object.fromEntries([...kept, ...changed])
}
