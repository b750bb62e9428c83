import { extentOfRaster } from '@/core/data/raster-ground'
import { toPaper } from '@/core/geo/paper'
import type { Steps } from '@/core/grid/steps'
import { emptyBounds, takeIn } from '@/core/scene/bounds'
import type { Node } from '@/core/scene/scene'
import type { DrawContext } from '../kind'

/** No finer than 300 cells to the inch, whatever the output. */
const finestMm = 25.4 / 300
/** Up to so many cells are kept once they are painted; more are painted band by band, each time they are asked for. */
const mostKept = 12_000_000

/** Rows that are painted in one go. */
const rowsAtOnce = 128

/** Cells on paper: from the corner of a box, all of one side. */
export type PaperGrid = {
  box: { x: number; y: number; width: number; height: number }
  cellMm: number
  columns: number
  rows: number
}

/**
 * The cells by which what has such an edge is painted in a window; null where it lies elsewhere.
 * @param leastMm cells need be no smaller than this
 */
export function gridOnPaper(
  edge: Float64Array,
  context: Pick<DrawContext, 'projection' | 'to' | 'window' | 'toleranceMm'>,
  leastMm = 0,
): PaperGrid | null {
  const box = boxOnPaper(edge, context)
  if (!box) return null
  const cellMm = Math.max(finestMm, context.toleranceMm * 2.5, leastMm)
  const columns = Math.max(1, Math.ceil(box.width / cellMm))
  const rows = Math.max(1, Math.ceil(box.height / cellMm))
  return { box, cellMm, columns, rows }
}

/**
 * Colours of cells on paper as a picture.
 * @param paint some rows as red, green, blue and opacity by turns
 */
export function paintedNode(
  { box, cellMm, columns, rows }: PaperGrid,
  paint: (from: number, to: number) => Uint8ClampedArray,
): Node {
  const keeps = columns * rows <= mostKept
  let kept: Uint8ClampedArray | null = null
  let done = 0
  /** Paints rows up to one, in bands of as many as are painted at once. */
  const paintTo = (row: number): Uint8ClampedArray => {
    kept ??= new Uint8ClampedArray(4 * columns * rows)
    while (done < row) {
      const next = Math.min(rows, done + rowsAtOnce)
      kept.set(paint(done, next), 4 * columns * done)
      done = next
    }
    return kept
  }
  return {
    type: 'raster',
    box: { x: box.x, y: box.y, width: columns * cellMm, height: rows * cellMm },
    columns,
    rows,
    smooth: true,
    rgba: (from, to) =>
      keeps ? paintTo(to).subarray(4 * columns * from, 4 * columns * to) : paint(from, to),
    ...(keeps && {
      *paint(): Steps<void> {
        while (done < rows) {
          paintTo(done + 1)
          yield done / rows
        }
      },
    }),
  }
}

/** What spans more degrees than this from its least to its greatest longitude is cut by the map anywhere. */
const roundDeg = 300

/**
 * The part of the window that can be covered; null where what is painted lies elsewhere. What goes round the globe, or
 * has an edge that the projection does not show, may lie anywhere in it.
 */
function boxOnPaper(
  edge: Float64Array,
  { projection, to, window }: Pick<DrawContext, 'projection' | 'to' | 'window'>,
): { x: number; y: number; width: number; height: number } | null {
  const { x: left, y: top, width: wide, height: high } = window
  const whole = { x: left, y: top, width: wide, height: high }
  const [west, , east] = extentOfRaster({ edge })
  if (east - west > roundDeg) return whole
  const bounds = emptyBounds()
  for (let i = 0; i < edge.length; i += 2) {
    const [x, y] = toPaper(to, ...projection.project(edge[i], edge[i + 1]))
    if (!Number.isFinite(x) || !Number.isFinite(y)) return whole
    takeIn(bounds, [x, y])
  }
  const [x0, y0, x1, y1] = bounds
  const [x, y] = [Math.max(window.x, x0), Math.max(window.y, y0)]
  const [width, height] = [
    Math.min(window.x + window.width, x1) - x,
    Math.min(window.y + window.height, y1) - y,
  ]
  return width > 0 && height > 0 ? { x, y, width, height } : null
}
