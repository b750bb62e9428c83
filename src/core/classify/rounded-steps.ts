import type { BreakMethod } from './break-method'

const digits = [1, 2, 2.5, 5]

/**
 * Breaks at multiples of one round number: 1, 2, 2½ or 5 times a power of ten, whichever gives a number of
 * classes nearest to that asked for and not above it. A step that was chosen is taken as it is, as long as
 * the number of classes stays within what can be told apart.
 */
export const roundedSteps: BreakMethod = (_, classes, { low, high, step }) => {
  const at = (width: number): number[] => {
    const breaks: number[] = []
    // Multiples that a number cannot tell apart are no breaks.
    const first = Math.floor(low / width) + 1
    if (!Number.isSafeInteger(2 * first) || width < finest) return breaks
    for (let k = first; breaks.length <= mostBreaks && k * width < high; k++)
      if (k * width > low) breaks.push(Number((k * width).toPrecision(15)))
    return breaks
  }
  const finest = 8 * Number.EPSILON * Math.max(Math.abs(low), Math.abs(high))
  if (step !== null && step > 0 && (high - low) / step < mostBreaks) return at(step)
  const power = Math.floor(Math.log10((high - low) / classes))
  const widths = [power - 1, power, power + 1, power + 2].flatMap((p) =>
    digits.map((digit) => digit * 10 ** p),
  )
  const candidates = widths.map(at).filter((breaks) => breaks.length > 0 && breaks.length < classes)
  return candidates.reduce<number[]>((best, breaks) => (breaks.length > best.length ? breaks : best), [])
}

const mostBreaks = 40
