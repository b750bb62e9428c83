import { Heap } from '@/core/grid/heap'

/**
 * Ground on a square grid, row by row: heights, and for each cell whether it is sea (0), ground that water wears down
 * (1), or ground that stays as it is (2), such as the bed of a river or a lake, down to which all about it is worn. Sea
 * lies all round.
 */
export type Ground = {
  columns: number
  rows: number
  cellM: number
  heights: Float64Array
  kinds: Uint8Array
}

export const sea = 0
export const worn = 1
export const fixed = 2

type Drainage = {
  /** Cells of ground from the lowest outlets upwards: whatever water runs into comes before it. */
  order: Int32Array
  /** Where the water of a cell runs; −1 at outlets. */
  into: Int32Array
}

/** Every hollow is filled to its brim by so much a cell, so that its water finds a way. */
const brim = 0.01

/**
 * Where water runs: down the steepest way to one of eight neighbours, and out of hollows over the lowest point of their
 * rim (Barnes, Lehman and Mulla 2014).
 */
export function drainage({ columns, rows, heights, kinds }: Ground): Drainage {
  const cells = columns * rows
  const filled = Float64Array.from(heights)
  const into = new Int32Array(cells).fill(-1)
  const seen = new Uint8Array(cells)
  const order = new Int32Array(cells)
  let count = 0
  const next = new Heap()
  const { by, length } = eight(columns)
  for (let i = 0; i < cells; i++) {
    if (kinds[i] === sea) seen[i] = 1
    else if (kinds[i] === fixed || touchesSea(i, kinds, by)) {
      seen[i] = 1
      next.push(i, filled[i])
    }
  }
  for (let top = next.pop(); top; top = next.pop()) {
    const cell = top[0]
    order[count++] = cell
    const over = filled[cell] + brim
    for (let k = 0; k < 8; k++) {
      const other = cell + by[k]
      if (seen[other]) continue
      seen[other] = 1
      if (filled[other] < over) filled[other] = over
      into[other] = cell
      next.push(other, filled[other])
    }
  }
  for (let k = 0; k < count; k++) {
    const cell = order[k]
    if (into[cell] < 0) continue
    let steepest = 0
    for (let n = 0; n < 8; n++) {
      const fall = (filled[cell] - filled[cell + by[n]]) / length[n]
      if (fall > steepest && kinds[cell + by[n]] !== sea) {
        steepest = fall
        into[cell] = cell + by[n]
      }
    }
  }
  return { order: order.subarray(0, count), into }
}

function touchesSea(cell: number, kinds: Uint8Array, by: Int32Array): boolean {
  for (let k = 0; k < 8; k++) if (kinds[cell + by[k]] === sea) return true
  return false
}

/** The eight neighbours of a cell, and how far they lie in cells. */
const eight = (columns: number): { by: Int32Array; length: Float64Array } => ({
  by: Int32Array.of(-columns - 1, -columns, -columns + 1, -1, 1, columns - 1, columns, columns + 1),
  length: Float64Array.of(Math.SQRT2, 1, Math.SQRT2, 1, 1, Math.SQRT2, 1, Math.SQRT2),
})

/**
 * Wears ground down by running water: the rate at which a bed is lowered goes by the root of the ground that drains
 * over it and by its slope, while the ground rises (Howard 1994; solved from the outlets upwards after Braun and
 * Willett 2013), and slopes creep. Heights are changed in place.
 * @param rise metres by which each cell rises in a step
 * @param strength how much of its fall a cell with a square kilometre above it loses in a step
 * @param creep share of the mean of its neighbours that a cell takes on in a step
 */
export function erode(
  ground: Ground,
  rise: Float64Array,
  { steps, strength, creep }: { steps: number; strength: number; creep: number },
): void {
  const { columns, heights, kinds, cellM } = ground
  const cellKm2 = (cellM / 1000) ** 2
  const area = new Float64Array(heights.length)
  let { order, into } = drainage(ground)
  for (let step = 0; step < steps; step++) {
    // Ways of water change slowly: every other step will do.
    if (step && step % 2 === 0) ({ order, into } = drainage(ground))
    area.fill(cellKm2)
    for (let k = order.length - 1; k >= 0; k--)
      if (into[order[k]] >= 0) area[into[order[k]]] += area[order[k]]
    for (const cell of order) {
      const to = into[cell]
      if (to < 0) continue
      const diagonal = Math.abs(to - cell) !== 1 && Math.abs(to - cell) !== columns
      const wear = (strength * Math.sqrt(area[cell])) / (diagonal ? Math.SQRT2 : 1)
      heights[cell] = (heights[cell] + rise[cell] + wear * heights[to]) / (1 + wear)
    }
    const before = Float64Array.from(heights)
    for (const cell of order) {
      if (kinds[cell] !== worn || into[cell] < 0) continue
      const mean = (before[cell - 1] + before[cell + 1] + before[cell - columns] + before[cell + columns]) / 4
      heights[cell] += creep * (mean - before[cell])
    }
  }
}
