import { sizeAtLevel, type TilePlace } from '@/core/data/raster'

/**
 * A file of tiles: "KEENTILE", the tiles one after the other (zlib streams, RFC 1950, of what `codec.ts` makes), an
 * index of where each begins and ends (64 and 32 bits), what they are tiles of as JSON, and, at the very end, how
 * long that is (32 bits), four empty bytes, where the index begins (64 bits) and the eight letters again. All numbers
 * are little-endian.
 */
export const magic = 'KEENTILE'
export const endBytes = 24
export const entryBytes = 12

export type TilesHead = { columns: number; rows: number; bands: number; side: number; levels: number }

export const tilesAlong = (cells: number, side: number): number => Math.ceil(cells / side)

/** Columns and rows of a tile; null where there is none. */
export function tileSize(head: TilesHead, { level, band, column, row }: TilePlace) {
  const { side, levels, bands } = head
  const size = sizeAtLevel(head.columns, head.rows, level)
  const [columns, rows] = [
    Math.min(side, size.columns - column * side),
    Math.min(side, size.rows - row * side),
  ]
  const known = level >= 0 && level < levels && band >= 0 && band < bands && column >= 0 && row >= 0
  return known && columns > 0 && rows > 0 ? { columns, rows } : null
}

/** Where a tile stands in the index: level by level, in these band by band, in these row by row. */
export function indexOf(head: TilesHead, { level, band, column, row }: TilePlace): number {
  let before = 0
  for (let k = 0; k < level; k++) before += head.bands * tilesIn(head, k)
  const across = tilesAlong(sizeAtLevel(head.columns, head.rows, level).columns, head.side)
  return before + band * tilesIn(head, level) + row * across + column
}

export function tileCount(head: TilesHead): number {
  let count = 0
  for (let k = 0; k < head.levels; k++) count += head.bands * tilesIn(head, k)
  return count
}

function tilesIn({ columns, rows, side }: TilesHead, level: number): number {
  const size = sizeAtLevel(columns, rows, level)
  return tilesAlong(size.columns, side) * tilesAlong(size.rows, side)
}
