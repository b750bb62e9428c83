/** What blocks look like. */
export const blockShapes = ['hexagons', 'squares'] as const
export type BlockShape = (typeof blockShapes)[number]

/**
 * A grid of blocks in the plane: `side` is the distance between the middles of two in a row, m. A block has the address
 * (q, r); its middle lies at x0 + q · side, y0 + r · side for squares. Rows of hexagons, which stand on a corner, are
 * half a side farther to the right each, and √3∕2 of a side apart.
 */
export type BlockGrid = { shape: BlockShape; side: number; x0: number; y0: number }

const hexRow = Math.sqrt(3) / 2

/** What a block measures, in the square of the unit of its side. */
export const blockArea = (shape: BlockShape, side: number): number =>
  shape === 'squares' ? side ** 2 : hexRow * side ** 2

/** The side of blocks that measure so much each. */
export const blockSide = (shape: BlockShape, area: number): number =>
  shape === 'squares' ? Math.sqrt(area) : Math.sqrt(area / hexRow)

/** The middle of a block. */
export function middleOf({ shape, side, x0, y0 }: BlockGrid, q: number, r: number): [number, number] {
  return shape === 'squares'
    ? [x0 + q * side, y0 + r * side]
    : [x0 + (q + r / 2) * side, y0 + r * hexRow * side]
}

/** A place of the plane in the grid's own units, in which addresses are whole numbers. */
export function inGrid({ shape, side, x0, y0 }: BlockGrid, x: number, y: number): [q: number, r: number] {
  if (shape === 'squares') return [(x - x0) / side, (y - y0) / side]
  const r = (y - y0) / (hexRow * side)
  return [(x - x0) / side - r / 2, r]
}

/** The address of the block at a place of the plane. */
export const blockAt = (grid: BlockGrid, x: number, y: number): [q: number, r: number] =>
  nearestBlock(grid.shape, ...inGrid(grid, x, y))

/** The address of the block in which a place in the grid's own units lies. */
export function nearestBlock(shape: BlockShape, q: number, r: number): [q: number, r: number] {
  // Nothing is added to make 0 of −0.
  const [rq, rr] = [Math.round(q) + 0, Math.round(r) + 0]
  if (shape === 'squares') return [rq, rr]
  // Of three coordinates with the sum 0 the one that was rounded most follows from the others.
  const s = -q - r
  const rs = Math.round(s) + 0
  const [dq, dr, ds] = [Math.abs(rq - q), Math.abs(rr - r), Math.abs(rs - s)]
  if (dq > dr && dq > ds) return [0 - rr - rs, rr]
  return [rq, dr > ds ? 0 - rq - rs : rr]
}

/** The corners of a block, in turn; side k lies between corners k and k + 1, towards neighbour k of `around`. */
export function cornersOf(grid: BlockGrid, q: number, r: number): [number, number][] {
  const [x, y] = middleOf(grid, q, r)
  const count = grid.shape === 'squares' ? 4 : 6
  const reach = grid.side / (grid.shape === 'squares' ? Math.SQRT2 : Math.sqrt(3))
  return Array.from({ length: count }, (_, k) => {
    const angle = (2 * Math.PI * (k - 0.5)) / count
    return [x + reach * Math.cos(angle), y + reach * Math.sin(angle)]
  })
}

/** Addresses of the blocks that share a side with one, beginning on the right and turning downwards. */
export const around: Record<BlockShape, readonly (readonly [q: number, r: number])[]> = {
  hexagons: [
    [1, 0],
    [0, 1],
    [-1, 1],
    [-1, 0],
    [0, -1],
    [1, -1],
  ],
  squares: [
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
  ],
}

/** The same with the blocks that share a corner. */
export const ringAround: Record<BlockShape, readonly (readonly [q: number, r: number])[]> = {
  hexagons: around.hexagons,
  squares: [
    [1, 0],
    [1, 1],
    [0, 1],
    [-1, 1],
    [-1, 0],
    [-1, -1],
    [0, -1],
    [1, -1],
  ],
}
