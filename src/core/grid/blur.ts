import type { Grid } from './grid'
import type { Steps } from './steps'

/** So many means over a box after each other are a Gaussian, near enough. */
const passes = 4

/**
 * A surface smoothed by a Gaussian: four means over boxes, whose widths are chosen so that their variances add up to
 * its own (Wells 1986; Kovesi 2010). Cells without a value count nothing and stay without one, and those beside them
 * take the mean of what there is: nothing is pulled down to zero at an edge.
 * @param sigmaM standard deviation, m
 */
export function* blurred(grid: Grid, sigmaM: number): Steps<Grid> {
  const { cell } = grid
  return sigmaM > 0 ? { ...grid, values: yield* blurredCells(grid, sigmaM / cell) } : grid
}

/** The same of values in cells, whatever these measure. @param sigma standard deviation, cells */
export function* blurredCells(
  grid: Pick<Grid, 'columns' | 'rows'> & { values: ArrayLike<number> },
  sigma: number,
): Steps<Float64Array> {
  const { columns, rows } = grid
  const known = Float64Array.from(grid.values, (value) => (Number.isNaN(value) ? 0 : 1))
  const sums = Float64Array.from(grid.values, (value) => (Number.isNaN(value) ? 0 : value))
  const weights = known.slice()
  for (const [pass, half] of boxesFor(sigma).entries()) {
    yield pass / passes
    for (const field of [sums, weights]) {
      for (let r = 0; r < rows; r++) slide(field, { first: r * columns, step: 1, count: columns }, half)
      for (let c = 0; c < columns; c++) slide(field, { first: c, step: columns, count: rows }, half)
    }
  }
  return sums.map((sum, i) => (known[i] ? sum / weights[i] : NaN))
}

/** How far each box reaches to either side, in cells and parts of them: the variance of a box is (2·half + 1)² ∕ 12. */
function boxesFor(sigma: number): number[] {
  const half = (Math.sqrt((12 * sigma * sigma) / passes + 1) - 1) / 2
  return new Array<number>(passes).fill(half)
}

type Line = { first: number; step: number; count: number }

/** The mean over a box sliding along a row or column; cells beyond its ends count as nothing. */
function slide(field: Float64Array, { first, step, count }: Line, half: number): void {
  const whole = Math.floor(half)
  const part = half - whole
  const line = new Float64Array(count)
  for (let i = 0; i < count; i++) line[i] = field[first + i * step]
  const at = (i: number): number => (i >= 0 && i < count ? line[i] : 0)
  let sum = 0
  for (let i = 0; i <= whole; i++) sum += at(i)
  const width = 2 * half + 1
  for (let i = 0; i < count; i++) {
    // The cells at either end are covered in part.
    field[first + i * step] = (sum + part * (at(i - whole - 1) + at(i + whole + 1))) / width
    sum += at(i + whole + 1) - at(i - whole)
  }
}
