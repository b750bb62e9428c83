/**
 * How much one file may hold. Counted is what is really there, as it is read, whatever a header claims; the
 * process that reads is limited in memory and time as well.
 */
export const limits = {
  /** Bytes that come out of all entries of an archive together. */
  unpackedBytes: 1024 * 1024 * 1024,
  entries: 2000,
  rows: 20_000_000,
  columns: 16_384,
  cells: 200_000_000,
  vertices: 60_000_000,
  /** Cells of a raster, over all of its bands. */
  rasterCells: 2_000_000_000,
  /** Cells of a raster that are packed in one piece. */
  rasterBlockCells: 40_000_000,
  /** Levels of nesting of a document. */
  depth: 256,
}
