import { gradientAt, turnsOf, type GroundSteps, type Heights } from './gradient'
import { lightKernel } from './light-kernel'
import { lit } from './shade'

/** What a step is on the ground is taken for the same over so many cells of a row. */
const same = 1024

/**
 * How much of one light falls on each cell, 0 to 1, by the differences of its eight neighbours (Horn 1981); NaN without
 * a height. Azimuth and altitude in degrees, the first clockwise from north. Heights of 32 bits are taken four at a
 * time where the platform can do that; else sums of three cells are carried along a row, and each height is read three
 * times, not nine.
 * @param into where the light goes, as many cells as there are heights; missing takes new room
 */
export function hillshade(
  heights: Heights,
  steps: GroundSteps,
  {
    azimuthDeg,
    altitudeDeg,
    exaggeration,
  }: { azimuthDeg: number; altitudeDeg: number; exaggeration: number },
  into?: Float32Array,
): Float32Array {
  const { values, columns, rows } = heights
  const out = into ?? new Float32Array(columns * rows)
  /** Rows in which a cell has no height, or a neighbour without one. */
  const holes = new Uint8Array(rows)
  const [sun, high] = [(azimuthDeg * Math.PI) / 180, (altitudeDeg * Math.PI) / 180]
  const [east, north, rise, flat] = [Math.sin(sun), Math.cos(sun), Math.sin(high), Math.cos(high)]
  const turns = new Float64Array(4)
  const terms = new Float64Array(6)
  const by = exaggeration / 8
  const kernel = values instanceof Float32Array ? lightKernel(columns) : null
  const load = (row: number): void => {
    if (values instanceof Float32Array && row < rows)
      kernel?.load(row, values.subarray(row * columns, (row + 1) * columns))
  }
  for (let r = 0; r < 2; r++) load(r)
  for (let r = 1; r < rows - 1; r++) {
    load(r + 1)
    for (let c0 = 1; c0 < columns - 1; c0 += same) {
      const end = Math.min(columns - 1, c0 + same)
      turnsOf(steps, [(c0 + end) >> 1, r], 'north', turns)
      const [a, b, c, d] = [turns[0] * by, turns[1] * by, turns[2] * by, turns[3] * by]
      // Towards the light, and the square of the slope, by how much it rises across and down.
      terms.set([flat * (a * east + c * north), flat * (b * east + d * north)])
      terms.set([a * a + c * c, 2 * (a * b + c * d), b * b + d * d, rise], 2)
      const whole = kernel
        ? kernel.shade(r, c0, end, terms)
        : shadePiece({ values, out, columns, terms }, r * columns + c0, r * columns + end)
      if (!whole) holes[r] = 1
    }
    if (kernel && columns > 2) out.set(kernel.light(1, columns - 1), r * columns + 1)
  }
  const edges = edgeFiller(heights, steps, { azimuthDeg, altitudeDeg, exaggeration }, out)
  for (let r = 0; r < rows; r++) {
    const isEdge = r === 0 || r === rows - 1
    const step = isEdge || holes[r] ? 1 : Math.max(1, columns - 1)
    for (let c = 0; c < columns; c += step) edges(c, r)
  }
  return out
}

type Piece = {
  values: Heights['values']
  out: Float32Array
  columns: number
  /** What the light and the square of the slope are made of. */
  terms: Float64Array
}

/** Light on the cells of a row from `i` up to `last`; whether none of them was without a height. */
function shadePiece({ values, out, columns, terms }: Piece, first: number, last: number): boolean {
  const [p, q, xx, xy, yy, rise] = terms
  let above = values[first - 1 - columns]
  let below = values[first - 1 + columns]
  let sumLeft = above + 2 * values[first - 1] + below
  let dropLeft = below - above
  above = values[first - columns]
  below = values[first + columns]
  let sum = above + 2 * values[first] + below
  let drop = below - above
  let check = 0
  for (let i = first; i < last; i++) {
    above = values[i + 1 - columns]
    below = values[i + 1 + columns]
    const sumRight = above + 2 * values[i + 1] + below
    const dropRight = below - above
    const across = sumRight - sumLeft
    const down = dropLeft + 2 * drop + dropRight
    const light =
      (rise - p * across - q * down) / Math.sqrt(1 + across * (xx * across + xy * down) + yy * down * down)
    out[i] = light > 0 ? light : 0
    check += light
    sumLeft = sum
    sum = sumRight
    dropLeft = drop
    drop = dropRight
  }
  // A single one that is missing leaves nothing of the sum.
  return check === check
}

/** Cells at the edge, and beside others without a height, by what neighbours they have. */
function edgeFiller(
  heights: Heights,
  steps: GroundSteps,
  {
    azimuthDeg,
    altitudeDeg,
    exaggeration,
  }: { azimuthDeg: number; altitudeDeg: number; exaggeration: number },
  out: Float32Array,
): (column: number, row: number) => void {
  const { values, columns } = heights
  const slope = new Float64Array(2)
  return (column, row) => {
    const i = row * columns + column
    if (values[i] !== values[i]) {
      out[i] = NaN
      return
    }
    gradientAt(heights, steps, { column, row, upwards: 'north' }, slope)
    out[i] = Math.max(0, lit(exaggeration * slope[0], exaggeration * slope[1], azimuthDeg, altitudeDeg))
  }
}
