import { placeOf } from './break-method'

/** Values smaller than this power of ten are as good as zero to whoever reads a map. */
const finestPower = -100

/** How many classes have the same values in them may change by rounding; an empty class may not appear. */
const occupied = (sorted: Float64Array, inner: number[]): number => {
  let filled = 0
  let from = 0
  for (const limit of [...inner, Infinity]) {
    let to = from
    while (to < sorted.length && sorted[to] < limit) to++
    if (to > from) filled++
    from = to
  }
  return filled
}

/**
 * Breaks moved to the roundest numbers that keep the classes. First each break for itself goes to the roundest
 * number that leaves every value in its class. Where none is round enough, all go to multiples of one step: 5, 2 and
 * 1 times powers of ten are tried from coarse to fine, and the first is taken with which breaks stay ascending inside
 * the data and no class that held values becomes empty. No break moves by more than a quarter of the narrower class
 * beside it. The ends are left alone, so every value still falls in a class.
 * @param inclusive which class a value on a break belongs to, that of which it is the lower or the upper limit
 */
export function roundBreaks(
  sorted: Float64Array,
  inner: number[],
  inclusive: 'lower' | 'upper' = 'lower',
): number[] {
  if (!inner.length) return inner
  const [min, max] = [sorted[0], sorted[sorted.length - 1]]
  const edges = [min, ...inner, max]
  const room = inner.map((_, i) => Math.min(edges[i + 1] - edges[i], edges[i + 2] - edges[i + 1]) / 4)
  const kept = inner.map((b, i) =>
    roundestBetween(b, { ...gapAround(sorted, b, inclusive), room: room[i] }, (max - min) / 1000),
  )
  if (kept.every((b, i) => b !== null && b > min && b < max && (i === 0 || b > (kept[i - 1] ?? b))))
    return kept as number[]
  const before = occupied(sorted, inner)
  const highest = Math.ceil(Math.log10(Math.max(Math.abs(min), Math.abs(max), max - min)))
  for (let power = highest; power > Math.max(highest - 16, finestPower); power--) {
    for (const digit of [5, 2, 1]) {
      const rounded = inner.map((b) => toStep(b, digit, power))
      const fits = rounded.every(
        (b, i) => Math.abs(b - inner[i]) <= room[i] && b > min && b < max && (i === 0 || b > rounded[i - 1]),
      )
      if (fits && occupied(sorted, rounded) === before) return rounded
    }
  }
  return inner
}

type Gap = { low: number; high: number; lowIn: boolean; highIn: boolean }

/** The stretch in which a break may lie without a value changing its class. */
function gapAround(sorted: Float64Array, b: number, inclusive: 'lower' | 'upper'): Gap {
  let at = placeOf(sorted, b)
  if (inclusive === 'upper') while (at < sorted.length && sorted[at] === b) at++
  return {
    low: at > 0 ? sorted[at - 1] : -Infinity,
    high: at < sorted.length ? sorted[at] : Infinity,
    lowIn: inclusive === 'upper',
    highIn: inclusive === 'lower',
  }
}

/** The roundest number in a gap, near a break; null where only numbers finer than `least` would do. */
function roundestBetween(
  b: number,
  { low, high, lowIn, highIn, room }: Gap & { room: number },
  least: number,
): number | null {
  const highest = Math.ceil(Math.log10(Math.max(Math.abs(b), room)))
  for (let power = highest; power > Math.max(highest - 16, finestPower); power--)
    for (const digit of [5, 2, 1]) {
      const step = digit * 10 ** power
      if (step < least) return null
      const near = Math.round(b / step)
      for (const k of [near, near - 1, near + 1]) {
        const value = toStep(k * step, digit, power)
        const inside =
          (value > low || (lowIn && value === low)) && (value < high || (highIn && value === high))
        if (inside && Math.abs(value - b) <= room) return value
      }
    }
  return null
}

/** The nearest multiple of `digit` × 10^`power`, without the dust of binary fractions. */
export function toStep(value: number, digit: number, power: number): number {
  const step = digit * 10 ** power
  const multiple = Math.round(value / step) * step
  return power < 0 ? Number(multiple.toFixed(-power)) : Math.round(multiple)
}
