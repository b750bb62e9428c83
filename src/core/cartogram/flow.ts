import type { Bend } from '@/core/projection/projection'
import { bendable } from '@/core/geo/bendable'
import type { Areas } from '@/core/geo/geometry'
import { within, type Steps } from '@/core/grid/steps'
import { integrated } from './flow/integrate'
import { fluxOf } from './flow/flux'
import { foldsIn, moved } from './flow/mesh'
import { densityOf, type Board } from './flow/rasterise'
import { ringAreas } from './plane'

/** How well it is to fit, after how many rounds it ends, and of how many cells the longer side of the board is made. */
export type FlowWishes = { enough: number; most: number; cells: number }

/** Cells along the longer side of the board; with more areas than `fewAreas` twice as many. */
const [boardCells, fewAreas] = [256, 800]
/** Room round the areas, as a share of their longer side: they push each other out into it. */
const room = 0.35
/** The density is smoothed at first, over so many cells, and less in each round. */
const [firstBlur, lessBlur] = [5, 0.55]
/** Areas within this of what they ought to be are right, as a share. */
export const wantedError = 0.01
const mostRounds = 40
/** What is smaller than a cell moves too little; from this round on all are moved by more than they lack. */
const [overFrom, over] = [6, 1.6]
/** An area may not have to grow or to shrink more than so many times in one round. */
const mostContrast = 60

/**
 * How well areas fit: the worst and the mean error, as shares, how many of how many areas are right to `wantedError`,
 * and after how many rounds; `folds` counts pieces of the plane that were turned over.
 */
export type Fit = { worst: number; mean: number; right: number; of: number; rounds: number; folds: number }

/** Areas in metres, deformed, with the arcs that they shared before. */
export type Flowed = { areas: Areas; fit: Fit; bend: Bend }

/**
 * A cartogram that deforms the plane: what areas are to hold flows out of those that are too small for it and into
 * those that are too large, until there is equally much everywhere, and takes all places along (the fast flow-based
 * method of Gastner, Seguy and More 2018, “Fast flow-based algorithm for creating density-equalizing map
 * projections”). Borders that areas share stay shared, since places are moved and not areas. Rounds are repeated until
 * every area is within a hundredth of its size.
 * @param projected areas in metres
 * @param target what each is to measure, in any unit; NaN leaves an area its share of the ground
 */
export function* flowed(
  projected: Areas,
  target: Float64Array,
  { enough = wantedError, most = mostRounds, cells }: Partial<FlowWishes> = {},
): Steps<Flowed> {
  const board = boardFor(projected, cells ?? (target.length > fewAreas ? 2 * boardCells : boardCells))
  yield 0
  const arcs = bendable(projected.arcs, board.cell / 2)
  yield 0
  const coords = arcs.coords.map((value, i) => (value - (i % 2 ? board.y0 : board.x0)) / board.cell)
  const moving: Areas = { ...projected, arcs: { ...arcs, coords } }
  yield 0
  let measured = ringAreas(moving)
  yield 0
  const wanted = wantedAreas(measured, target)
  let [folds, rounds] = [0, 0]
  let error = errorOf(measured, wanted)
  // The plane itself goes along, for whatever else lies in it.
  const corners = Float64Array.from({ length: 2 * (board.columns + 1) * (board.rows + 1) }, (_, i) =>
    i % 2 ? Math.floor((i >> 1) / (board.columns + 1)) : (i >> 1) % (board.columns + 1),
  )
  yield 0
  let best = { coords: coords.slice(), corners: corners.slice(), ...error }
  for (; rounds < most && error.worst > enough; rounds++) {
    const from = rounds / most
    const power = rounds < overFrom ? 1 : over
    const densities = measured.map((area, f) =>
      Math.min(mostContrast, Math.max(1 / mostContrast, (wanted[f] / area) ** power || 1)),
    )
    yield from
    const density = yield* within(
      densityOf(moving, densities, board, firstBlur * lessBlur ** rounds),
      from,
      from,
    )
    const flux = yield* within(fluxOf(density, board), from, from)
    const mesh = yield* within(integrated(flux, density, board), from, from + 1 / most)
    folds += foldsIn(mesh, board)
    yield from
    moved(coords, mesh, board)
    yield from
    moved(corners, mesh, board)
    yield from
    measured = ringAreas(moving)
    yield from
    error = errorOf(measured, wanted)
    if (error.worst < best.worst) best = { coords: coords.slice(), corners: corners.slice(), ...error }
  }
  yield 1
  const inMetres = (of: Float64Array): Float64Array =>
    of.map((value, i) => value * board.cell + (i % 2 ? board.y0 : board.x0))
  return {
    areas: { ...projected, arcs: { ...arcs, coords: inMetres(best.coords) } },
    fit: { worst: best.worst, mean: best.mean, right: best.right, of: best.of, rounds, folds },
    bend: { ...board, corners: inMetres(best.corners) },
  }
}

function boardFor({ arcs: { coords } }: Areas, cells: number): Board {
  let [west, north, east, south] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let i = 0; i < coords.length; i += 2) {
    west = Math.min(west, coords[i])
    east = Math.max(east, coords[i])
    north = Math.min(north, coords[i + 1])
    south = Math.max(south, coords[i + 1])
  }
  const longer = Math.max(east - west, south - north) || 1
  const cell = ((1 + 2 * room) * longer) / cells
  // Waves are reckoned for powers of two.
  const [columns, rows] = [east - west, south - north].map(
    (side) => 2 ** Math.max(4, Math.ceil(Math.log2((side + 2 * room * longer) / cell - 1e-9))),
  )
  return {
    cell,
    columns,
    rows,
    x0: (west + east) / 2 - (columns * cell) / 2,
    y0: (north + south) / 2 - (rows * cell) / 2,
  }
}

/** What each area is to measure on the board: all together what they measure at first. */
function wantedAreas(first: Float64Array, target: Float64Array): Float64Array {
  let [ground, sum] = [0, 0]
  for (let f = 0; f < first.length; f++)
    if (first[f] > 0 && target[f] > 0) {
      ground += first[f]
      sum += target[f]
    }
  return first.map((area, f) => (target[f] > 0 ? (target[f] * ground) / sum : area))
}

/** How far areas are from what they ought to measure; those of which nothing is wanted are not looked at. */
export function errorOf(
  areas: Float64Array,
  wanted: Float64Array,
): Pick<Fit, 'worst' | 'mean' | 'right' | 'of'> {
  let [worst, sum, count, right] = [0, 0, 0, 0]
  for (let f = 0; f < areas.length; f++) {
    if (!(wanted[f] > 0)) continue
    const off = Math.abs(areas[f] / wanted[f] - 1)
    worst = Math.max(worst, off)
    sum += off
    count++
    if (off <= wantedError) right++
  }
  return { worst, mean: count ? sum / count : 0, right, of: count }
}
