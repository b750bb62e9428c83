import type { TileHand, Tiles } from '@/core/cartogram/tile-hand'
import { rowKeys } from '@/core/data/row-names'
import type { Projection } from '@/core/projection/projection'
import type { KindData } from '../kind'
import type { CartogramSettings } from './spec'

type Kept = NonNullable<CartogramSettings['tiles']>

/** Tiles as they stand in a folio, for the rows and the map of now. */
export const tileHand = (
  { shape, origin, cells }: Kept,
  data: KindData,
  projection: Projection,
): TileHand => ({
  shape,
  origin: projection.project(...origin),
  cells: rowKeys(data).map((key) => cells[key]),
})

/**
 * Tiles as they stand in a folio. Those of areas that are not among the rows now stay, for the day on which they are
 * again; null where the grid begins off the map.
 * @param keys those of the rows
 */
export function keptTiles(
  { grid, cells }: Pick<Tiles, 'grid' | 'cells'>,
  before: Kept | null,
  keys: readonly string[],
  projection: Projection,
): Kept | null {
  const origin = projection.invert(grid.x0, grid.y0)
  if (!origin) return null
  const absent = before?.shape === grid.shape ? before.cells : {}
  const own = keys.flatMap((key, row): [string, [number, number]][] => {
    const cell = cells[row]
    return cell ? [[key, [cell[0], cell[1]]]] : []
  })
  return {
    shape: grid.shape,
    origin: [origin[0], origin[1]],
    cells: { ...absent, ...Object.fromEntries(own) },
  }
}
