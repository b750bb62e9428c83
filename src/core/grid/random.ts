export type Random = () => number

/** Numbers from 0 to below 1, the same for the same seeds (mulberry32 by T. Ettinger, 2017, public domain). */
export function randomFrom(...seeds: number[]): Random {
  let state = seeds.reduce(
    (all, seed) => Math.imul(all ^ (seed + 0x9e3779b9), 0x85ebca6b) ^ (all >>> 13),
    0x1b873593,
  )
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}
