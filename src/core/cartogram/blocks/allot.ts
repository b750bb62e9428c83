import { blockArea } from '../block-grid'

/**
 * Whole numbers in proportion to amounts, with a given sum, by largest remainders (Hamilton 1792). Whatever is worth
 * half of one or more gets one.
 * @param amounts not above zero gets none
 * @param total the sum, a whole number
 * @returns they add up to `total` wherever some amount is above zero
 */
export function allotted(amounts: ArrayLike<number>, total: number): Int32Array {
  // Against the largest, so that no sum is larger than any number.
  const largest = Array.from(amounts).reduce((most, value) => (value > most ? value : most), 0)
  const shares = Array.from(amounts, (value) => (value > 0 ? value / largest : 0))
  const sum = shares.reduce((all, share) => all + share, 0)
  const out = new Int32Array(amounts.length)
  if (!(sum > 0)) return out
  const quotas = shares.map((share) => (share / sum) * total)
  quotas.forEach((quota, i) => (out[i] = quota >= 0.5 ? Math.max(1, Math.floor(quota)) : 0))
  let left = total - out.reduce((all, n) => all + n, 0)
  // The largest remainder first; of equal ones that of the larger amount, then of the one named first.
  const order = quotas
    .map((quota, i) => ({ i, rest: quota - out[i], quota }))
    .filter(({ quota }) => quota > 0)
    .sort((a, b) => b.rest - a.rest || b.quota - a.quota || a.i - b.i)
  for (let k = 0; left > 0; k = (k + 1) % order.length, left--) out[order[k].i]++
  // Ones for the small may be more than there is: whoever has most beyond its share gives one back.
  for (; left < 0; left++) {
    const several = order.filter(({ i }) => out[i] > 1)
    const over = (several.length ? several : order.filter(({ i }) => out[i] > 0)).reduce((a, b) =>
      out[b.i] - quotas[b.i] > out[a.i] - quotas[a.i] - 1e-12 ? b : a,
    )
    out[over.i]--
  }
  return out
}

/** Values that are easily reckoned with in the head: 1, 2, 2.5 and 5 times a power of ten. */
const easy = [1, 2, 2.5, 5, 10]

/** The easy value that is nearest to another one, by their ratio. */
export function roundValue(value: number): number {
  if (!(value > 0) || !Number.isFinite(value)) return NaN
  const exponent = Math.floor(Math.log10(value))
  // A negative power of ten is no exact number, its inverse is.
  const at = (digit: number): number => (exponent < 0 ? digit / 10 ** -exponent : digit * 10 ** exponent)
  return easy
    .map(at)
    .reduce((best, one) => (Math.abs(Math.log(one / value)) < Math.abs(Math.log(best / value)) ? one : best))
}

/** How much of a page is filled, loosely, as a rule, and tightly. */
export const fillings = { loose: 1 / 4, normal: 1 / 3, tight: 1 / 2 } as const

/** What the page holds, and what a block is worth for it. */
export type BlockSums = {
  /** Blocks that the page has room for. */
  onPage: number
  /** What one would stand for if the wished share of them were filled. */
  exact: number
  /** The same as an easy number. */
  rounded: number
  /** Blocks that there are with the value that was chosen, and the share of the page that they fill. */
  blocks: number
  filled: number
}

/**
 * The sums of a block cartogram.
 * @param page width and height, mm
 * @param sideMm the side of a block
 * @param share how much of the page is to be filled, 0 to 1
 * @param total the sum of what is shown
 * @param value what a block stands for
 */
export function blockSums(
  page: { width: number; height: number },
  {
    shape,
    sideMm,
    share,
    total,
    value,
  }: {
    shape: Parameters<typeof blockArea>[0]
    sideMm: number
    share: number
    total: number
    value: number
  },
): BlockSums {
  const onPage = Math.floor((page.width * page.height) / blockArea(shape, sideMm) + 1e-9)
  const exact = total / Math.max(1, share * onPage)
  const blocks = value > 0 ? Math.round(total / value) : 0
  return { onPage, exact, rounded: roundValue(exact), blocks, filled: onPage > 0 ? blocks / onPage : 0 }
}
