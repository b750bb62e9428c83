import type { SymbolSettings } from './spec'

/** Circles grow with this power of the value so that they look as large as they are (Flannery 1971). */
export const flannery = 0.5716

/** The power of the value that the height of a symbol follows. */
export const powerOf = ({ scaling, exponent, shape }: Pick<SymbolSettings, 'scaling' | 'exponent' | 'shape'>): number => (shape === 'bar' || scaling === 'height' ? 1 : scaling === 'area' ? 0.5 : exponent)

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

/**
 * The size of a symbol for a value, in millimetres: the width of a circle, square, diamond or triangle, the height of
 * a drop or bar. With an anchor of one value sizes are proportional: size = sizeMm · (value ∕ anchor)^power, with a
 * power of ½ for true areas. Between two ends they are interpolated in the same power. Zero has no symbol.
 */
export function sizeScale(settings: Pick<SymbolSettings, 'scaling' | 'exponent' | 'shape' | 'anchor' | 'leastMm'>, range: { least: number; largest: number } | null): (value: number) => number {
  const power = powerOf(settings)
  const { anchor, leastMm } = settings
  const sized = (mm: number): number => Math.max(leastMm, mm)
  if (anchor.by === 'value') return (value) => (Math.abs(value) > 0 ? sized(anchor.sizeMm * (Math.abs(value) / anchor.value) ** power) : 0)
  const [low, high] = range ? [range.least ** power, range.largest ** power] : [0, 1]
  return (value) => (Math.abs(value) > 0 ? sized(high > low ? anchor.smallestMm + ((anchor.largestMm - anchor.smallestMm) * (Math.abs(value) ** power - low)) / (high - low) : anchor.largestMm) : 0)
}

/** A neighbour in a legend is at most this much of the next larger size, so that they are told apart. */
const apart = 0.68

/** Round values (1, 2, 5 × 10ᵐ) within a range for the legend, the largest first, at most `most` of them. */
export function roundMarks({ least, largest }: { least: number; largest: number }, sizeOf: (value: number) => number, most = 4): number[] {
  const top = Math.floor(Math.log10(largest))
  const steps = Array.from({ length: 3 * 12 }, (_, i) => [5, 2, 1][i % 3] * 10 ** (top - Math.floor(i / 3))).map((v) => Number(v.toPrecision(1)))
  const marks: number[] = []
  for (const value of steps) {
    if (value > largest || value < least || marks.length === most) continue
    if (!marks.length || sizeOf(value) <= apart * sizeOf(marks[marks.length - 1])) marks.push(value)
  }
  // All values may lie between two round ones.
  return marks.length ? marks : [Number(largest.toPrecision(2))]
}

/** A round value and a size for it with which the largest symbol is about `largestMm` wide. */
export function proposedAnchor(settings: Pick<SymbolSettings, 'scaling' | 'exponent' | 'shape'>, { largest }: { largest: number }, largestMm: number): { by: 'value'; value: number; sizeMm: number } {
  const magnitude = 10 ** Math.floor(Math.log10(largest))
  const value = Number(([5, 2, 1].find((step) => step * magnitude <= largest) ?? 1) * magnitude)
  return { by: 'value', value: Number(value.toPrecision(1)), sizeMm: Number((largestMm * (value / largest) ** powerOf(settings)).toFixed(2)) }
}
