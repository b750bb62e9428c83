/**
 * How many dots stand for values, one for each `each`: whole numbers that add up to what the sum of all values is
 * worth, rounded, the rest going to those that lost most in rounding (the method of largest remainders). Values that
 * are not above zero get none.
 */
export function dotCounts(values: ArrayLike<number>, each: number): Uint32Array {
  const counts = new Uint32Array(values.length)
  const rests: { at: number; rest: number }[] = []
  let sum = 0
  let given = 0
  for (let i = 0; i < values.length; i++) {
    if (!(values[i] > 0)) continue
    const exact = values[i] / each
    counts[i] = Math.floor(exact + 1e-9)
    given += counts[i]
    sum += exact
    rests.push({ at: i, rest: exact - counts[i] })
  }
  const wanted = Math.round(sum) - given
  rests.sort((a, b) => b.rest - a.rest || a.at - b.at)
  for (const { at } of rests.slice(0, Math.max(0, wanted))) counts[at]++
  return counts
}

/** So many dots on a map are many enough to show how they lie, and few enough to be seen. */
const aimedAt = 6000

/** A round value of a dot (1, 2 or 5 times a power of ten) that gives some thousands of dots; 1 for no total. */
export function proposedValue(total: number, dots = aimedAt): number {
  if (!(total > 0)) return 1
  const raw = total / dots
  const power = 10 ** Math.floor(Math.log10(raw))
  const step = [1, 2, 5, 10].find((one) => one * power >= raw * 0.999) ?? 10
  return Number((step * power).toPrecision(1)) || step * power
}

/**
 * How closed the map is where `perKm2` dots of a size stand: 0 for no dots, 1 where as many stand on the paper as can
 * without lying over each other (an even net of triangles), more where they must overlap.
 */
export function closeness(
  perKm2: number,
  { sizeMm, scaleDenominator }: { sizeMm: number; scaleDenominator: number },
): number {
  const perMm2 = perKm2 * (scaleDenominator / 1e6) ** 2
  return perMm2 * (Math.sqrt(3) / 2) * sizeMm ** 2
}

/** The nearest round value of a dot (1, 2 or 5 times a power of ten) at which the map just begins to close up. */
export function closingValue(each: number, closed: number): number {
  const raw = each * closed
  if (!(raw > 0)) return each
  const power = 10 ** Math.floor(Math.log10(raw))
  const near = [1, 2, 5, 10].map((step) => step * power)
  return near.reduce((best, one) =>
    Math.abs(Math.log(one / raw)) < Math.abs(Math.log(best / raw)) ? one : best,
  )
}
