import type { Steps } from '@/core/grid/steps'
import { cosineTransform } from './cosines'
import type { Board } from './rasterise'

/**
 * What flows through the sides of each cell in all the time, from one density to the same everywhere: the gradient of
 * a potential φ with ∇²φ = ρ − ρ̄ and nothing over the edges of the board. `x` has `columns + 1` numbers a row, `y`
 * one row more than there are.
 */
export type Flux = { x: Float64Array; y: Float64Array; mean: number }

/**
 * The flux of a density, by the cosine transform (DCT-II), for which the discrete Laplacian of a board with closed
 * edges is a product: 2 cos(π k ∕ n) − 2 along either axis. Sides of a cell let out exactly what it has too much.
 */
export function* fluxOf(density: Float64Array, { columns, rows }: Board): Steps<Flux> {
  const mean = density.reduce((sum, value) => sum + value, 0) / density.length
  const [across, down] = [cosineTransform(columns), cosineTransform(rows)]
  const flat = density.slice()
  yield 0.1
  across.forward(flat)
  yield 0.2
  const waves = turned(flat, columns)
  yield 0.3
  down.forward(waves)
  yield 0.4
  for (let j = 0; j < columns; j++)
    for (let k = 0; k < rows; k++) {
      const lambda = 2 * Math.cos((Math.PI * j) / columns) + 2 * Math.cos((Math.PI * k) / rows) - 4
      waves[j * rows + k] = j || k ? waves[j * rows + k] / lambda : 0
    }
  yield 0.5
  down.back(waves)
  yield 0.7
  const phi = turned(waves, rows)
  yield 0.8
  across.back(phi)
  yield 0.9
  const x = new Float64Array((columns + 1) * rows)
  const y = new Float64Array(columns * (rows + 1))
  for (let r = 0; r < rows; r++)
    for (let c = 1; c < columns; c++)
      x[r * (columns + 1) + c] = phi[r * columns + c] - phi[r * columns + c - 1]
  for (let r = 1; r < rows; r++)
    for (let c = 0; c < columns; c++) y[r * columns + c] = phi[r * columns + c] - phi[(r - 1) * columns + c]
  return { x, y, mean }
}

/** Rows of `n` numbers as columns. */
function turned(values: Float64Array, n: number): Float64Array {
  const rows = values.length / n
  const out = new Float64Array(values.length)
  for (let r = 0; r < rows; r++) for (let c = 0; c < n; c++) out[c * rows + r] = values[r * n + c]
  return out
}
