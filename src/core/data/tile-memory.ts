import { createMemory } from '../memory/memory'
import type { ReadTile } from './raster'

const memory = createMemory<ReadTile, Float32Array>('tiles of rasters', { maxBytes: 96 * 2 ** 20 })

/** Tiles that were read are kept for a while, those of all rasters of a thread together. */
export const rememberingTiles =
  (read: ReadTile): ReadTile =>
  (tile) =>
    memory(read, `${tile.level} ${tile.band} ${tile.column} ${tile.row}`, () => read(tile))
