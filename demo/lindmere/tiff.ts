import { zlibSync } from 'fflate'

type Tag = { id: number; type: 2 | 3 | 4 | 12; values: number[] | string }

const sizes = { 2: 1, 3: 2, 4: 4, 12: 8 }
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
    return zlibSync(new Uint8Array(part.buffer), { level: 9, mtime: 0 } as never)
  })
  const offsets: number[] = []
  let at = 8
  for (const strip of strips) {
    offsets.push(at)
    at += strip.length + (strip.length % 2)
  }
  const tags: Tag[] = [
    { id: 256, type: 4, values: [columns] },
    { id: 257, type: 4, values: [rows] },
    { id: 258, type: 3, values: [16] },
    { id: 259, type: 3, values: [8] },
    { id: 262, type: 3, values: [1] },
    { id: 273, type: 4, values: offsets },
    { id: 277, type: 3, values: [1] },
    { id: 278, type: 4, values: [rowsPerStrip] },
    { id: 279, type: 4, values: strips.map((strip) => strip.length) },
    { id: 317, type: 3, values: [2] },
    { id: 339, type: 3, values: [2] },
    { id: 33550, type: 12, values: [place.cell, place.cell, 0] },
    { id: 33922, type: 12, values: [0, 0, 0, place.west, place.north, 0] },
    // Keys: projected, values belong to areas, the system's code.
    { id: 34735, type: 3, values: [1, 1, 0, 3, 1024, 0, 1, 1, 1025, 0, 1, 1, 3072, 0, 1, place.epsg] },
    { id: 42113, type: 2, values: `${place.empty}\0` },
  ]
  const directory = at
  let extra = directory + 2 + 12 * tags.length + 4
  const bytes = new Uint8Array(
    extra +
      tags.reduce(
        (sum, { type, values }) =>
          sum + (sizes[type] * values.length > 4 ? sizes[type] * values.length + 8 : 0),
        0,
      ),
  )
  const view = new DataView(bytes.buffer)
  bytes.set([0x49, 0x49, 42, 0])
  view.setUint32(4, directory, true)
  strips.forEach((strip, i) => bytes.set(strip, offsets[i]))
  view.setUint16(directory, tags.length, true)
  const put = (offset: number, type: Tag['type'], value: number) => {
    if (type === 12) view.setFloat64(offset, value, true)
    else if (type === 4) view.setUint32(offset, value, true)
    else if (type === 3) view.setUint16(offset, value, true)
    else view.setUint8(offset, value)
  }
  tags.forEach(({ id, type, values }, i) => {
    const entry = directory + 2 + 12 * i
    const list = typeof values === 'string' ? [...values].map((letter) => letter.charCodeAt(0)) : values
    view.setUint16(entry, id, true)
    view.setUint16(entry + 2, type, true)
    view.setUint32(entry + 4, list.length, true)
    const inside = sizes[type] * list.length <= 4
    if (!inside) {
      extra = Math.ceil(extra / 2) * 2
      view.setUint32(entry + 8, extra, true)
    }
    list.forEach((value, k) => put((inside ? entry + 8 : extra) + k * sizes[type], type, value))
    if (!inside) extra += sizes[type] * list.length
  })
  return bytes.subarray(0, extra)
}
