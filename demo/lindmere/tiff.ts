import { zlibSync } from 'fflate'
import { tiffFile } from '@/formats/geotiff/tiff-file'
import { covers } from './cover'
import type { UtmGrid } from './utm-grid'

const rowsPerStrip = 64

type Said = { epsg: number; empty: number }

/** Cells in deflated strips (TIFF 6.0), each written as its difference from the one before in its row. */
function strips(values: Int16Array | Uint8Array, columns: number, rows: number): Uint8Array[] {
  return Array.from({ length: Math.ceil(rows / rowsPerStrip) }, (_, i) => {
    const part = values.slice(i * rowsPerStrip * columns, (i + 1) * rowsPerStrip * columns)
    for (let row = 0; row < part.length; row += columns)
      for (let c = columns - 1; c > 0; c--) part[row + c] -= part[row + c - 1]
    return zlibSync(new Uint8Array(part.buffer), { level: 6, mtime: 0 } as never)
  })
}

/** What all images of one band have in common: their size, and where they lie (OGC 19-008). */
const common = ({ columns, rows, west, north, cellMetres }: UtmGrid, bits: number, { epsg, empty }: Said) => [
  { id: 256, type: 4 as const, values: [columns] },
  { id: 257, type: 4 as const, values: [rows] },
  { id: 258, type: 3 as const, values: [bits] },
  { id: 259, type: 3 as const, values: [8] },
  { id: 277, type: 3 as const, values: [1] },
  { id: 278, type: 4 as const, values: [rowsPerStrip] },
  { id: 317, type: 3 as const, values: [2] },
  { id: 33550, type: 12 as const, values: [cellMetres, cellMetres, 0] },
  { id: 33922, type: 12 as const, values: [0, 0, 0, west, north, 0] },
  // Keys: projected, values belong to areas, the system's code.
  { id: 34735, type: 3 as const, values: [1, 1, 0, 3, 1024, 0, 1, 1, 1025, 0, 1, 1, 3072, 0, 1, epsg] },
  { id: 42113, type: 2 as const, values: `${empty}\0` },
]

/** A GeoTIFF with one band of 16-bit whole numbers. */
export const writeHeights = (values: Int16Array, grid: UtmGrid, said: Said): Uint8Array =>
  tiffFile(strips(values, grid.columns, grid.rows), [
    ...common(grid, 16, said),
    { id: 262, type: 3, values: [1] },
    { id: 339, type: 3, values: [2] },
  ])

/** A GeoTIFF with one band of bytes that name kinds, and a palette of their colours. */
export function writeKinds(values: Uint8Array, grid: UtmGrid, said: Said): Uint8Array {
  const palette = new Array<number>(3 * 256).fill(0)
  for (const [value, { colour }] of Object.entries(covers))
    for (let k = 0; k < 3; k++)
      palette[256 * k + Number(value)] = 257 * parseInt(colour.slice(1 + 2 * k, 3 + 2 * k), 16)
  return tiffFile(strips(values, grid.columns, grid.rows), [
    ...common(grid, 8, said),
    { id: 262, type: 3, values: [3] },
    { id: 320, type: 3, values: palette },
  ])
}
