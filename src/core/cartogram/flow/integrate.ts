import type { Steps } from '@/core/grid/steps'
import type { Flux } from './flux'
import type { Board } from './rasterise'

/** In one step of time nothing goes farther than this, cells. */
const farthest = 0.7
const mostSteps = 400
/** So many corners are moved in one piece. */
const pieceCorners = 32_768

/**
 * Where the corners of all cells have gone when it has flown: dx ∕ dt = J ∕ ρ(t), with ρ(t) = (1 − t) ρ + t ρ̄, from
 * t = 0 to 1, by the midpoint method with steps that follow the speed.
 * @returns x and y by turns, row by row, one more each way than there are cells; in cells
 */
export function* integrated(
  flux: Flux,
  density: Float64Array,
  { columns, rows }: Board,
): Steps<Float64Array> {
  const corners = (columns + 1) * (rows + 1)
  const at = Float64Array.from({ length: 2 * corners }, (_, i) =>
    i % 2 ? Math.floor((i >> 1) / (columns + 1)) : (i >> 1) % (columns + 1),
  )
  yield 0
  const middles: Values = { values: density, columns, rows }
  const sides: Values = { values: flux.x, columns: columns + 1, rows }
  const tops: Values = { values: flux.y, columns, rows: rows + 1 }
  const speed = new Float64Array(2)
  const middle = new Float64Array(2)
  const velocity = (x: number, y: number, t: number, out: Float64Array): void => {
    const here = (1 - t) * between(middles, x - 0.5, y - 0.5) + t * flux.mean
    out[0] = between(sides, x, y - 0.5) / here
    out[1] = between(tops, x - 0.5, y) / here
  }
  let t = 0
  // How fast it flows is known from the step before, and changes little.
  let fastest = 1e-9
  for (let i = 0; i < corners; i++) {
    velocity(at[2 * i], at[2 * i + 1], 0, speed)
    fastest = Math.max(fastest, Math.abs(speed[0]), Math.abs(speed[1]))
    if (i % pieceCorners === 0) yield 0
  }
  for (let step = 0; t < 1 && step < mostSteps; step++) {
    const dt = Math.min(1 - t, Math.max(1 / mostSteps, farthest / fastest))
    fastest = 1e-9
    for (let i = 0; i < corners; i++) {
      const [x, y] = [at[2 * i], at[2 * i + 1]]
      velocity(x, y, t, speed)
      velocity(x + (dt / 2) * speed[0], y + (dt / 2) * speed[1], t + dt / 2, middle)
      fastest = Math.max(fastest, Math.abs(middle[0]), Math.abs(middle[1]))
      at[2 * i] = Math.min(columns, Math.max(0, x + dt * middle[0]))
      at[2 * i + 1] = Math.min(rows, Math.max(0, y + dt * middle[1]))
      if (i % pieceCorners === 0) yield Math.min(1, t)
    }
    t += dt
    yield Math.min(1, t)
  }
  return at
}

type Values = { values: Float64Array; columns: number; rows: number }

const held = (value: number, most: number): number => {
  if (value < 0) return 0
  return value > most ? most : value
}

/** A value between those of a grid, the first at 0, 0; beyond its edges as at them. */
function between({ values, columns, rows }: Values, x: number, y: number): number {
  const [cx, cy] = [held(x, columns - 1), held(y, rows - 1)]
  const c = Math.min(columns - 2, Math.floor(cx))
  const r = Math.min(rows - 2, Math.floor(cy))
  const [fx, fy] = [cx - c, cy - r]
  const i = r * columns + c
  return (
    (1 - fy) * ((1 - fx) * values[i] + fx * values[i + 1]) +
    fy * ((1 - fx) * values[i + columns] + fx * values[i + columns + 1])
  )
}
