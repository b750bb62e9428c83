import type { Bend, Bent, Projection, Turn } from './projection'

/** Where a place of the plane has gone: within a triangle of three corners it keeps its shares of them. */
export function bentPlace(bend: Bend, x: number, y: number): [number, number] {
  const { x0, y0, cell, columns, rows, corners } = bend
  const [bx, by] = [(x - x0) / cell, (y - y0) / cell]
  const [inX, inY] = [Math.max(0, Math.min(columns, bx)), Math.max(0, Math.min(rows, by))]
  const [c, r] = [Math.min(columns - 1, Math.floor(inX)), Math.min(rows - 1, Math.floor(inY))]
  const [fx, fy] = [inX - c, inY - r]
  const a = 2 * (r * (columns + 1) + c)
  const [b, d] = [a + 2, a + 2 * (columns + 1)]
  const e = d + 2
  const at = (k: number): number =>
    fx + fy <= 1
      ? corners[a + k] + fx * (corners[b + k] - corners[a + k]) + fy * (corners[d + k] - corners[a + k])
      : corners[e + k] +
        (1 - fx) * (corners[d + k] - corners[e + k]) +
        (1 - fy) * (corners[b + k] - corners[e + k])
  return [at(0) + (bx - inX) * cell, at(1) + (by - inY) * cell]
}

/** The place that has gone to another one; null where none in the board has. */
export function straightPlace(bend: Bend, x: number, y: number): [number, number] | null {
  const { x0, y0, cell, columns, rows, corners } = bend
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const a = 2 * (r * (columns + 1) + c)
      const [b, d] = [a + 2, a + 2 * (columns + 1)]
      const first = sharesIn(corners, [a, b, d], x, y)
      if (first) return [x0 + (c + first[0]) * cell, y0 + (r + first[1]) * cell]
      const second = sharesIn(corners, [d + 2, d, b], x, y)
      if (second) return [x0 + (c + 1 - second[0]) * cell, y0 + (r + 1 - second[1]) * cell]
    }
  return null
}

/** The shares that a place has of the second and third corner of a triangle; null outside of it. */
function sharesIn(
  corners: Float64Array,
  [a, b, d]: [number, number, number],
  x: number,
  y: number,
): [number, number] | null {
  const [ux, uy] = [corners[b] - corners[a], corners[b + 1] - corners[a + 1]]
  const [vx, vy] = [corners[d] - corners[a], corners[d + 1] - corners[a + 1]]
  const [px, py] = [x - corners[a], y - corners[a + 1]]
  const det = ux * vy - uy * vx
  const [s, t] = [(px * vy - py * vx) / det, (ux * py - uy * px) / det]
  return s >= -1e-9 && t >= -1e-9 && s + t <= 1 + 1e-9 ? [s, t] : null
}

const numbers = new WeakMap<Float64Array, number>()
let numbered = 0

function numberOfBend({ corners }: Bend): number {
  const known = numbers.get(corners)
  if (known !== undefined) return known
  numbers.set(corners, ++numbered)
  return numbered
}

const made = new WeakMap<Float64Array, Map<Projection, Projection>>()

/**
 * A projection with its plane bent. Its `spec` says so as well, so that what was projected by one is not taken for what
 * the other gives.
 * @param turnDeg by how much the plane of `straight` is turned against that of the bend, clockwise on the page
 */
export function bentProjection(straight: Projection, bend: Bend, turnDeg = 0): Projection {
  const known = made.get(bend.corners)?.get(straight)
  if (known) return known
  const angle = (turnDeg * Math.PI) / 180
  const turn: Turn = { cos: Math.cos(angle), sin: Math.sin(angle) }
  const bent: Bent = { by: bend, straight, turn }
  const projection: Projection = {
    ...straight,
    spec: { ...straight.spec, ...{ bent: numberOfBend(bend) } },
    bent,
    project: (lon, lat) => throughBend(bent, ...straight.project(lon, lat)),
    invert(x, y) {
      const { cos, sin } = turn
      const place = straightPlace(bend, x * cos + y * sin, y * cos - x * sin)
      return place && straight.invert(place[0] * cos - place[1] * sin, place[0] * sin + place[1] * cos)
    },
  }
  const all = made.get(bend.corners) ?? new Map<Projection, Projection>()
  all.set(straight, projection)
  made.set(bend.corners, all)
  return projection
}

/** A place of the straight plane of a bent projection, in its own plane. */
export function throughBend({ by, turn: { cos, sin } }: Bent, x: number, y: number): [x: number, y: number] {
  const [bx, by_] = bentPlace(by, x * cos + y * sin, y * cos - x * sin)
  return [bx * cos - by_ * sin, bx * sin + by_ * cos]
}
