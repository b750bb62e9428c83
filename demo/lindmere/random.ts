/** A stream of numbers in [0, 1) that is the same for the same seed (Mulberry32). */
export type Random = () => number

export function seededRandom(seed: number): Random {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), state | 1)
    t = (t + Math.imul(t ^ (t >>> 7), t | 61)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

/** A normally distributed number (Box and Muller 1958). */
export const normal = (random: Random): number =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())

export const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)]

/** A number in [0, 1) that depends on two whole numbers alone. */
export const hash = (a: number, b: number): number =>
  seededRandom(Math.imul(a, 73856093) ^ Math.imul(b, 19349663))()
