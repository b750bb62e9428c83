import type { Raster } from '@/core/data/raster'
import { gridOnPaper } from '../cells-on-paper/grid'
import { sampler } from '../cells-on-paper/sample'
import type { DrawContext } from '../kind'

/** About so many cells across a window say how high the land in it is. */
const across = 160

/** The lowest and the highest height of a band that is to be seen in a window; null where there is none. */
export function heightsInView(
  raster: Raster,
  band: number,
  context: Pick<DrawContext, 'projection' | 'to' | 'window'>,
): { low: number; high: number } | null {
  const cellMm = Math.max(context.window.width, context.window.height) / across
  const grid = gridOnPaper(raster.edge, { ...context, toleranceMm: cellMm / 2.5 })
  if (!grid || band >= raster.bands) return null
  const { columns, rows } = grid
  const { values } = sampler({ raster, band, grid, context })({ left: 0, top: 0, columns, rows })
  let [low, high] = [Infinity, -Infinity]
  for (const value of values) {
    if (value < low) low = value
    if (value > high) high = value
  }
  return high >= low ? { low, high } : null
}
