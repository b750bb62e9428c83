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

/** Bytes of files in formats of our own. */
export const ownFiles = {
  /** Looks, styles and lists of steps; what is larger is something else. */
  small: 1024 * 1024,
  /** A template with its pictures. */
  template: 8 * 1024 * 1024,
  /** A folio file, which holds its rows as text. */
  folio: 450 * 1024 * 1024,
}
