/** A regular grid of heights, rows from the top; NaN where there is none. Heights in metres, or whatever is shaded. */
export type Heights = { values: Float64Array; columns: number; rows: number }

/**
 * What a step of one cell to the right, and one down, is on the ground: metres to the east and to the north of either,
 * by turns (east right, north right, east down, north down).
 */
export type GroundSteps = (column: number, row: number, out: Float64Array) => void

/** How much a surface rises for each metre of ground, to the right and upwards on the page; NaN without a height. */
export type Gradients = { right: Float32Array; up: Float32Array }

/** Of nine cells, row by row, those beside the middle, and those at its corners with the two that lie beside them. */
const sides = [1, 3, 5, 7] as const
const corners = [
  [0, 1, 3],
  [2, 1, 5],
  [6, 3, 7],
  [8, 5, 7],
] as const

/**
 * Gradients by the differences of the eight neighbours of a cell (Horn 1981). They are reckoned on the ground, by what
 * a step in either direction is there, and so are true in any projection: near the poles, on degrees, and where the
 * two directions do not stand upright on each other. Upwards is where the top of the page lies on the ground, and right
 * is upright on that. A neighbour that is missing lies on the straight line through the one opposite, or on the
 * plane of those beside it.
 */
export function gradientsOf({ values, columns, rows }: Heights, steps: GroundSteps): Gradients {
  const right = new Float32Array(values.length).fill(NaN)
  const up = new Float32Array(values.length).fill(NaN)
  const ground = new Float64Array(4)
  const z = new Float64Array(9)
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const i = r * columns + c
      const here = values[i]
      if (Number.isNaN(here)) continue
      for (let k = 0; k < 9; k++) {
        const [x, y] = [c + (k % 3) - 1, r + Math.floor(k / 3) - 1]
        z[k] = x < 0 || y < 0 || x >= columns || y >= rows ? NaN : values[y * columns + x]
      }
      for (const k of sides)
        if (Number.isNaN(z[k])) z[k] = Number.isNaN(z[8 - k]) ? here : 2 * here - z[8 - k]
      for (const [k, a, b] of corners)
        if (Number.isNaN(z[k])) z[k] = Number.isNaN(z[8 - k]) ? z[a] + z[b] - here : 2 * here - z[8 - k]
      const across = (z[2] + 2 * z[5] + z[8] - z[0] - 2 * z[3] - z[6]) / 8
      const down = (z[6] + 2 * z[7] + z[8] - z[0] - 2 * z[1] - z[2]) / 8
      steps(c, r, ground)
      const [e1, n1, e2, n2] = ground
      const det = e1 * n2 - e2 * n1
      const east = (across * n2 - down * n1) / det
      const north = (down * e1 - across * e2) / det
      const far = Math.hypot(e2, n2)
      const [ue, un] = [-e2 / far, -n2 / far]
      up[i] = east * ue + north * un
      right[i] = east * un - north * ue
    }
  return { right, up }
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
