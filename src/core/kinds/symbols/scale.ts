import type { SymbolSettings } from './spec'

/** Circles grow with this power of the value so that they look as large as they are (Flannery 1971). */
export const flannery = 0.5716

/** The power of the value that the height of a symbol follows. */
export const powerOf = ({
  scaling,
  exponent,
  shape,
}: Pick<SymbolSettings, 'scaling' | 'exponent' | 'shape'>): number => {
  if (shape === 'bar' || scaling === 'height') return 1
  return scaling === 'area' ? 0.5 : exponent
}

/**
 * The size of a symbol for a value, in millimetres: the width of a circle, square, diamond or triangle, the
 * height of a drop or bar. With an anchor of one value sizes are proportional: size = sizeMm · (value ∕
 * anchor)^power, with a power of ½ for true areas. Between two ends they are interpolated in the same power.
 * Zero has no symbol.
 */
export function sizeScale(
  settings: Pick<SymbolSettings, 'scaling' | 'exponent' | 'shape' | 'anchor' | 'leastMm'>,
  range: { least: number; largest: number } | null,
): (value: number) => number {
  const power = powerOf(settings)
  const { anchor, leastMm } = settings
  const sized = (mm: number): number => Math.max(leastMm, mm)
  if (anchor.by === 'value')
    return (value) =>
      Math.abs(value) > 0 ? sized(anchor.sizeMm * (Math.abs(value) / anchor.value) ** power) : 0
  const [low, high] = range ? [range.least ** power, range.largest ** power] : [0, 1]
  return (value) =>
    Math.abs(value) > 0
      ? sized(
          high > low
            ? anchor.smallestMm +
                ((anchor.largestMm - anchor.smallestMm) * (Math.abs(value) ** power - low)) / (high - low)
            : anchor.largestMm,
        )
      : 0
}
