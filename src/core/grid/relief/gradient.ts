/** A regular grid of heights, rows from the top; NaN where there is none. Heights in metres, or whatever is shaded. */
export type Heights = { values: Float64Array | Float32Array; columns: number; rows: number }

/**
 * What a step of one cell to the right, and one down, is on the ground: metres to the east and to the north of either,
 * by turns (east right, north right, east down, north down).
 */
export type GroundSteps = (column: number, row: number, out: Float64Array) => void

/** How much a surface rises for each metre of ground, to the right and upwards on the page; NaN without a height. */
export type Gradients = { right: Float32Array; up: Float32Array }

/** What upwards means: the way to the top of the page, or north. */
export type Upwards = 'page' | 'north'

/** Of nine cells, row by row, those beside the middle, and those at its corners with the two that lie beside them. */
const sides = [1, 3, 5, 7] as const
const corners = [
  [0, 1, 3],
  [2, 1, 5],
  [6, 3, 7],
  [8, 5, 7],
] as const

/** Steps are taken from where they are asked for at every so many cells, and in between by straight lines. */
const every = 8

/**
 * Gradients by the differences of the eight neighbours of a cell (Horn 1981). They are reckoned on the ground, by what
 * a step in either direction is there, and so are true in any projection: near the poles, on degrees, and where the
 * two directions do not stand upright on each other. Upwards is where the top of the page lies on the ground, and right
 * is upright on that. A neighbour that is missing lies on the straight line through the one opposite, or on the
 * plane of those beside it.
 */
export function gradientsOf(
  { values, columns, rows }: Heights,
  steps: GroundSteps,
  upwards: Upwards = 'page',
): Gradients {
  const right = new Float32Array(columns * rows).fill(NaN)
  const up = new Float32Array(columns * rows).fill(NaN)
  const z = new Float64Array(9)
  const [a, b] = [new Float64Array(4), new Float64Array(4)]
  for (let r = 0; r < rows; r++)
    for (let c0 = 0; c0 < columns; c0 += every) {
      const end = Math.min(columns, c0 + every)
      turnsOf(steps, [c0, r], upwards, a)
      turnsOf(steps, [end - 1, r], upwards, b)
      for (let c = c0; c < end; c++) {
        const i = r * columns + c
        const here = values[i]
        if (here !== here) continue
        let across: number
        let down: number
        const isInside = c > 0 && r > 0 && c < columns - 1 && r < rows - 1
        const [above, below] = [i - columns, i + columns]
        if (isInside) {
          const [nw, ne, sw, se] = [
            values[above - 1],
            values[above + 1],
            values[below - 1],
            values[below + 1],
          ]
          across = (ne + se - nw - sw + 2 * (values[i + 1] - values[i - 1])) / 8
          down = (sw + se - nw - ne + 2 * (values[below] - values[above])) / 8
        } else across = down = NaN
        if (across + down !== across + down) {
          around({ values, columns, rows }, [c, r], z)
          across = (z[2] + 2 * z[5] + z[8] - z[0] - 2 * z[3] - z[6]) / 8
          down = (z[6] + 2 * z[7] + z[8] - z[0] - 2 * z[1] - z[2]) / 8
        }
        const u = end - 1 > c0 ? (c - c0) / (end - 1 - c0) : 0
        right[i] = across * (a[0] + (b[0] - a[0]) * u) + down * (a[1] + (b[1] - a[1]) * u)
        up[i] = across * (a[2] + (b[2] - a[2]) * u) + down * (a[3] + (b[3] - a[3]) * u)
      }
    }
  return { right, up }
}

const nine = new Float64Array(9)
const turns = new Float64Array(4)

/** The gradient of one cell with a height, as `gradientsOf` has it, put into `out`: to the right and upwards. */
export function gradientAt(
  heights: Heights,
  steps: GroundSteps,
  { column, row, upwards }: { column: number; row: number; upwards: Upwards },
  out: Float64Array,
): void {
  const z = nine
  around(heights, [column, row], z)
  const across = (z[2] + 2 * z[5] + z[8] - z[0] - 2 * z[3] - z[6]) / 8
  const down = (z[6] + 2 * z[7] + z[8] - z[0] - 2 * z[1] - z[2]) / 8
  turnsOf(steps, [column, row], upwards, turns)
  out[0] = across * turns[0] + down * turns[1]
  out[1] = across * turns[2] + down * turns[3]
}

/** The nine heights round a cell, with those put in that are missing. */
function around({ values, columns, rows }: Heights, [c, r]: [number, number], z: Float64Array): void {
  const here = values[r * columns + c]
  for (let k = 0; k < 9; k++) {
    const [x, y] = [c + (k % 3) - 1, r + Math.floor(k / 3) - 1]
    z[k] = x < 0 || y < 0 || x >= columns || y >= rows ? NaN : values[y * columns + x]
  }
  for (const k of sides) if (Number.isNaN(z[k])) z[k] = Number.isNaN(z[8 - k]) ? here : 2 * here - z[8 - k]
  for (const [k, a, b] of corners)
    if (Number.isNaN(z[k])) z[k] = Number.isNaN(z[8 - k]) ? z[a] + z[b] - here : 2 * here - z[8 - k]
}

/**
 * What a rise across and a rise down of a cell are worth to the right and upwards: right = across · out[0] + down ·
 * out[1], up = across · out[2] + down · out[3].
 */
export function turnsOf(
  steps: GroundSteps,
  [c, r]: [number, number],
  upwards: Upwards,
  out: Float64Array,
): void {
  steps(c, r, out)
  const [e1, n1, e2, n2] = out
  const det = e1 * n2 - e2 * n1
  const far = Math.hypot(e2, n2)
  const [ue, un] = upwards === 'north' ? [0, 1] : [-e2 / far, -n2 / far]
  // East is (across · n2 − down · n1) ∕ det and north (down · e1 − across · e2) ∕ det.
  out[0] = (n2 * un + e2 * ue) / det
  out[1] = (-n1 * un - e1 * ue) / det
  out[2] = (n2 * ue - e2 * un) / det
  out[3] = (-n1 * ue + e1 * un) / det
}

/** How steep a gradient is, degrees. */
export const slopeDeg = (right: number, up: number): number =>
  (Math.atan(Math.hypot(right, up)) * 180) / Math.PI

/** Which way it goes down, degrees clockwise from the top of the page; NaN where it is level. */
export function aspectDeg(right: number, up: number): number {
  if (right === 0 && up === 0) return NaN
  const deg = (Math.atan2(-right, -up) * 180) / Math.PI
  return deg < 0 ? deg + 360 : deg + 0
}
