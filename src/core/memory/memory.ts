import { LRUCache } from 'lru-cache'
import { bytesOf } from './bytes'

/** Makes something for an owner and a key, or hands out what was made before. */
export type Memory<Owner extends object, Made> = {
  (owner: Owner, key: string, make: () => Made): Made
  /** Whether it is at hand. */
  has: (owner: Owner, key: string) => boolean
}

type Bounds = {
  /** As many bytes are kept, the least recently used going first. */
  maxBytes: number
}

type Kept = { value: unknown }

const reports = new Map<string, LRUCache<string, Kept>>()

/**
 * A memory bounded in bytes: what was made from an object, by everything else that it depends on. What is
 * larger than the bound by itself is kept alone. Objects are told apart by identity; `undefined` is kept like
 * any other value. `name` is what it goes by in `memoryInUse`.
 */
export function createMemory<Owner extends object, Made>(
  name: string,
  { maxBytes }: Bounds,
): Memory<Owner, Made> {
  const kept = new LRUCache<string, Kept>({
    maxSize: maxBytes,
    sizeCalculation: ({ value }) => Math.min(maxBytes, Math.ceil(bytesOf(value)) + entryBytes),
  })
  reports.set(name, kept)
  const place = (owner: Owner, key: string) => `${numberOf(owner)} ${key}`
  const remember = (owner: Owner, key: string, make: () => Made): Made => {
    const at = place(owner, key)
    const known = kept.get(at)
    if (known) return known.value as Made
    const value = make()
    kept.set(at, { value })
    return value
  }
  return Object.assign(remember, { has: (owner: Owner, key: string) => kept.has(place(owner, key)) })
}

/** What a key and its place in the list take up, roughly. */
const entryBytes = 200

/** What the memories made so far in this thread hold, by name; of two of one name, the later one. */
export const memoryInUse = (): { name: string; bytes: number; entries: number; maxBytes: number }[] =>
  [...reports].map(([name, { calculatedSize, size, maxSize }]) => ({
    name,
    bytes: calculatedSize,
    entries: size,
    maxBytes: maxSize,
  }))

/** What tells a list of things from others: objects by which they are, simple values by themselves. */
export const identity = (things: readonly unknown[]): string =>
  JSON.stringify(
    things.map((thing) => (typeof thing === 'object' && thing !== null ? { is: numberOf(thing) } : thing)),
  )

const numbers = new WeakMap<object, number>()
let numbered = 0

/** A number for each object, so that what was made from it can be told from what was made from others. */
export function numberOf(object: object): number {
  const known = numbers.get(object)
  if (known !== undefined) return known
  numbers.set(object, ++numbered)
  return numbered
}
