/** A field of a directory (TIFF 6.0, section 2); types are text, 16 bits, 32 bits and doubles. */
export type Tag = { id: number; type: 2 | 3 | 4 | 12; values: number[] | string }
const sizes = { 2: 1, 3: 2, 4: 4, 12: 8 } as const

/**
 * A TIFF of strips: these, then the directory with what does not fit into its entries; numbers are little-endian.
 * Where strips lie and how long they are need not be among the tags.
 */
export function tiffFile(strips: Uint8Array[], more: Tag[]): Uint8Array {
  const offsets: number[] = []
  let at = 8
  for (const strip of strips) {
    offsets.push(at)
    at += strip.length + (strip.length % 2)
  }
  const tags = [
    ...more,
    { id: 273, type: 4 as const, values: offsets },
    { id: 279, type: 4 as const, values: strips.map(({ length }) => length) },
  ].sort((one, other) => one.id - other.id)
  const outside = ({ type, values }: Tag): number => {
    const length = sizes[type] * values.length
    return length > 4 ? length + 8 : 0
  }
  let extra = at + 2 + 12 * tags.length + 4
  const bytes = new Uint8Array(extra + tags.reduce((sum, tag) => sum + outside(tag), 0))
  const view = new DataView(bytes.buffer)
  bytes.set([0x49, 0x49, 42, 0])
  view.setUint32(4, at, true)
  strips.forEach((strip, i) => bytes.set(strip, offsets[i]))
  view.setUint16(at, tags.length, true)
  tags.forEach((tag, i) => {
    const entry = at + 2 + 12 * i
    const list = typeof tag.values === 'string' ? [...new TextEncoder().encode(tag.values)] : tag.values
    view.setUint16(entry, tag.id, true)
    view.setUint16(entry + 2, tag.type, true)
    view.setUint32(entry + 4, list.length, true)
    let place = entry + 8
    if (outside(tag)) {
      extra = 8 * Math.ceil(extra / 8)
      view.setUint32(entry + 8, extra, true)
      place = extra
      extra += sizes[tag.type] * list.length
    }
    list.forEach((value, k) => {
      const to = place + k * sizes[tag.type]
      if (tag.type === 12) view.setFloat64(to, value, true)
      else if (tag.type === 4) view.setUint32(to, value, true)
      else if (tag.type === 3) view.setUint16(to, value, true)
      else view.setUint8(to, value)
    })
  })
  return bytes.subarray(0, extra)
}
