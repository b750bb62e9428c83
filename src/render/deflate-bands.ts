import { constants, crc32, deflateRawSync } from 'node:zlib'

/** Rows that are packed at a time: about so many bytes. */
export const bandBytes = 8_000_000

/**
 * A zlib stream (RFC 1950) that is made piece by piece, at once: each piece is packed by itself and ends on a whole
 * byte (RFC 1951, 3.2.4), so that they follow each other as one stream.
 */
export function createZlib() {
  let [a, b] = [1, 0]
  return {
    head: (): Buffer => Buffer.from([0x78, 0x9c]),
    piece(bytes: Uint8Array): Buffer {
      // Adler-32 (RFC 1950, 8.2); sums are taken to their remainder before they outgrow whole numbers.
      for (let i = 0; i < bytes.length;) {
        const end = Math.min(bytes.length, i + 3800)
        for (; i < end; i++) {
          a += bytes[i]
          b += a
        }
        a %= 65_521
        b %= 65_521
      }
      return deflateRawSync(bytes, { level: 6, finishFlush: constants.Z_SYNC_FLUSH })
    },
    /** An empty last block and the check sum. */
    end(): Buffer {
      const tail = Buffer.from([0x03, 0x00, 0, 0, 0, 0])
      tail.writeUInt32BE(((b << 16) | a) >>> 0, 2)
      return tail
    },
  }
}

/** Each byte less the one above it, behind the sign of that filter (PNG 1.2, section 6; PDF 1.7, 7.4.4.4). */
export function filterUp(rows: Uint8Array, rowBytes: number, above: Uint8Array): Uint8Array {
  const count = rows.length / rowBytes
  const filtered = new Uint8Array(count * (rowBytes + 1))
  for (let r = 0; r < count; r++) {
    const to = r * (rowBytes + 1)
    filtered[to] = 2
    for (let i = 0; i < rowBytes; i++)
      filtered[to + 1 + i] = rows[r * rowBytes + i] - (r ? rows[(r - 1) * rowBytes + i] : above[i])
  }
  return filtered
}

/** A chunk of a PNG (PNG 1.2, section 3.2). */
export function pngChunk(type: string, data: Uint8Array): Buffer {
  const out = Buffer.alloc(data.length + 12)
  out.writeUInt32BE(data.length, 0)
  out.write(type, 4, 'latin1')
  out.set(data, 8)
  out.writeUInt32BE(crc32(out.subarray(4, data.length + 8)), data.length + 8)
  return out
}
