import { classify, type MethodId } from '@/core/classify/classify'
import { decimalsFor } from '@/core/classify/labels'
import type { Raster } from '@/core/data/raster'
import { sampleOf } from '../cell-classes/counted'
import type { TintStop } from './spec'
import { hexOfInk, tinter, type Ink } from './tints'

/**
 * Stops at the lower ends of classes of a band's heights, each with the colour that the tints before had at its share
 * of the way from their lowest to their highest stop. Null where the band has no heights.
 */
export function stopsByClasses(
  raster: Raster,
  { band, method, classes }: { band: number; method: MethodId; classes: number },
  before: readonly TintStop[],
): TintStop[] | null {
  const { values, ground } = sampleOf(raster, band)
  const found = classify(values, { method, classes, rounded: true, manualBreaks: [] }, ground)
  if (!found) return null
  // The lowest height is none that was rounded: its class begins at a round one below it.
  const [least, ...inner] = found.breaks.slice(0, -1)
  const digits = 10 ** decimalsFor(inner.length ? inner : [least])
  const lower = [Math.floor(least * digits) / digits, ...inner]
  const heights = before.map(({ at }) => at)
  const [low, high] = [Math.min(...heights), Math.max(...heights)]
  const tint = tinter({ stops: [...before], stepped: false, inView: false })
  return lower.map((at, i) => {
    const ink: Ink = tint?.(low + ((high - low) * i) / Math.max(1, lower.length - 1)) ?? [0, 0, 0, 0]
    return { at, colour: hexOfInk(ink), opacity: ink[3] }
  })
}
