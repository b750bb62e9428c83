import type { Raster } from '@/core/scene/scene'
import { bandBytes, createZlib, filterUp, pngChunk } from '../deflate-bands'

/** A PNG (RGBA, 8 bits) of a raster's cells, packed band by band as they are painted. */
export function rgbaToPng({ columns, rows, rgba }: Pick<Raster, 'columns' | 'rows' | 'rgba'>): Uint8Array {
  const header = Buffer.alloc(13)
  header.writeUInt32BE(columns, 0)
  header.writeUInt32BE(rows, 4)
  header.set([8, 6, 0, 0, 0], 8)
  const zlib = createZlib()
  const packed: Uint8Array[] = [zlib.head()]
  const step = Math.max(1, Math.floor(bandBytes / (4 * columns)))
  let above: Uint8Array = new Uint8Array(4 * columns)
  for (let from = 0; from < rows; from += step) {
    const to = Math.min(rows, from + step)
    const cells = rgba(from, to)
    const bytes = new Uint8Array(cells.buffer, cells.byteOffset, cells.byteLength)
    packed.push(zlib.piece(filterUp(bytes, 4 * columns, above)))
    above = bytes.slice(-4 * columns)
  }
  packed.push(zlib.end())
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    pngChunk('IHDR', header),
    ...packed.map((data) => pngChunk('IDAT', data)),
    pngChunk('IEND', Buffer.alloc(0)),
  ])
}
