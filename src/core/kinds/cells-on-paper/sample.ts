import { gridPlace, type Raster } from '@/core/data/raster'
import { cellsOf, levelFor, levelHeld, type Cells } from '@/core/data/raster-cells'
import { goesRound, periodOf } from '@/core/data/raster-ground'
import type { GroundSteps } from '@/core/grid/relief/gradient'
import { fromDegrees } from '@/core/projection/reference'
import type { DrawContext } from '../kind'
import type { PaperGrid } from './grid'
import { createPlaces, type Block, type Lattice } from './places'

/** Curves are of use below so many cells of the raster to a cell of the paper. */
const curvesBelow = 0.8

/** Values of a band where the cells of a block lie on paper, rows from the top; NaN where there is none. */
export type Sample = Block & { values: Float32Array; steps: GroundSteps }

/** What samples are taken of: which band, for which cells on paper, and in which projection these lie. */
export type Sampling = {
  raster: Raster
  band: number
  grid: PaperGrid
  context: Pick<DrawContext, 'projection' | 'to'>
  /**
   * How a value is taken from the cells about a place: between four of them along straight lines; from the nearest one
   * as it is, for cells that are told apart; or along curves through sixteen, so that slopes change steadily where
   * cells are larger than those of the paper.
   */
  between?: 'lines' | 'nearest' | 'curves'
}

export type Sampler = (block: Block) => Sample

/**
 * Takes samples of a band of a raster for cells on paper. They come from the level of detail that paper asks for,
 * the same for all of a grid, so that a block has the values that it would have in a larger one.
 */
export function sampler({ raster, band, grid, context, between = 'lines' }: Sampling): Sampler {
  const toSystem = fromDegrees(raster.crs)
  const places = createPlaces(
    {
      place: (lon, lat) => gridPlace(raster, ...toSystem(lon, lat)),
      period: periodOf(raster),
      middle: raster.columns / 2,
    },
    grid,
    context,
  )
  const held = places.alongCell()
  const level = levelFor(raster, held)
  const scale = 2 ** (levelHeld(raster) - level)
  // Where cells are no larger than those of the paper, straight lines are as good.
  const way = between === 'curves' && held * scale > curvesBelow ? 'lines' : between
  return (block) => {
    const lattice = places.lattice(block)
    const cells = cellsUnder(raster, { band, level, scale }, lattice)
    const values = new Float32Array(block.columns * block.rows).fill(NaN)
    const at = ways[way]
    lattice.visit((i, x, y) => {
      values[i] = at(cells, x * scale, y * scale)
    })
    return { ...block, values, steps: lattice.steps }
  }
}

/** Of cells that may go round the globe once: `period` columns to a round, or none. */
type Under = Cells & { period: number }

/** The cells of a level that a block needs, with a margin for those in between. */
function cellsUnder(
  raster: Raster,
  { band, level, scale }: { band: number; level: number; scale: number },
  { bounds, period }: Lattice,
): Under {
  const room = 3 / scale
  const [left, top, right, bottom] = bounds
  const window = { left: left - room, top: top - room, right: right + room, bottom: bottom + room }
  const round = goesRound(raster) && (window.left < 0 || window.right > raster.columns)
  if (!round) return { ...cellsOf(raster, { band, level, window }), period: 0 }
  const whole = { ...window, left: 0, right: raster.columns }
  return { ...cellsOf(raster, { band, level, window: whole }), period: period * scale }
}

function nearestCell(
  { values, columns, rows, left, top, whole, period }: Under,
  x: number,
  y: number,
): number {
  const column = Math.floor(period ? ((x % period) + period) % period : x)
  const row = Math.floor(y)
  if (column < 0 || row < 0 || column >= whole.columns || row >= whole.rows) return NaN
  const [c, r] = [column - left, row - top]
  return c >= 0 && r >= 0 && c < columns && r < rows ? values[r * columns + c] : NaN
}

/** The value between four cells; NaN beyond the edge and beside cells without one. */
function betweenCells(
  { values, columns, rows, left, top, whole, period }: Under,
  x: number,
  y: number,
): number {
  if (!(y >= 0 && y <= whole.rows) || (!period && !(x >= 0 && x <= whole.columns))) return NaN
  const own = (period ? ((x % period) + period) % period : x) - 0.5 - left
  const down = y - 0.5 - top
  const [i, j] = [Math.floor(own), Math.floor(down)]
  if (i < -1 || j < -1 || i >= columns || j >= rows) return NaN
  const [u, v] = [own - i, down - j]
  // Round the globe the first column lies beside the last one; elsewhere the outermost one goes on.
  const [before, behind] = period ? [columns - 1, 0] : [0, columns - 1]
  const c0 = i < 0 ? before : i
  const c1 = i + 1 >= columns ? behind : i + 1
  const r0 = (j < 0 ? 0 : j) * columns
  const r1 = (j + 1 >= rows ? rows - 1 : j + 1) * columns
  return (
    (values[r0 + c0] * (1 - u) + values[r0 + c1] * u) * (1 - v) +
    (values[r1 + c0] * (1 - u) + values[r1 + c1] * u) * v
  )
}

/**
 * The value on curves through sixteen cells (Catmull and Rom 1974; Keys 1981), which meet without a bend; on lines
 * between four where one of the others is missing.
 */
function onCurves(cells: Under, x: number, y: number): number {
  const { values, columns, rows, left, top, period } = cells
  const [own, down] = [x - 0.5 - left, y - 0.5 - top]
  const [i, j] = [Math.floor(own), Math.floor(down)]
  if (period || i < 1 || j < 1 || i + 2 >= columns || j + 2 >= rows) return betweenCells(cells, x, y)
  const [u, v] = [own - i, down - j]
  const a0 = u * (-0.5 + u * (1 - 0.5 * u))
  const a1 = 1 + u * u * (-2.5 + 1.5 * u)
  const a2 = u * (0.5 + u * (2 - 1.5 * u))
  const a3 = u * u * (-0.5 + 0.5 * u)
  let k = (j - 1) * columns + i - 1
  const r0 = a0 * values[k] + a1 * values[k + 1] + a2 * values[k + 2] + a3 * values[k + 3]
  k += columns
  const r1 = a0 * values[k] + a1 * values[k + 1] + a2 * values[k + 2] + a3 * values[k + 3]
  k += columns
  const r2 = a0 * values[k] + a1 * values[k + 1] + a2 * values[k + 2] + a3 * values[k + 3]
  k += columns
  const r3 = a0 * values[k] + a1 * values[k + 1] + a2 * values[k + 2] + a3 * values[k + 3]
  const value =
    v * (-0.5 + v * (1 - 0.5 * v)) * r0 +
    (1 + v * v * (-2.5 + 1.5 * v)) * r1 +
    v * (0.5 + v * (2 - 1.5 * v)) * r2 +
    v * v * (-0.5 + 0.5 * v) * r3
  return value === value ? value : betweenCells(cells, x, y)
}

const ways = { lines: betweenCells, nearest: nearestCell, curves: onCurves }
