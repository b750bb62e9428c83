import { toMetres, toPaper } from '@/core/geo/paper'
import { emptyBounds, takeIn } from '@/core/scene/bounds'
import type { Node } from '@/core/scene/scene'
import type { DrawContext } from './kind'

/** No finer than 300 cells to the inch, whatever the output. */
const finestMm = 25.4 / 300
/** Places are reckoned exactly at every so many cells and in between them by straight lines. */
const every = 16
const mostCells = 12_000_000

export type Painted = {
  /** Points round what is painted, longitudes and latitudes in turn. */
  edge: Float64Array
  /** Where a place in degrees lies in what is painted, in its own coordinates. */
  place: (lon: number, lat: number) => [number, number]
  /** Red, green and blue, 0 to 255, at own coordinates; null paints nothing. */
  shade: (x: number, y: number) => readonly [number, number, number] | null
}

/** A picture brought into the map's projection: for each cell on paper the colour of its place on the ground. */
export function paintCells(
  { edge, place, shade }: Painted,
  context: Pick<DrawContext, 'projection' | 'to' | 'window' | 'toleranceMm'>,
): Node[] {
  const { projection, to } = context
  const grid = gridOnPaper(edge, context)
  if (!grid) return []
  const { box, cellMm, columns, rows } = grid
  const rgba = new Uint8ClampedArray(4 * columns * rows)
  const ownPlace = (column: number, row: number): [number, number] | null => {
    const at = projection.invert(...toMetres(to, box.x + column * cellMm, box.y + row * cellMm))
    return at && place(at[0], at[1])
  }
  for (let r0 = 0; r0 < rows; r0 += every) {
    for (let c0 = 0; c0 < columns; c0 += every) {
      const a = ownPlace(c0, r0)
      const b = ownPlace(c0 + every, r0)
      const c = ownPlace(c0, r0 + every)
      const d = ownPlace(c0 + every, r0 + every)
      if (!a || !b || !c || !d) continue
      for (let r = r0; r < Math.min(rows, r0 + every); r++) {
        const v = (r + 0.5 - r0) / every
        for (let col = c0; col < Math.min(columns, c0 + every); col++) {
          const u = (col + 0.5 - c0) / every
          const colour = shade(
            (a[0] * (1 - u) + b[0] * u) * (1 - v) + (c[0] * (1 - u) + d[0] * u) * v,
            (a[1] * (1 - u) + b[1] * u) * (1 - v) + (c[1] * (1 - u) + d[1] * u) * v,
          )
          if (!colour) continue
          const at = 4 * (r * columns + col)
          rgba[at] = colour[0]
          rgba[at + 1] = colour[1]
          rgba[at + 2] = colour[2]
          rgba[at + 3] = 255
        }
      }
    }
  }
  return [paintedNode(grid, rgba)]
}

/** Colours of cells on paper, red, green, blue and opacity by turns, as a picture. */
export const paintedNode = ({ box, cellMm, columns, rows }: PaperGrid, rgba: Uint8ClampedArray): Node => ({
  type: 'raster',
  box: { x: box.x, y: box.y, width: columns * cellMm, height: rows * cellMm },
  columns,
  rows,
  rgba,
  smooth: true,
})

/** Cells on paper: from the corner of a box, all of one side. */
export type PaperGrid = {
  box: { x: number; y: number; width: number; height: number }
  cellMm: number
  columns: number
  rows: number
}

/** The cells by which what has such an edge is painted in a window; null where it lies elsewhere. */
export function gridOnPaper(
  edge: Float64Array,
  context: Pick<DrawContext, 'projection' | 'to' | 'window' | 'toleranceMm'>,
): PaperGrid | null {
  const box = boxOnPaper(edge, context)
  if (!box) return null
  const most = Math.sqrt((box.width * box.height) / mostCells)
  const cellMm = Math.max(finestMm, context.toleranceMm * 2.5, most)
  const columns = Math.max(1, Math.ceil(box.width / cellMm))
  const rows = Math.max(1, Math.ceil(box.height / cellMm))
  return { box, cellMm, columns, rows }
}

/** The part of the window that can be covered; null where what is painted lies elsewhere. */
function boxOnPaper(
  edge: Float64Array,
  { projection, to, window }: Pick<DrawContext, 'projection' | 'to' | 'window'>,
): { x: number; y: number; width: number; height: number } | null {
  const bounds = emptyBounds()
  for (let i = 0; i < edge.length; i += 2) {
    const [x, y] = toPaper(to, ...projection.project(edge[i], edge[i + 1]))
    if (Number.isFinite(x) && Number.isFinite(y)) takeIn(bounds, [x, y])
  }
  const [x0, y0, x1, y1] = bounds
  const [x, y] = [Math.max(window.x, x0), Math.max(window.y, y0)]
  const [width, height] = [
    Math.min(window.x + window.width, x1) - x,
    Math.min(window.y + window.height, y1) - y,
  ]
  return width > 0 && height > 0 ? { x, y, width, height } : null
}
