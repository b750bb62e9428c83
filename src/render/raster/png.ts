import { createDeflate } from 'node:zlib'
import { pngChunk } from '../deflate-bands'

/** A PNG that is written from the top down, a band of rows at a time (PNG 1.2, W3C 2003). */
export type PngWriter = {
  /** Takes the next rows, RGBA, as many as there are. */
  write: (rows: Uint8Array) => Promise<void>
  /** The whole file. @throws Error where rows are missing */
  end: () => Promise<Buffer>
}

type PngSize = { widthPx: number; heightPx: number; dpi: number }

/** Only the bytes of one band and the packed file are held at a time, never all pixels. */
export function createPng({ widthPx, heightPx, dpi }: PngSize): PngWriter {
  const packed: Buffer[] = []
  const deflate = createDeflate({ level: 6, memLevel: 9 })
  deflate.on('data', (chunk: Buffer) => packed.push(chunk))
  const done = new Promise<void>((resolve, reject) => deflate.on('end', resolve).on('error', reject))
  const rowBytes = 4 * widthPx
  let above: Uint8Array = new Uint8Array(rowBytes)
  let written = 0
  return {
    async write(rows) {
      const count = rows.length / rowBytes
      const filtered = Buffer.alloc(count * (rowBytes + 1))
      for (let r = 0; r < count; r++) {
        const row = rows.subarray(r * rowBytes, (r + 1) * rowBytes)
        filterRow(row, above, filtered.subarray(r * (rowBytes + 1), (r + 1) * (rowBytes + 1)))
        above = row
      }
      above = above.slice()
      written += count
      if (!deflate.write(filtered)) await new Promise((resolve) => deflate.once('drain', resolve))
    },
    async end() {
      if (written !== heightPx) throw new Error(`${written} of ${heightPx} rows were written.`)
      deflate.end()
      await done
      return Buffer.concat([
        Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
        pngChunk('IHDR', header(widthPx, heightPx)),
        pngChunk('pHYs', resolution(dpi)),
        ...packed.map((data) => pngChunk('IDAT', data)),
        pngChunk('IEND', Buffer.alloc(0)),
      ])
    },
  }
}

/** Each byte less the one above it: areas of one colour and upright lines become runs of zeros. */
function filterRow(row: Uint8Array, above: Uint8Array, into: Uint8Array): void {
  into[0] = 2
  for (let i = 0; i < row.length; i++) into[i + 1] = row[i] - above[i]
}

/** Eight bits for each of red, green, blue and alpha, not interlaced. */
function header(widthPx: number, heightPx: number): Buffer {
  const data = Buffer.alloc(13)
  data.writeUInt32BE(widthPx, 0)
  data.writeUInt32BE(heightPx, 4)
  data.set([8, 6, 0, 0, 0], 8)
  return data
}

/** Pixels to the metre, both ways. */
function resolution(dpi: number): Buffer {
  const data = Buffer.alloc(9)
  const perMetre = Math.round(dpi / 0.0254)
  data.writeUInt32BE(perMetre, 0)
  data.writeUInt32BE(perMetre, 4)
  data[8] = 1
  return data
}
