import { crc32, deflateSync } from 'node:zlib'
import type { Raster } from '@/core/scene/scene'

/** A PNG (RGBA, 8 bits, no filter) of a raster's cells. */
export function rgbaToPng({ columns, rows, rgba }: Pick<Raster, 'columns' | 'rows' | 'rgba'>): Uint8Array {
  const header = Buffer.alloc(13)
  header.writeUInt32BE(columns, 0)
  header.writeUInt32BE(rows, 4)
  header.set([8, 6, 0, 0, 0], 8)
  const lines = Buffer.alloc(rows * (columns * 4 + 1))
  for (let y = 0; y < rows; y++)
    lines.set(rgba.subarray(y * columns * 4, (y + 1) * columns * 4), y * (columns * 4 + 1) + 1)
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])
  return Buffer.concat([
    signature,
    chunk('IHDR', header),
    chunk('IDAT', deflateSync(lines)),
    chunk('IEND', Buffer.alloc(0)),
  ])
}

function chunk(type: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data])
  const frame = Buffer.alloc(8)
  frame.writeUInt32BE(data.length, 0)
  frame.writeUInt32BE(crc32(body), 4)
  return Buffer.concat([frame.subarray(0, 4), body, frame.subarray(4)])
}
