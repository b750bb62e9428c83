import { gridPlace, rasterAt, type Raster } from '@/core/data/raster'
import { fromDegrees } from '@/core/projection/reference'
import type { Node } from '@/core/scene/scene'
import { emptyBounds, takeIn } from '@/core/scene/bounds'
import { toPaper, toMetres } from '@/core/geo/paper'
import type { DrawContext } from '../kind'
import { colourOfValue, type RasterPlan } from './plan'
import type { RasterSettings } from './spec'

/** No finer than 300 cells to the inch, whatever the output. */
const finestMm = 25.4 / 300
/** Places are reckoned exactly at every so many cells and in between them by straight lines. */
const every = 16
const mostCells = 12_000_000

/**
 * The raster brought into the map's projection: for each cell on paper the value at its place on the ground.
 */
export function drawRaster(
  plan: RasterPlan,
  settings: RasterSettings,
  { dataset, projection, to, window, toleranceMm }: DrawContext,
): Node[] {
  const { raster } = dataset
  if (!raster || !plan) return []
  const box = boxOnPaper(raster, { projection, to, window })
  if (!box) return []
  const cellMm = Math.max(finestMm, toleranceMm * 2.5, Math.sqrt((box.width * box.height) / mostCells))
  const [columns, rows] = [
    Math.max(1, Math.ceil(box.width / cellMm)),
    Math.max(1, Math.ceil(box.height / cellMm)),
  ]
  const rgba = new Uint8ClampedArray(4 * columns * rows)
  const three = settings.look === 'colours' && raster.bands >= 3
  // A thousand shades are enough for a ramp.
  const shades = Array.from({ length: 1024 }, (_, i) =>
    colourOfValue(plan, plan.low + ((plan.high - plan.low) * i) / 1023),
  )
  const toSystem = fromDegrees(raster.crs)
  const place = (column: number, row: number): [number, number] | null => {
    const at = projection.invert(...toMetres(to, box.x + column * cellMm, box.y + row * cellMm))
    return at && gridPlace(raster, ...toSystem(at[0], at[1]))
  }
  for (let r0 = 0; r0 < rows; r0 += every) {
    for (let c0 = 0; c0 < columns; c0 += every) {
      const corners = [
        place(c0, r0),
        place(c0 + every, r0),
        place(c0, r0 + every),
        place(c0 + every, r0 + every),
      ]
      const [a, b, c, d] = corners
      if (!a || !b || !c || !d) continue
      for (let r = r0; r < Math.min(rows, r0 + every); r++) {
        const v = (r + 0.5 - r0) / every
        for (let col = c0; col < Math.min(columns, c0 + every); col++) {
          const u = (col + 0.5 - c0) / every
          const i = (a[0] * (1 - u) + b[0] * u) * (1 - v) + (c[0] * (1 - u) + d[0] * u) * v
          const j = (a[1] * (1 - u) + b[1] * u) * (1 - v) + (c[1] * (1 - u) + d[1] * u) * v
          const value = rasterAt(raster, three ? 0 : settings.band, i, j)
          if (Number.isNaN(value)) continue
          const [red, green, blue] = three
            ? [value, rasterAt(raster, 1, i, j), rasterAt(raster, 2, i, j)]
            : shades[
                Math.round(
                  1023 *
                    Math.min(
                      1,
                      Math.max(0, plan.high > plan.low ? (value - plan.low) / (plan.high - plan.low) : 0),
                    ),
                )
              ]
          const at = 4 * (r * columns + col)
          rgba[at] = red
          rgba[at + 1] = green
          rgba[at + 2] = blue
          rgba[at + 3] = 255
        }
      }
    }
  }
  return [
    {
      type: 'raster',
      box: { x: box.x, y: box.y, width: columns * cellMm, height: rows * cellMm },
      columns,
      rows,
      rgba,
      smooth: true,
    },
  ]
}

/** The part of the window that the raster can cover; null where it lies elsewhere. */
function boxOnPaper(
  { edge }: Raster,
  { projection, to, window }: Pick<DrawContext, 'projection' | 'to' | 'window'>,
): { x: number; y: number; width: number; height: number } | null {
  const bounds = emptyBounds()
  for (let i = 0; i < edge.length; i += 2)
    takeIn(bounds, toPaper(to, ...projection.project(edge[i], edge[i + 1])))
  const [x0, y0, x1, y1] = bounds
  const [x, y] = [Math.max(window.x, x0), Math.max(window.y, y0)]
  const [width, height] = [
    Math.min(window.x + window.width, x1) - x,
    Math.min(window.y + window.height, y1) - y,
  ]
  return width > 0 && height > 0 ? { x, y, width, height } : null
}
