/**
 * Values on a grid: an elevation model or a picture. What is held is reduced to `columns × rows` cells (means
 * of the cells of the file), each band after the other, rows from the top, NaN where the file says that there
 * is nothing. The upper left corner of held cell (i, j), counted in columns and rows, lies at x = t0 + t1·i +
 * t2·j, y = t3 + t4·i + t5·j in the reference system `crs` (a proj4 definition; empty: degrees of WGS 84).
 */
export type Raster = {
  crs: string
  columns: number
  rows: number
  bands: number
  transform: Float64Array
  values: Float32Array
  /** Points round the grid, longitudes and latitudes in turn. */
  edge: Float64Array
  /** Columns and rows of the file itself. */
  fileSize: Uint32Array
  /**
   * Whether values name kinds of ground: a coarser cell then has the value that is found most often among the cells
   * under it, in place of their mean.
   */
  ofKinds?: boolean
  /** Colours that the file gave to its whole numbers from 0 on, as 24 bits of red, green and blue each. */
  palette?: Uint32Array
  /** What there is of cells that are finer than those held. */
  fine?: FineCells
  /** Reads finer cells; missing on threads that only hand a raster on. */
  readTile?: ReadTile
}

/**
 * Cells finer than those that are held, in square tiles. Level 0 has the cells of the file; each level after it has
 * half as many columns and rows (rounded up), cells being the means of the file's cells under them. The held cells
 * are level `levels`.
 */
export type FineCells = {
  /** By which they are asked for: that of the dataset's stored rows. */
  id: string
  /** Cells along a side of a tile; tiles at the right and lower end have what is left. */
  side: number
  levels: number
  /** Beginning of the SHA-256 of all tiles as they are stored, and how much that is. */
  digest: string
  bytes: number
}

/** A tile, counted from the upper left. */
export type TilePlace = { level: number; band: number; column: number; row: number }

/** @throws Error where it cannot be read */
export type ReadTile = (tile: TilePlace) => Float32Array

/** The cells that are held, without what there is of finer ones. */
export function heldOnly(raster: Raster): Omit<Raster, 'fine' | 'readTile'> {
  const { crs, columns, rows, bands, transform, values, edge, fileSize, ofKinds, palette } = raster
  return {
    ...{ crs, columns, rows, bands, transform, values, edge, fileSize },
    ...(ofKinds && { ofKinds }),
    ...(palette && { palette }),
  }
}

/** A dataset whose raster, where it has finer cells than those held, has them read by whoever can. */
export const withTiles = <D extends { raster?: Raster }>(
  dataset: D,
  id: string,
  readTile: ReadTile | null,
): D =>
  dataset.raster?.fine
    ? {
        ...dataset,
        raster: { ...dataset.raster, fine: { ...dataset.raster.fine, id }, ...(readTile && { readTile }) },
      }
    : dataset

/** The held cells of a band, counted from 0, row by row; nothing is copied. */
export const cellsOfBand = (
  { values, columns, rows }: Pick<Raster, 'values' | 'columns' | 'rows'>,
  band: number,
): Float32Array => values.subarray(band * columns * rows, (band + 1) * columns * rows)

/** Up to this many cells of each band are held. */
export const heldCells = 1_500_000

/** Columns and rows at a level of detail, of which 0 has those that are given. */
export const sizeAtLevel = (
  columns: number,
  rows: number,
  level: number,
): { columns: number; rows: number } => ({
  columns: Math.ceil(columns / 2 ** level),
  rows: Math.ceil(rows / 2 ** level),
})

/** The level of a grid that is held: the finest one of at most `heldCells`. */
export function heldLevel(columns: number, rows: number): number {
  let level = 0
  while (Math.ceil(columns / 2 ** level) * Math.ceil(rows / 2 ** level) > heldCells) level++
  return level
}

/**
 * The value of a band at held column and row (fractions allowed), from the four cells around it; NaN outside
 * and beside empty cells.
 */
export function rasterAt(
  { columns, rows, values }: Pick<Raster, 'columns' | 'rows' | 'values'>,
  band: number,
  column: number,
  row: number,
): number {
  const [x, y] = [column - 0.5, row - 0.5]
  const [i, j] = [Math.floor(x), Math.floor(y)]
  if (x < -0.5 || y < -0.5 || x > columns - 0.5 || y > rows - 0.5) return NaN
  const at = (c: number, r: number) =>
    values[
      band * columns * rows +
        Math.min(rows - 1, Math.max(0, r)) * columns +
        Math.min(columns - 1, Math.max(0, c))
    ]
  const [u, v] = [x - i, y - j]
  return (
    (at(i, j) * (1 - u) + at(i + 1, j) * u) * (1 - v) + (at(i, j + 1) * (1 - u) + at(i + 1, j + 1) * u) * v
  )
}

/** From coordinates in the grid's reference system to held column and row. */
export function gridPlace(
  { transform: [t0, t1, t2, t3, t4, t5] }: Raster,
  x: number,
  y: number,
): [number, number] {
  const d = t1 * t5 - t2 * t4
  return [(t5 * (x - t0) - t2 * (y - t3)) / d, (t1 * (y - t3) - t4 * (x - t0)) / d]
}
