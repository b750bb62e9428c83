import { decimalsFor } from '@/core/classify/labels'
/** Least and largest of the absolute values over zero; null where there are none. */
export function rangeOf(values: Float64Array): { least: number; largest: number } | null {
  let [least, largest] = [Infinity, 0]
  for (const value of values) {
    const size = Math.abs(value)
    if (!(size > 0) || !Number.isFinite(size)) continue
    if (size < least) least = size
    if (size > largest) largest = size
  }
  return largest > 0 ? { least, largest } : null
}

/** A neighbour in a legend is at most this much of the next larger size, so that they are told apart. */
const apart = 0.68

/** Round values (1, 2, 5 × 10ᵐ) within a range for the legend, the largest first, at most `most` of them. */
export function roundMarks(
  { least, largest }: { least: number; largest: number },
  sizeOf: (value: number) => number,
  most = 4,
): number[] {
  const top = Math.floor(Math.log10(largest))
  const steps = Array.from(
    { length: 3 * 12 },
    (_, i) => [5, 2, 1][i % 3] * 10 ** (top - Math.floor(i / 3)),
  ).map((v) => Number(v.toPrecision(1)))
  const marks: number[] = []
  for (const value of steps) {
    if (value > largest || value < least || marks.length === most) continue
    if (!marks.length || sizeOf(value) <= apart * sizeOf(marks[marks.length - 1])) marks.push(value)
  }
  // All values may lie between two round ones.
  return marks.length ? marks : [Number(largest.toPrecision(2))]
}

/** The values of a legend, the largest first: those that were typed, or round ones within the range. */
export const legendMarks = (
  typed: readonly number[],
  range: { least: number; largest: number } | null,
  sizeOf: (value: number) => number,
  most?: number,
): number[] => {
  if (typed.length) return [...typed].sort((a, b) => b - a)
  return range ? roundMarks(range, sizeOf, most) : []
}

/**
 * A round value and a size for it with which the largest mark is about `largestMm` large, sizes following a
 * power of the value.
 */
export function proposedAnchor(
  power: number,
  { largest }: { largest: number },
  largestMm: number,
): { by: 'value'; value: number; sizeMm: number } {
  const magnitude = 10 ** Math.floor(Math.log10(largest))
  const value = Number(([5, 2, 1].find((step) => step * magnitude <= largest) ?? 1) * magnitude)
  return {
    by: 'value',
    value: Number(value.toPrecision(1)),
    sizeMm: Number((largestMm * (value / largest) ** power).toFixed(2)),
  }
}

/** As many decimals as the values of a size legend need, once they are divided for writing; six at the most. */
export const decimalsOfMarks = (values: readonly number[], divideBy: number): number =>
  Math.min(6, Math.max(0, ...values.map((value) => decimalsFor([value / divideBy]))))
