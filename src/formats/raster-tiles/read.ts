import { unzlibSync } from 'fflate'
import { z } from 'zod'
import type { ReadTile, TilePlace } from '@/core/data/raster'
import type { ByteSource } from '../byte-source'
import { tileFromBytes } from './codec'
import { endBytes, entryBytes, indexOf, magic, tileCount, tileSize, type TilesHead } from './layout'

const whole = z.number().int().positive()
const Head = z.object({
  columns: whole,
  rows: whole,
  bands: whole,
  side: whole.max(4096),
  levels: whole.max(32),
})
const mostHeadBytes = 10_000

export type TileFile = {
  head: TilesHead
  /** A tile as it is stored, a zlib stream; null where there is no such tile. @throws Error for damaged files */
  packed: (tile: TilePlace) => Uint8Array | null
}

/** @throws Error for bytes that are no file of tiles */
export function openTiles(source: ByteSource): TileFile {
  const damaged = (): Error => new Error('These bytes are not a file of tiles.')
  if (source.size < magic.length + endBytes) throw damaged()
  const end = source.read(source.size - endBytes, endBytes)
  const numbers = new DataView(end.buffer, end.byteOffset, end.byteLength)
  const headBytes = numbers.getUint32(0, true)
  const indexStart = Number(numbers.getBigUint64(8, true))
  const headStart = source.size - endBytes - headBytes
  if (
    new TextDecoder().decode(end.subarray(16)) !== magic ||
    headBytes > mostHeadBytes ||
    headStart < magic.length
  )
    throw damaged()
  const head = Head.parse(JSON.parse(new TextDecoder().decode(source.read(headStart, headBytes))))
  if (indexStart + entryBytes * tileCount(head) !== headStart) throw damaged()
  return {
    head,
    packed(tile) {
      if (!tileSize(head, tile)) return null
      const entry = source.read(indexStart + entryBytes * indexOf(head, tile), entryBytes)
      const place = new DataView(entry.buffer, entry.byteOffset, entry.byteLength)
      const [at, length] = [Number(place.getBigUint64(0, true)), place.getUint32(8, true)]
      if (at + length > indexStart) throw damaged()
      return source.read(at, length)
    },
  }
}

/** A tile of what is stored of it. @throws Error for bytes that are none */
export function unpackTile(
  packed: Uint8Array,
  { columns, rows }: { columns: number; rows: number },
  unzlib: (packed: Uint8Array) => Uint8Array = unzlibSync,
): Float32Array {
  return tileFromBytes(unzlib(packed), columns, rows)
}

/** Reads tiles of a file one by one. */
export function tileReader(
  { head, packed }: TileFile,
  unzlib?: (packed: Uint8Array) => Uint8Array,
): ReadTile {
  return (tile) => {
    const [bytes, size] = [packed(tile), tileSize(head, tile)]
    if (!bytes || !size) throw new Error('There is no such tile.')
    return unpackTile(bytes, size, unzlib)
  }
}
