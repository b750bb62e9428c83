import { zlibSync } from 'fflate'
import { tiffFile } from '@/formats/geotiff/tiff-file'

const rowsPerStrip = 64

/**
 * A GeoTIFF (TIFF 6.0; OGC 19-008) with one band of 16-bit whole numbers in deflated strips, differences
 * along rows. `west` and `north` are the upper left corner, `cell` the width of a cell, in the coordinates of
 * the system `epsg`.
 */
export function writeHeights(
  values: Int16Array,
  columns: number,
  rows: number,
  place: { west: number; north: number; cell: number; epsg: number; empty: number },
): Uint8Array {
  const strips = Array.from({ length: Math.ceil(rows / rowsPerStrip) }, (_, i) => {
    const part = values.slice(i * rowsPerStrip * columns, (i + 1) * rowsPerStrip * columns)
    for (let row = 0; row < part.length; row += columns)
      for (let c = columns - 1; c > 0; c--) part[row + c] -= part[row + c - 1]
    return zlibSync(new Uint8Array(part.buffer), { level: 6, mtime: 0 } as never)
  })
  return tiffFile(strips, [
    { id: 256, type: 4, values: [columns] },
    { id: 257, type: 4, values: [rows] },
    { id: 258, type: 3, values: [16] },
    { id: 259, type: 3, values: [8] },
    { id: 262, type: 3, values: [1] },
    { id: 277, type: 3, values: [1] },
    { id: 278, type: 4, values: [rowsPerStrip] },
    { id: 317, type: 3, values: [2] },
    { id: 339, type: 3, values: [2] },
    { id: 33550, type: 12, values: [place.cell, place.cell, 0] },
    { id: 33922, type: 12, values: [0, 0, 0, place.west, place.north, 0] },
    // Keys: projected, values belong to areas, the system's code.
    { id: 34735, type: 3, values: [1, 1, 0, 3, 1024, 0, 1, 1, 1025, 0, 1, 1, 3072, 0, 1, place.epsg] },
    { id: 42113, type: 2, values: `${place.empty}\0` },
  ])
}
