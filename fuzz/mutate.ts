import { unzipSync, zipSync } from 'fflate'

/** A source of numbers that gives the same ones for the same seed (mulberry32). */
export type Chance = { below: (n: number) => number; yes: (share: number) => boolean }

export function chanceOf(seed: number): Chance {
  let state = seed >>> 0
  const next = (): number => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296
  }
  return { below: (n) => Math.floor(next() * n), yes: (share) => next() < share }
}

type Mutation = (bytes: Uint8Array, chance: Chance) => Uint8Array

const copyWith = (bytes: Uint8Array, change: (copy: Uint8Array) => void): Uint8Array => {
  const copy = Uint8Array.from(bytes)
  change(copy)
  return copy
}

const extremes = [0, 1, 0x7fffffff, 0x80000000, 0xffffffff, 0xfffffffe, 65_535, 1_000_000_000]

const mutations: Record<string, Mutation> = {
  'bits turned': (bytes, chance) =>
    copyWith(bytes, (copy) => {
      for (let i = 0; i <= chance.below(8); i++) copy[chance.below(copy.length)] ^= 1 << chance.below(8)
    }),
  'bytes overwritten': (bytes, chance) =>
    copyWith(bytes, (copy) => {
      for (let i = 0; i <= chance.below(16); i++) copy[chance.below(copy.length)] = chance.below(256)
    }),
  'numbers made extreme': (bytes, chance) =>
    copyWith(bytes, (copy) => {
      const view = new DataView(copy.buffer)
      for (let i = 0; i <= chance.below(3); i++) {
        const at = 4 * chance.below(Math.max(1, Math.floor(copy.length / 4) - 1))
        view.setUint32(at, extremes[chance.below(extremes.length)], chance.yes(0.7))
      }
    }),
  'cut off': (bytes, chance) => bytes.slice(0, 1 + chance.below(bytes.length - 1)),
  'a piece taken out': (bytes, chance) => {
    const from = chance.below(bytes.length)
    const to = Math.min(bytes.length, from + 1 + chance.below(64))
    return Uint8Array.from([...bytes.subarray(0, from), ...bytes.subarray(to)])
  },
  'a piece doubled': (bytes, chance) => {
    const from = chance.below(bytes.length)
    const to = Math.min(bytes.length, from + 1 + chance.below(64))
    return Uint8Array.from([...bytes.subarray(0, to), ...bytes.subarray(from)])
  },
  'noise put in': (bytes, chance) => {
    const at = chance.below(bytes.length)
    const noise = Array.from({ length: 1 + chance.below(32) }, () => chance.below(256))
    return Uint8Array.from([...bytes.subarray(0, at), ...noise, ...bytes.subarray(at)])
  },
  'the beginning damaged': (bytes, chance) =>
    copyWith(bytes, (copy) => {
      for (let i = 0; i <= chance.below(6); i++)
        copy[chance.below(Math.min(200, copy.length))] = chance.below(256)
    }),
}

/** An archive of which one file is damaged and packed again, so that its check sums fit. */
function withinArchive(bytes: Uint8Array, mutation: Mutation, chance: Chance): Uint8Array {
  const files = unzipSync(bytes)
  const names = Object.keys(files).filter((name) => files[name].length > 1)
  const name = names[chance.below(names.length)]
  return zipSync({ ...files, [name]: mutation(files[name], chance) })
}

type Json = null | boolean | number | string | Json[] | { [key: string]: Json }

const strange: Json[] = [
  ...[null, true, false, 0, -1, 0.5, 1e308, -1e308, 5e-324, 9_007_199_254_740_993, 1e9],
  ...['', 'x', '\u0000', '__proto__', '\ud800', 'x'.repeat(5000), '#zzzzzz', '../..', '1e999'],
  ...[[], {}, [null], [[]], { kind: 'none' }, [1, 2], [[0, 0]]],
]

type Place = { holder: Json[] | { [key: string]: Json }; key: string | number }
const valueAt = ({ holder, key }: Place): Json => (holder as Record<string | number, Json>)[key] ?? null

/** A value with a few of the values in it changed, taken out, doubled, or put where another one was. */
function withinJson(value: Json, chance: Chance): Json {
  const places: Place[] = []
  const look = (one: Json): void => {
    if (typeof one !== 'object' || one === null) return
    for (const key of Array.isArray(one) ? one.keys() : Object.keys(one)) {
      places.push({ holder: one, key })
      look((one as Record<string | number, Json>)[key])
    }
  }
  look(value)
  for (let i = 0; i <= chance.below(4) && places.length; i++) {
    const { holder, key } = places[chance.below(places.length)]
    const inside = holder as Record<string | number, Json>
    const other = places[chance.below(places.length)]
    const way = chance.below(12)
    const like = strange.filter((one) => typeof one === typeof inside[key])
    if (way === 0 && Array.isArray(holder)) holder.splice(Number(key), 1)
    else if (way === 0) delete inside[key]
    else if (way === 1 && Array.isArray(holder)) holder.push(structuredClone(inside[key]))
    else if (way === 2) inside[key] = structuredClone(valueAt(other))
    else if (way === 3) inside[key] = strange[chance.below(strange.length)]
    // Most often a value of the same sort, which a schema may let pass.
    else if (way < 8 && like.length) inside[key] = like[chance.below(like.length)]
    else if (typeof inside[key] === 'number')
      inside[key] = inside[key] * [0, -1, 0.001, 10, 1000][chance.below(5)]
    else {
      const same = places.filter((place) => typeof valueAt(place) === typeof inside[key])
      // What was taken out before is like nothing.
      if (same.length) inside[key] = structuredClone(valueAt(same[chance.below(same.length)]))
    }
  }
  return value
}

function damagedJson(bytes: Uint8Array, chance: Chance): Uint8Array {
  const value = JSON.parse(new TextDecoder().decode(bytes)) as Json
  return new TextEncoder().encode(JSON.stringify(withinJson(value, chance)))
}

/** Numbers somewhere in settings, made absurd: far larger, far smaller, the other way round, none. */
function absurdSettings(bytes: Uint8Array, chance: Chance): Uint8Array {
  const value = JSON.parse(new TextDecoder().decode(bytes)) as Json
  const places: Place[] = []
  const look = (one: Json, inSettings: boolean): void => {
    if (typeof one !== 'object' || one === null) return
    for (const key of Array.isArray(one) ? one.keys() : Object.keys(one)) {
      const place = { holder: one, key }
      const inside = valueAt(place)
      if (inSettings && typeof inside === 'number') places.push(place)
      // Rows are no settings.
      if (key !== 'contents') look(inside, inSettings || key === 'settings')
    }
  }
  look(value, false)
  for (let i = 0; i <= chance.below(3) && places.length; i++) {
    const place = places[chance.below(places.length)]
    const factor = [0, -1, 1e-6, 1e-3, 0.1, 10, 1e3, 1e6][chance.below(8)]
    ;(place.holder as Record<string | number, Json>)[place.key] = Number(valueAt(place)) * factor
  }
  return new TextEncoder().encode(JSON.stringify(value))
}

/** A damaged file, and what was done to it. The same seed damages the same file in the same way. */
export function mutated(
  { bytes, json = false, settings = false }: { bytes: Uint8Array; json?: boolean; settings?: boolean },
  seed: number,
): { bytes: Uint8Array; how: string } {
  const chance = chanceOf(seed)
  if (settings) return { bytes: absurdSettings(bytes, chance), how: 'absurd settings' }
  if (json && chance.yes(0.7)) return { bytes: damagedJson(bytes, chance), how: 'values changed' }
  const names = Object.keys(mutations)
  const how = names[chance.below(names.length)]
  const isArchive = bytes[0] === 0x50 && bytes[1] === 0x4b
  if (isArchive && chance.yes(0.7))
    return { bytes: withinArchive(bytes, mutations[how], chance), how: `${how} within the archive` }
  return { bytes: mutations[how](bytes, chance), how }
}
