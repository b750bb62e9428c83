import type { Outline } from './outline'
import { solid } from './paint'
import { path, type Node } from './scene'

/** At most so many steps; each is then one and a half hundredths of the whole. */
export const mostSteps = 64

/** How many steps a change over so many millimetres is drawn in. */
export const stepsOver = (widthMm: number): number => Math.max(2, Math.min(mostSteps, Math.ceil(8 * widthMm)))

/** A grey of a lightness from 0 to 1. */
export const grey = (light: number): string =>
  `#${Math.round(255 * Math.max(0, Math.min(1, light)))
    .toString(16)
    .padStart(2, '0')
    .repeat(3)}`

/**
 * A mask that grows evenly from nothing at the edge to all `widthMm` further in: outlines that lie in each other,
 * each lighter. `inset` is the outline moved inwards.
 */
export function softEdge(inset: (byMm: number) => Outline, widthMm: number): Node[] {
  const steps = stepsOver(widthMm)
  return Array.from({ length: steps }, (_, i) =>
    path(inset((widthMm * i) / steps), { fill: solid(grey((i + 0.5) / steps)) }),
  )
}
