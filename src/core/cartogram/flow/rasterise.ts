import { ringRange, type Areas } from '@/core/geo/geometry'
import { cross } from '@/core/grid/rasterise'
import { milestones, type Steps } from '@/core/grid/steps'
import { eachPlace } from '../plane'

/** The board on which it flows: cells of `cell` metres; places on it are in cells from its upper left corner. */
export type Board = { cell: number; columns: number; rows: number; x0: number; y0: number }

/** Scan lines to a cell. */
const lines = 4

/**
 * How dense it is in each cell: areas by the part of the cell that they cover, with one for what none covers.
 * @param areas with places in cells
 * @param densities one for each area
 * @param blur standard deviation of the Gaussian by which it is smoothed, cells
 */
export function* densityOf(
  areas: Areas,
  densities: Float64Array,
  { columns, rows }: Board,
  blur: number,
): Steps<Float64Array> {
  const out = new Float64Array(columns * rows).fill(1)
  const { coords } = areas.arcs
  const told = milestones(20_000)
  for (let f = 0; f < densities.length; f++) {
    const crossings = new Map<number, number[]>()
    const [from, to] = ringRange(areas, f)
    for (let r = from; r < to; r++) {
      let [px, py] = [NaN, NaN]
      eachPlace(areas, r, (v) => {
        const [x, y] = [coords[2 * v], coords[2 * v + 1] * lines - 0.5]
        if (!Number.isNaN(py) && py !== y) cross(crossings, { px, py, x, y, rows: rows * lines })
        ;[px, py] = [x, y]
      })
      if (told.due(areas.ringStarts[r + 1] - areas.ringStarts[r] + 50)) yield f / densities.length
    }
    const add = (densities[f] - 1) / lines
    for (const [line, places] of crossings) {
      places.sort((a, b) => a - b)
      const row = Math.floor(line / lines) * columns
      for (let i = 0; i + 1 < places.length; i += 2)
        spread(out, { row, columns }, [places[i], places[i + 1]], add)
    }
  }
  yield 1
  return blur > 0.3 ? yield* smoothed(out, columns, rows, blur) : out
}

/** Adds to the cells of a row, which begins at `row`, by how much of each lies between two places. */
function spread(
  out: Float64Array,
  { row, columns }: { row: number; columns: number },
  [from, to]: [number, number],
  add: number,
): void {
  const [first, last] = [Math.max(0, Math.floor(from)), Math.min(columns - 1, Math.floor(to))]
  for (let c = first; c <= last; c++) out[row + c] += add * (Math.min(to, c + 1) - Math.max(from, c))
}

/** So many lines are smoothed in one piece. */
const pieceLines = 128

/** Smoothed by a Gaussian, row by row and column by column; beyond its edges it goes on as at them. */
function* smoothed(values: Float64Array, columns: number, rows: number, sigma: number): Steps<Float64Array> {
  const reach = Math.ceil(3 * sigma)
  const weights = Float64Array.from({ length: reach + 1 }, (_, i) => Math.exp(-((i / sigma) ** 2) / 2))
  const sum = weights[0] + 2 * weights.slice(1).reduce((all, w) => all + w, 0)
  /** Each line of `count` numbers that lie `step` apart; lines begin `next` apart. */
  function* along(
    from: Float64Array,
    { count, step, next }: { count: number; step: number; next: number },
  ): Steps<Float64Array> {
    const to = new Float64Array(from.length)
    for (let start = 0, line = 0; line < from.length / count; line++, start += next) {
      if (line % pieceLines === 0) yield 1
      for (let i = 0; i < count; i++) {
        let value = weights[0] * from[start + i * step]
        for (let k = 1; k <= reach; k++)
          value +=
            weights[k] *
            (from[start + Math.max(0, i - k) * step] + from[start + Math.min(count - 1, i + k) * step])
        to[start + i * step] = value / sum
      }
    }
    return to
  }
  const across = yield* along(values, { count: columns, step: 1, next: columns })
  return yield* along(across, { count: rows, step: columns, next: 1 })
}
