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

/** A damaged file, and what was done to it. The same seed damages the same file in the same way. */
export function mutated(bytes: Uint8Array, seed: number): { bytes: Uint8Array; how: string } {
  const chance = chanceOf(seed)
  const names = Object.keys(mutations)
  const how = names[chance.below(names.length)]
  const isArchive = bytes[0] === 0x50 && bytes[1] === 0x4b
  if (isArchive && chance.yes(0.7))
    return { bytes: withinArchive(bytes, mutations[how], chance), how: `${how} within the archive` }
  return { bytes: mutations[how](bytes, chance), how }
}
