import type { MultiPolygon, Polygon, Position } from 'geojson'
import { createProjection } from '@/core/projection/projection'
import type { ProjectionSpec } from '@/core/projection/catalogue'

export const cellShapes = ['hexagons', 'squares', 'triangles'] as const
export type CellShape = (typeof cellShapes)[number]

/**
 * Equal cells that cover a plane. `spacing` (m) is the distance between the middles of neighbouring hexagons and
 * squares, and the side of triangles.
 */
export type Tiling = { plane: ProjectionSpec; shape: CellShape; spacing: number }

/** Column and row of a cell; of triangles two columns make a rhombus, the odd one pointing down. */
export type CellId = [column: number, row: number]

const root3 = Math.sqrt(3)

/** Ground under one cell, m². */
export const cellArea = ({ shape, spacing }: Tiling): number =>
  spacing ** 2 * { hexagons: root3 / 2, squares: 1, triangles: root3 / 4 }[shape]

/** The cell that a place of the plane lies in; places on an edge belong to one cell. */
export function cellAt({ shape, spacing }: Tiling, x: number, y: number): CellId {
  if (shape === 'squares') return [Math.floor(x / spacing), Math.floor(y / spacing)]
  if (shape === 'hexagons') {
    // The nearest middle, by rounding three coordinates that add up to zero.
    const r = (2 * y) / (root3 * spacing)
    const q = x / spacing - r / 2
    const [a, b, c] = [Math.round(q), Math.round(r), Math.round(-q - r)]
    const [da, db, dc] = [Math.abs(a - q), Math.abs(b - r), Math.abs(c + q + r)]
    if (da > db && da > dc) return [-b - c, b]
    return db > dc ? [a, -a - c] : [a, b]
  }
  const row = Math.floor((2 * y) / (root3 * spacing))
  const v = (2 * y) / (root3 * spacing) - row
  const u = x / spacing - (row + v) / 2
  const column = Math.floor(u)
  return [2 * column + Number(u - column + v >= 1), row]
}

/**
 * Corners of a cell in whole steps of the lattice, so that neighbours have the very same ones: x in half spacings, y in
 * `stepOf` metres.
 */
function cornersOf(shape: CellShape, [column, row]: CellId): [number, number][] {
  if (shape === 'squares')
    return [
      [2 * column, row],
      [2 * column + 2, row],
      [2 * column + 2, row + 1],
      [2 * column, row + 1],
    ]
  if (shape === 'hexagons') {
    const [x, y] = [2 * column + row, 3 * row]
    return [
      [x, y - 2],
      [x + 1, y - 1],
      [x + 1, y + 1],
      [x, y + 2],
      [x - 1, y + 1],
      [x - 1, y - 1],
    ]
  }
  const down = column & 1
  const x = column - down + row
  return down
    ? [
        [x + 2, row],
        [x + 3, row + 1],
        [x + 1, row + 1],
      ]
    : [
        [x, row],
        [x + 2, row],
        [x + 1, row + 1],
      ]
}

const stepOf = ({ shape, spacing }: Tiling): number =>
  spacing * { hexagons: 1 / (2 * root3), squares: 1, triangles: root3 / 2 }[shape]

/** The middle of a cell in the plane. */
export function middleOfCell(tiling: Tiling, cell: CellId): [number, number] {
  const corners = cornersOf(tiling.shape, cell)
  const mean = (k: 0 | 1) => corners.reduce((sum, corner) => sum + corner[k], 0) / corners.length
  return [(mean(0) * tiling.spacing) / 2, mean(1) * stepOf(tiling)]
}

/** Longer edges are bent with the ground, m. */
const longestEdge = 8000

/**
 * Cells as areas in degrees; neighbours share their corners to the last figure. A cell at the edge of the world is
 * drawn in to it.
 * @param scales for each cell what part of its width and height it has, about its middle; all of it without
 */
export function cellPolygons(
  tiling: Tiling,
  cells: readonly CellId[],
  scales: Float64Array | null = null,
): (Polygon | MultiPolygon)[] {
  const { invert } = createProjection(tiling.plane)
  const step = stepOf(tiling)
  const pieces = Math.max(1, Math.min(32, Math.ceil(tiling.spacing / longestEdge)))
  return cells.map((cell, n) => {
    const corners = cornersOf(tiling.shape, cell)
    const middle = middleOfCell(tiling, cell)
    const scale = scales ? scales[n] : 1
    const ring = corners.flatMap((corner, i): Position[] => {
      const next = corners[(i + 1) % corners.length]
      return Array.from({ length: pieces }, (_, k) => {
        // Whole numbers up to the division: the same from either end.
        const x = ((corner[0] * (pieces - k) + next[0] * k) / pieces) * (tiling.spacing / 2)
        const y = ((corner[1] * (pieces - k) + next[1] * k) / pieces) * step
        return placed(invert, middle, scale, [x, y])
      })
    })
    return { type: 'Polygon', coordinates: [[...ring, ring[0]]] }
  })
}

/** A corner in degrees; one beyond the edge of the world is drawn in towards the middle of its cell. */
function placed(
  invert: (x: number, y: number) => [number, number] | null,
  [mx, my]: [number, number],
  scale: number,
  [x, y]: [number, number],
): Position {
  const direct = scale === 1 ? invert(x, y) : null
  if (direct) return direct
  for (let share = scale; share > 0; share -= 0.02) {
    const place = invert(mx + (x - mx) * share, my + (y - my) * share)
    if (place) return place
  }
  return invert(mx, my) ?? [0, 0]
}
