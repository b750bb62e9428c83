/** Bytes that are read where they lie, so that a file of many gigabytes is never held whole. */
export type ByteSource = {
  size: number
  /** @throws RangeError beyond the end */
  read: (offset: number, length: number) => Uint8Array
}

/** Bytes at hand. */
export const bytesSource = (bytes: Uint8Array): ByteSource => ({
  size: bytes.length,
  read(offset, length) {
    if (offset < 0 || offset + length > bytes.length) throw new RangeError('These bytes end before that.')
    return bytes.subarray(offset, offset + length)
  },
})

const pageBytes = 65_536
const pagesHeld = 64

/** Numbers here and there in a source, of which a page is read at a time. */
export function numbersIn({ size, read }: ByteSource, little: boolean) {
  const pages = new Map<number, Uint8Array>()
  const eight = new DataView(new ArrayBuffer(8))
  const byteAt = (at: number): number => {
    const number = Math.floor(at / pageBytes)
    let page = pages.get(number)
    if (!page) {
      page = read(number * pageBytes, Math.min(pageBytes, size - number * pageBytes))
      if (pages.size >= pagesHeld) pages.delete([...pages.keys()][0])
      pages.set(number, page)
    }
    return page[at - number * pageBytes]
  }
  const view = (at: number, length: number): DataView => {
    if (at < 0 || at + length > size) throw new RangeError('These bytes end before that.')
    for (let i = 0; i < length; i++) eight.setUint8(i, byteAt(at + i))
    return eight
  }
  return {
    u8: (at: number): number => view(at, 1).getUint8(0),
    u16: (at: number): number => view(at, 2).getUint16(0, little),
    u32: (at: number): number => view(at, 4).getUint32(0, little),
    u64: (at: number): number => Number(view(at, 8).getBigUint64(0, little)),
  }
}

/** Where bytes are written one after the other, to be read again. */
export type Sink = { write: (bytes: Uint8Array) => void; size: () => number; source: () => ByteSource }

/** A sink in memory. */
export function memorySink(): Sink {
  const pieces: Uint8Array[] = []
  let size = 0
  return {
    write(bytes) {
      pieces.push(bytes)
      size += bytes.length
    },
    size: () => size,
    source() {
      const whole = new Uint8Array(size)
      let at = 0
      for (const piece of pieces) {
        whole.set(piece, at)
        at += piece.length
      }
      return bytesSource(whole)
    },
  }
}
