import type { RasterFile } from './raster-file'

/** Cells of files that belong together are as wide to this share of one. */
const alike = 1e-6
/** How far the cells of one file may lie off those of another, in cells. */
const mostOff = 0.02
/** Files that cover each other by more than this share of the smaller one are other pictures of the same ground. */
const mostCovered = 0.5

type Placed = { file: RasterFile; column: number; row: number }

/** Where files lie in columns and rows of the first one's grid; null where their cells do not fit together. */
function placed(files: RasterFile[]): Placed[] | null {
  const [first] = files
  const [, a, b, , d, e] = first.transform
  const det = a * e - b * d
  const size = Math.sqrt(Math.abs(det))
  const found: Placed[] = []
  for (const file of files) {
    const { transform: t } = file
    const sameCells = [1, 2, 4, 5].every((k) => Math.abs(t[k] - first.transform[k]) <= alike * size)
    if (!sameCells || file.bands !== first.bands || file.system.code !== first.system.code) return null
    const [x, y] = [t[0] - first.transform[0], t[3] - first.transform[3]]
    const [column, row] = [(e * x - b * y) / det, (a * y - d * x) / det]
    const [c, r] = [Math.round(column), Math.round(row)]
    if (Math.abs(column - c) > mostOff || Math.abs(row - r) > mostOff) return null
    found.push({ file, column: c, row: r })
  }
  return found
}

const overlap = (from: number, size: number, otherFrom: number, otherSize: number): number =>
  Math.max(0, Math.min(from + size, otherFrom + otherSize) - Math.max(from, otherFrom))

const covered = (one: Placed, other: Placed): number =>
  (overlap(one.column, one.file.columns, other.column, other.file.columns) *
    overlap(one.row, one.file.rows, other.row, other.file.rows)) /
  Math.min(one.file.columns * one.file.rows, other.file.columns * other.file.rows)

/**
 * Files that lie beside each other as one, read row by row; where they overlap, the one named first is in front, and
 * what it leaves empty is filled by those behind it. Null for files whose cells, bands or systems differ, and for
 * several pictures of the same ground.
 */
export function mosaicOf(files: RasterFile[], name: string): RasterFile | null {
  const found = files.length > 1 ? placed(files) : null
  if (!found) return null
  const places: Placed[] = found
  for (const [i, one] of places.entries())
    for (const other of places.slice(i + 1)) if (covered(one, other) > mostCovered) return null
  const left = Math.min(...places.map(({ column }) => column))
  const top = Math.min(...places.map(({ row }) => row))
  const columns = Math.max(...places.map(({ file, column }) => column + file.columns)) - left
  const rows = Math.max(...places.map(({ file, row }) => row + file.rows)) - top
  const [first] = files
  const [x, a, b, y, d, e] = first.transform
  const { bands, system, palette, valuesMayBe } = first
  const ofKinds = files.every((file) => file.ofKinds)

  async function read(from: number, to: number): Promise<Float32Array[]> {
    const whole = Array.from({ length: bands }, () => new Float32Array(columns * (to - from)).fill(NaN))
    // From the back to the front.
    for (const { file, column, row } of [...places].reverse()) {
      const own = row - top
      const [start, end] = [Math.max(0, from - own), Math.min(file.rows, to - own)]
      if (start >= end) continue
      const cells = await file.read(start, end)
      for (let band = 0; band < bands; band++)
        for (let r = start; r < end; r++) {
          const at = (own + r - from) * columns + column - left
          for (let c = 0, k = (r - start) * file.columns; c < file.columns; c++, k++) {
            const value = cells[band][k]
            if (value === value) whole[band][at + c] = value
          }
        }
    }
    return whole
  }
  return {
    ...{ name, columns, rows, bands, system, read },
    transform: [x + a * left + b * top, a, b, y + d * left + e * top, d, e],
    rowsInBlock: Math.max(...files.map(({ rowsInBlock }) => rowsInBlock)),
    ...(ofKinds && { ofKinds, ...(palette && { palette }) }),
    ...(valuesMayBe && { valuesMayBe }),
    remarks: () =>
      files.flatMap((file) => (file.remarks?.() ?? []).map((remark) => `${file.name}: ${remark}`)),
  }
}
