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
 * Breaks moved to the roundest numbers that keep the classes: steps of 5, 2 and 1 times powers of ten are
 * tried from coarse to fine, and the first is taken with which no break moves by more than a quarter of the
 * narrower class beside it, breaks stay ascending inside the data, and no class that held values becomes
 * empty. The ends are left alone, so every value still falls in a class.
 */
export function roundBreaks(sorted: Float64Array, inner: number[]): number[] {
  if (!inner.length) return inner
  const [min, max] = [sorted[0], sorted[sorted.length - 1]]
  const edges = [min, ...inner, max]
  const room = inner.map((_, i) => Math.min(edges[i + 1] - edges[i], edges[i + 2] - edges[i + 1]) / 4)
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

/** The nearest multiple of `digit` × 10^`power`, without the dust of binary fractions. */
export function toStep(value: number, digit: number, power: number): number {
  const step = digit * 10 ** power
  const multiple = Math.round(value / step) * step
  return power < 0 ? Number(multiple.toFixed(-power)) : Math.round(multiple)
}
