import { gridPlace, type Raster } from '@/core/data/raster'
import { cellsOf, levelFor, levelHeld, type Cells } from '@/core/data/raster-cells'
import { toMetres } from '@/core/geo/paper'
import type { GroundSteps } from '@/core/grid/relief/gradient'
import { metresPerDegree } from '@/core/projection/ground'
import { fromDegrees } from '@/core/projection/reference'
import type { DrawContext } from '../kind'
import type { PaperGrid } from './grid'

/** Places are reckoned exactly at every so many cells, and in between them by straight lines. */
const every = 8

/** Curves are of use below so many cells of the raster to a cell of the paper. */
const curvesBelow = 0.8

/** Some cells of a grid on paper: the first column and row, which may lie before its own, and how many. */
export type Block = { left: number; top: number; columns: number; rows: number }

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

export type Sampler = {
  /** Level of detail of the raster that is read. */
  level: number
  block: (block: Block) => Sample
}

/**
 * Takes samples of a band of a raster for cells on paper. They come from the level of detail that paper asks for,
 * the same for all of a grid, so that a block has the values that it would have in a larger one.
 */
export function sampler({ raster, band, grid, context, between = 'lines' }: Sampling): Sampler {
  const places = createPlaces(raster, grid, context)
  const held = places.heldAlongCell()
  const level = levelFor(raster, held)
  const scale = 2 ** (levelHeld(raster) - level)
  // Where cells are no larger than those of the paper, straight lines are as good.
  const way = between === 'curves' && held * scale > curvesBelow ? 'lines' : between
  return {
    level,
    block(block) {
      const lattice = places.lattice(block)
      const cells = cellsUnder(raster, { band, level, scale }, lattice)
      const values = new Float32Array(block.columns * block.rows).fill(NaN)
      const at = ways[way]
      lattice.visit((i, x, y) => {
        values[i] = at(cells, x * scale, y * scale)
      })
      return { ...block, values, steps: lattice.steps }
    },
  }
}

/** Of cells that may go round the globe once: `period` columns to a round, or none. */
type Under = Cells & { first: number; period: number }

/** The cells of a level that a block needs, with a margin for those in between. */
function cellsUnder(
  raster: Raster,
  { band, level, scale }: { band: number; level: number; scale: number },
  { bounds, period }: Lattice,
): Under {
  const room = 3 / scale
  const [left, top, right, bottom] = bounds
  const window = { left: left - room, top: top - room, right: right + room, bottom: bottom + room }
  const round = isGlobal(raster, period) && (window.left < 0 || window.right > raster.columns)
  if (!round) return { ...cellsOf(raster, { band, level, window }), first: 0, period: 0 }
  const whole = { ...window, left: 0, right: raster.columns }
  return { ...cellsOf(raster, { band, level, window: whole }), first: 0, period: period * scale }
}

/** Whether a raster goes once round the globe, so that its last column lies beside the first. */
const isGlobal = ({ columns }: Raster, period: number): boolean =>
  period > 0 && Math.abs(columns - period) < 0.75

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

type Lattice = {
  /** Held columns and rows from the lowest to the highest. */
  bounds: [left: number, top: number, right: number, bottom: number]
  /** Held columns in a round of the globe; 0 where they are no degrees. */
  period: number
  /** Hands over each cell of the block with its held column and row. */
  visit: (take: (i: number, column: number, row: number) => void) => void
  steps: GroundSteps
}

/** Where cells on paper lie in a raster and on the ground. */
function createPlaces(
  raster: Raster,
  { box, cellMm, columns, rows }: PaperGrid,
  context: Sampling['context'],
) {
  const { projection, to } = context
  const toSystem = fromDegrees(raster.crs)
  const period = raster.crs ? 0 : 360 / Math.abs(raster.transform[1] || 1)
  const lonLat = (x: number, y: number) =>
    projection.invert(...toMetres(to, box.x + x * cellMm, box.y + y * cellMm))
  const near = (column: number, to: number): number =>
    period ? column + period * Math.round((to - column) / period) : column
  const ownPlace = (x: number, y: number): [number, number] | null => {
    const at = lonLat(x, y)
    if (!at) return null
    const [column, row] = gridPlace(raster, ...toSystem(at[0], at[1]))
    return [near(column, raster.columns / 2), row]
  }

  /** Held cells along a cell on paper: the middle one of what they are here and there. */
  function heldAlongCell(): number {
    const sizes: number[] = []
    for (let k = 0; k < 25; k++) {
      const [x, y] = [(columns * ((k % 5) + 0.5)) / 5, (rows * (Math.floor(k / 5) + 0.5)) / 5]
      const [a, b, c] = [ownPlace(x, y), ownPlace(x + 1, y), ownPlace(x, y + 1)]
      if (!a || !b || !c) continue
      const area = (near(b[0], a[0]) - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (near(c[0], a[0]) - a[0])
      if (area) sizes.push(Math.sqrt(Math.abs(area)))
    }
    return sizes.sort((a, b) => a - b)[Math.floor(sizes.length / 2)] ?? 1
  }

  function lattice({ left, top, columns: wide, rows: high }: Block): Lattice {
    const [c0, r0] = [Math.floor(left / every), Math.floor(top / every)]
    const across = Math.ceil((left + wide) / every) - c0 + 1
    const down = Math.ceil((top + high) / every) - r0 + 1
    // Degrees at all corners and one farther out, for the steps at the outer ones.
    const [beyond, corners] = [across + 2, across * down]
    const degrees = new Float64Array(2 * beyond * (down + 2)).fill(NaN)
    for (let r = 0; r < down + 2; r++)
      for (let c = 0; c < beyond; c++) {
        const at = lonLat((c0 + c - 1) * every, (r0 + r - 1) * every)
        if (at) degrees.set(at, 2 * (r * beyond + c))
      }
    const own = new Float64Array(2 * corners).fill(NaN)
    const ground = new Float64Array(4 * corners).fill(NaN)
    const bounds: Lattice['bounds'] = [Infinity, Infinity, -Infinity, -Infinity]
    const takeIn = ([column, row]: [number, number]): void => {
      bounds[0] = Math.min(bounds[0], column)
      bounds[1] = Math.min(bounds[1], row)
      bounds[2] = Math.max(bounds[2], column)
      bounds[3] = Math.max(bounds[3], row)
    }
    let beside = raster.columns / 2
    for (let r = 0; r < down; r++)
      for (let c = 0; c < across; c++) {
        const [k, from] = [r * across + c, (r + 1) * beyond + c + 1]
        const [lon, lat] = [degrees[2 * from], degrees[2 * from + 1]]
        if (Number.isNaN(lon)) continue
        const [column, row] = gridPlace(raster, ...toSystem(lon, lat))
        own[2 * k] = beside = near(column, beside)
        own[2 * k + 1] = row
        takeIn([beside, row])
        setSteps(ground, 4 * k, { degrees, from, beyond })
      }
    const exact = exactPlaces()
    if (!(bounds[2] >= bounds[0])) bounds.fill(0)

    /**
     * The places of cells where straight lines between corners do not hold, at poles and at the edge of a projection,
     * by block of the lattice.
     */
    function exactPlaces(): Map<number, Float64Array> {
      const found = new Map<number, Float64Array>()
      for (let r = 0; r < down - 1; r++)
        for (let c = 0; c < across - 1; c++) {
          const k = r * across + c
          const four = [own[2 * k], own[2 * k + 2], own[2 * (k + across)], own[2 * (k + across) + 2]]
          const [least, most] = [Math.min(...four), Math.max(...four)]
          if (most - least <= (period ? period / 8 : Infinity)) continue
          const places = new Float64Array(2 * every * every).fill(NaN)
          for (let i = 0; i < every * every; i++) {
            const at = ownPlace(
              (c0 + c) * every + (i % every) + 0.5,
              (r0 + r) * every + Math.floor(i / every) + 0.5,
            )
            if (!at) continue
            places.set(at, 2 * i)
            takeIn(at)
          }
          found.set(k, places)
        }
      return found
    }

    function visit(take: (i: number, column: number, row: number) => void): void {
      for (let br = 0; br < down - 1; br++)
        for (let bc = 0; bc < across - 1; bc++) {
          const [k, x0, y0] = [br * across + bc, (c0 + bc) * every, (r0 + br) * every]
          const [a, b, c, d] = [2 * k, 2 * k + 2, 2 * (k + across), 2 * (k + across) + 2]
          const [xEnd, yEnd] = [Math.min(left + wide, x0 + every), Math.min(top + high, y0 + every)]
          const places = exact.get(k)
          for (let y = Math.max(top, y0); y < yEnd; y++) {
            const v = (y + 0.5 - y0) / every
            for (let x = Math.max(left, x0); x < xEnd; x++) {
              const i = (y - top) * wide + x - left
              if (places) {
                const at = 2 * ((y - y0) * every + x - x0)
                take(i, places[at], places[at + 1])
                continue
              }
              const u = (x + 0.5 - x0) / every
              const [p, q, s, t] = [(1 - u) * (1 - v), u * (1 - v), (1 - u) * v, u * v]
              take(
                i,
                own[a] * p + own[b] * q + own[c] * s + own[d] * t,
                own[a + 1] * p + own[b + 1] * q + own[c + 1] * s + own[d + 1] * t,
              )
            }
          }
        }
    }

    const steps: GroundSteps = (column, row, out) => {
      const [x, y] = [(left + column + 0.5) / every - c0, (top + row + 0.5) / every - r0]
      const [c, r] = [Math.min(across - 2, Math.floor(x)), Math.min(down - 2, Math.floor(y))]
      const [u, v, k] = [x - c, y - r, 4 * (r * across + c)]
      for (let i = 0; i < 4; i++)
        out[i] =
          (ground[k + i] * (1 - u) + ground[k + 4 + i] * u) * (1 - v) +
          (ground[k + 4 * across + i] * (1 - u) + ground[k + 4 * across + 4 + i] * u) * v
    }
    return { bounds, period, visit, steps }
  }
  return { heldAlongCell, lattice }
}

/** What a step of a cell to the right, and one down, is at a corner: metres to the east and to the north. */
function setSteps(
  ground: Float64Array,
  at: number,
  { degrees, from, beyond }: { degrees: Float64Array; from: number; beyond: number },
): void {
  const [east, north] = metresPerDegree(degrees[2 * from + 1])
  for (const [k, step] of [1, beyond].entries()) {
    // Of the corners on either side; of one and the corner itself where the other is nowhere.
    const a = Number.isNaN(degrees[2 * (from - step)]) ? from : from - step
    const b = Number.isNaN(degrees[2 * (from + step)]) ? from : from + step
    const cells = ((b - a) / step) * every || NaN
    const lon = ((((degrees[2 * b] - degrees[2 * a]) % 360) + 540) % 360) - 180
    ground[at + 2 * k] = (lon * east) / cells
    ground[at + 2 * k + 1] = ((degrees[2 * b + 1] - degrees[2 * a + 1]) * north) / cells
  }
}
