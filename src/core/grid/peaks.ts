import type { Grid } from './grid'

/** A highest place of a surface, in the plane of its grid, m. */
export type Peak = {
  x: number
  y: number
  value: number
  /** How far one has to go down from it to get to a higher one; for the highest, to the lowest cell. */
  prominence: number
}

/**
 * The peaks of a surface, the highest first: cells that no neighbour rises above, by their prominence, as summits are
 * ranked. Every cell is taken up from the highest down; where two hills meet, the lower one's prominence is known
 * (an exact sweep over the cells, with a union of those that hang together). Places at the very edge of the grid are no
 * peaks: the surface may go on rising beyond it. Place and value are those of the parabola through the neighbours.
 * @param least cells under this value, and those that are 0 in `within`, do not count
 * @param most so many, those of the highest prominence
 * @param atLeast of the whole range of values, 0 to 1: peaks of a lower prominence are left out
 */
export function peaksOf(
  grid: Grid,
  {
    least,
    within,
    most,
    atLeast,
  }: { least: number | null; within: Uint8Array | null; most: number; atLeast: number },
): Peak[] {
  const { values, columns, rows } = grid
  const order: number[] = []
  let lowest = Infinity
  for (let i = 0; i < values.length; i++) {
    if (!Number.isFinite(values[i]) || (within && !within[i])) continue
    if (values[i] < lowest) lowest = values[i]
    if (least === null || values[i] >= least) order.push(i)
  }
  if (!order.length) return []
  const downwards = Uint32Array.from(order).sort((a, b) => values[b] - values[a] || a - b)
  const top = values[downwards[0]]
  // Each hill is known by one of its cells, and knows its highest.
  const hill = new Int32Array(values.length).fill(-1)
  const root = (cell: number): number => {
    let at = cell
    while (hill[at] !== at) {
      hill[at] = hill[hill[at]]
      at = hill[at]
    }
    return at
  }
  const prominence = new Map<number, number>()
  for (const cell of downwards) {
    hill[cell] = cell
    for (const next of neighbours(cell, columns, rows)) {
      if (hill[next] < 0) continue
      const [own, other] = [root(cell), root(next)]
      if (own === other) continue
      // The root of a hill is its highest cell, as cells come from the highest down.
      const [high, low] = comesFirst(own, other, values) ? [own, other] : [other, own]
      if (low !== cell) prominence.set(low, values[low] - values[cell])
      hill[low] = high
    }
    if (hill[cell] === cell) prominence.set(cell, values[cell] - lowest)
  }
  const wanted = atLeast * (top - lowest)
  return [...prominence]
    .filter(([cell, height]) => height > 0 && height >= wanted && isInner(cell, columns, rows))
    .sort((a, b) => b[1] - a[1] || a[0] - b[0])
    .slice(0, most)
    .map(([cell, height]) => ({ ...refinedAt(grid, cell), prominence: height }))
    .sort((a, b) => b.value - a.value)
}

const comesFirst = (a: number, b: number, values: Float64Array): boolean =>
  values[a] === values[b] ? a < b : values[a] > values[b]

function* neighbours(cell: number, columns: number, rows: number): Generator<number> {
  const [column, row] = [cell % columns, Math.floor(cell / columns)]
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++) {
      const [c, r] = [column + dx, row + dy]
      if ((dx || dy) && c >= 0 && r >= 0 && c < columns && r < rows) yield r * columns + c
    }
}

const isInner = (cell: number, columns: number, rows: number): boolean => {
  const [column, row] = [cell % columns, Math.floor(cell / columns)]
  return column > 0 && row > 0 && column < columns - 1 && row < rows - 1
}

/** The top of the parabolas through a cell and its neighbours, across and down; the cell where one is missing. */
function refinedAt(
  { values, x0, y0, cell: side, columns }: Grid,
  cell: number,
): { x: number; y: number; value: number } {
  const value = values[cell]
  const shift = (before: number, after: number): [by: number, rise: number] => {
    const bend = before - 2 * value + after
    if (!(bend < 0)) return [0, 0]
    const by = Math.max(-0.5, Math.min(0.5, (before - after) / (2 * bend)))
    return [by, -((before - after) ** 2) / (8 * bend)]
  }
  const [dx, across] = shift(values[cell - 1], values[cell + 1])
  const [dy, down] = shift(values[cell - columns], values[cell + columns])
  return {
    x: x0 + ((cell % columns) + 0.5 + dx) * side,
    y: y0 + (Math.floor(cell / columns) + 0.5 + dy) * side,
    value: value + across + down,
  }
}
