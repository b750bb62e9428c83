/**
 * A tile of cells as bytes that pack well. The first byte says how: whole numbers of 16 bits (-32768 stands for no
 * value), each less the one before it in its row, or floats of 32 bits, whose bytes are set apart by their weight,
 * each less the one before it (the idea of Adobe's floating-point predictor, TIFF Technical Note 3). Nothing is lost
 * either way.
 */
const [whole, single] = [1, 2] as const
const noValue = -32_768
const mostWhole = 32_767

export function tileToBytes(values: Float32Array, columns: number): Uint8Array {
  return areWhole(values) ? wholeToBytes(values, columns) : singleToBytes(values, columns)
}

/** @throws Error for bytes that are no such tile */
export function tileFromBytes(bytes: Uint8Array, columns: number, rows: number): Float32Array {
  const cells = columns * rows
  if (bytes[0] === whole && bytes.length === 1 + 2 * cells) return wholeFromBytes(bytes, columns, cells)
  if (bytes[0] === single && bytes.length === 1 + 4 * cells) return singleFromBytes(bytes, columns, cells)
  throw new Error('These bytes are not a tile of such a size.')
}

function areWhole(values: Float32Array): boolean {
  for (let i = 0; i < values.length; i++) {
    const value = values[i]
    if (value !== value) continue
    // A negative zero has no place among whole numbers.
    if (value !== Math.round(value) || value <= noValue || value > mostWhole || Object.is(value, -0))
      return false
  }
  return true
}

function wholeToBytes(values: Float32Array, columns: number): Uint8Array {
  const cells = values.length
  const bytes = new Uint8Array(1 + 2 * cells)
  bytes[0] = whole
  for (let i = 0, before = 0; i < cells; i++) {
    if (i % columns === 0) before = 0
    const value = values[i]
    const code = value === value ? value : noValue
    const step = code - before
    before = code
    bytes[1 + i] = step
    bytes[1 + cells + i] = step >> 8
  }
  return bytes
}

function wholeFromBytes(bytes: Uint8Array, columns: number, cells: number): Float32Array {
  const values = new Float32Array(cells)
  for (let i = 0, before = 0; i < cells; i++) {
    if (i % columns === 0) before = 0
    before = ((before + (bytes[1 + i] | (bytes[1 + cells + i] << 8))) << 16) >> 16
    values[i] = before === noValue ? NaN : before
  }
  return values
}

function singleToBytes(values: Float32Array, columns: number): Uint8Array {
  const cells = values.length
  const words = new Uint32Array(values.buffer, values.byteOffset, cells)
  const bytes = new Uint8Array(1 + 4 * cells)
  bytes[0] = single
  for (let i = 0, before = 0; i < cells; i++) {
    if (i % columns === 0) before = 0
    const word = words[i]
    for (let k = 0; k < 4; k++)
      bytes[1 + k * cells + i] = ((word >>> (8 * k)) & 255) - ((before >>> (8 * k)) & 255)
    before = word
  }
  return bytes
}

function singleFromBytes(bytes: Uint8Array, columns: number, cells: number): Float32Array {
  const words = new Uint32Array(cells)
  for (let i = 0, before = 0; i < cells; i++) {
    if (i % columns === 0) before = 0
    let word = 0
    for (let k = 0; k < 4; k++)
      word |= ((((before >>> (8 * k)) & 255) + bytes[1 + k * cells + i]) & 255) << (8 * k)
    words[i] = before = word >>> 0
  }
  return new Float32Array(words.buffer)
}
