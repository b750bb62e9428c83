import { blockAt, middleOf, ringAround, type BlockGrid, type BlockShape } from './block-grid'
import { addressKey } from './blocks/cells'

/** The address of a tile, as blocks have them. */
export type TileAddress = readonly [q: number, r: number]

/**
 * Tiles that were placed by hand: where the middle of tile (0, 0) lies in the plane, m, and the address of each
 * feature's tile; undefined for features that have none yet.
 */
export type TileHand = {
  shape: BlockShape
  origin: readonly [x: number, y: number]
  cells: readonly (TileAddress | undefined)[]
}

/** Tiles where they stand. */
export type Tiles = {
  grid: BlockGrid
  /** The middle of each feature's tile, x and y by turns; NaN without one. */
  at: Float64Array
  /** The address of each feature's tile; null without one. */
  cells: (TileAddress | null)[]
  /** Features that have no place by hand, or one that another has too, and stand at the nearest free one. */
  strays: number
}

/** Tiles at places on a grid, on which the one nearest to the middle of all is (0, 0). */
export function tilesAt(at: Float64Array, shape: BlockShape, side: number): Tiles {
  const there = [...Array(at.length / 2).keys()].filter((f) => Number.isFinite(at[2 * f]))
  const [cx, cy] = [0, 1].map((k) => there.reduce((sum, f) => sum + at[2 * f + k], 0) / (there.length || 1))
  const far = (f: number) => Math.hypot(at[2 * f] - cx, at[2 * f + 1] - cy)
  const middle = there.reduce((best, f) => (best < 0 || far(f) < far(best) ? f : best), -1)
  const grid: BlockGrid = {
    shape,
    side,
    x0: middle < 0 ? 0 : at[2 * middle],
    y0: middle < 0 ? 0 : at[2 * middle + 1],
  }
  const cells = Array.from({ length: at.length / 2 }, (_, f) =>
    Number.isFinite(at[2 * f]) ? blockAt(grid, at[2 * f], at[2 * f + 1]) : null,
  )
  return { grid, at, cells, strays: 0 }
}

/**
 * Tiles where a hand put them. Areas without one, and those whose tile another has, stand at the free tile nearest to
 * their own middle, in the order of the features.
 * @param centres the middles of the areas, x and y by turns
 * @param reach above zero for the features that have a tile
 */
export function byHand(
  { shape, origin: [x0, y0], cells }: TileHand,
  centres: Float64Array,
  reach: Float64Array,
  side: number,
): Tiles {
  const grid: BlockGrid = { shape, side, x0, y0 }
  const taken = new Set<string>()
  const out: (TileAddress | null)[] = Array.from(reach, () => null)
  const strays: number[] = []
  for (const [f, half] of reach.entries()) {
    if (!half) continue
    const cell = cells[f]
    const key = cell && addressKey(...cell)
    if (!cell || key === undefined || taken.has(key)) strays.push(f)
    else {
      taken.add(key)
      out[f] = cell
    }
  }
  for (const f of strays) {
    const cell = freeNear(grid, centres[2 * f], centres[2 * f + 1], (q, r) => !taken.has(addressKey(q, r)))
    taken.add(addressKey(...cell))
    out[f] = cell
  }
  const at = Float64Array.from(out.flatMap((cell) => (cell ? middleOf(grid, ...cell) : [NaN, NaN])))
  return { grid, at, cells: out, strays: strays.length }
}

/** The free tile whose middle is nearest to a place. */
function freeNear(
  grid: BlockGrid,
  x: number,
  y: number,
  isFree: (q: number, r: number) => boolean,
): TileAddress {
  const start = blockAt(grid, x, y)
  const seen = new Set([addressKey(...start)])
  let ring: TileAddress[] = [start]
  let best: { cell: TileAddress; far: number } | null = null
  // Rings of neighbours go outwards; one more is looked at once something free was found.
  for (let more = 1; more >= 0;) {
    for (const cell of ring) {
      const [mx, my] = middleOf(grid, ...cell)
      const far = Math.hypot(mx - x, my - y)
      if (isFree(...cell) && (!best || far < best.far)) best = { cell, far }
    }
    if (best) more--
    const next: TileAddress[] = []
    for (const [q, r] of ring)
      for (const [dq, dr] of ringAround[grid.shape]) {
        const key = addressKey(q + dq, r + dr)
        if (seen.has(key)) continue
        seen.add(key)
        next.push([q + dq, r + dr])
      }
    ring = next
  }
  return best ? best.cell : start
}

/** A tile put somewhere else; what stands there changes places with it. */
export function tileMoved(
  cells: readonly (TileAddress | null)[],
  feature: number,
  to: TileAddress,
): (TileAddress | null)[] {
  const from = cells[feature]
  const there = cells.findIndex((cell) => cell !== null && cell[0] === to[0] && cell[1] === to[1])
  return cells.map((cell, f) => {
    if (f === feature) return to
    return f === there ? from : cell
  })
}
