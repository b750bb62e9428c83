import { geodesicMetres } from '@/core/projection/ground'
import { createProjection } from '@/core/projection/projection'
import type { Lattice } from './grid'

/** So many steps each way: the error is largest at the corners or the edges, where the first and last lie. */
const samples = 4

/**
 * How wrong distances in the plane of a lattice are at most, as a share of those on the ground: short ways across, down
 * and aslant at places all over it, measured on the ellipsoid.
 */
export function distanceError({ plane, x0, y0, cell, columns, rows }: Lattice): number {
  const projection = createProjection(plane)
  const [width, height] = [columns * cell, rows * cell]
  const reach = Math.max(width, height) / 2000
  let worst = 0
  for (let i = 0; i <= samples; i++)
    for (let j = 0; j <= samples; j++) {
      const [x, y] = [x0 + (width * i) / samples, y0 + (height * j) / samples]
      for (const [dx, dy] of [
        [1, 0],
        [0, 1],
        [Math.SQRT1_2, Math.SQRT1_2],
        [Math.SQRT1_2, -Math.SQRT1_2],
      ]) {
        const [a, b] = [-reach, reach].map((by) => projection.invert(x + dx * by, y + dy * by))
        if (!a || !b) continue
        const ground = geodesicMetres(a, b)
        if (ground > 0) worst = Math.max(worst, Math.abs((2 * reach) / ground - 1))
      }
    }
  return worst
}
