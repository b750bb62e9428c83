import { unzlibSync } from 'fflate'

const woff = 0x774f4646
const headerBytes = 44
const entryBytes = 20

/**
 * A font file in the form that WOFF packs (WOFF 1.0, W3C 2012, sections 3 to 5): a table directory with the
 * tables behind it, none of them compressed. Unpacked at one go it is read several times as fast as by a font
 * library, table by table. Bytes of any other kind of file are given back as they are.
 */
export function unpackedFont(bytes: Uint8Array): Uint8Array {
  const from = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.byteLength < headerBytes || from.getUint32(0) !== woff) return bytes
  const count = from.getUint16(12)
  const tables = Array.from({ length: count }, (_, i) => {
    const at = headerBytes + i * entryBytes
    const [tag, offset, packed, length, checksum] = [0, 4, 8, 12, 16].map((shift) =>
      from.getUint32(at + shift),
    )
    const data = bytes.subarray(offset, offset + packed)
    return { tag, checksum, length, data: packed < length ? unzlibSync(data) : data }
  })
  const starts = [12 + 16 * count]
  for (const { length } of tables) starts.push(starts[starts.length - 1] + ((length + 3) & ~3))
  const out = new Uint8Array(starts[count])
  const to = new DataView(out.buffer)
  to.setUint32(0, from.getUint32(4))
  to.setUint16(4, count)
  const power = 2 ** Math.floor(Math.log2(Math.max(1, count)))
  to.setUint16(6, 16 * power)
  to.setUint16(8, Math.log2(power))
  to.setUint16(10, 16 * (count - power))
  tables.forEach(({ tag, checksum, length, data }, i) => {
    const at = 12 + 16 * i
    ;[tag, checksum, starts[i], length].forEach((value, k) => to.setUint32(at + 4 * k, value))
    out.set(data, starts[i])
  })
  return out
}
