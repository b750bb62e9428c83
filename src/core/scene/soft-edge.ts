import type { Outline } from './outline'
import { solid } from './paint'
import { path, type Node } from './scene'

/** At most so many steps; each is then one and a half hundredths of the whole. */
const mostSteps = 64

/**
 * A mask that grows from nothing at the edge to all `widthMm` further in: outlines that lie in each other, each
 * covering so much of what is left that together they grow evenly. `inset` is the outline moved inwards.
 */
export function softEdge(inset: (byMm: number) => Outline, widthMm: number): Node[] {
  const steps = Math.max(2, Math.min(mostSteps, Math.ceil(8 * widthMm)))
  return Array.from({ length: steps }, (_, i) => {
    const alpha = Math.round(255 / (steps - i))
    const colour = `#ffffff${alpha.toString(16).padStart(2, '0')}`
    return path(inset((widthMm * (i + 0.5)) / steps), { fill: solid(colour) })
  })
}
