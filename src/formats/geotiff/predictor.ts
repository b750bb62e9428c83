/** How the cells of a block lie: `columns` of `bands` values of `bits`, in the byte order of the file. */
export type BlockOfCells = { columns: number; rows: number; bands: number; bits: number; bigEndian: boolean }

/**
 * Undoes what was done to the rows of a block before it was packed, in place: 2 is differences between neighbours
 * (TIFF 6.0, section 14), 3 the same between bytes of floats that were sorted by their weight (Adobe, TIFF Technical
 * Note 3). Rows that the last block lacks are passed over.
 * @throws RangeError for values of a size that neither is defined for
 */
export function undoPredictor(block: Uint8Array, predictor: number, cells: BlockOfCells): void {
  const { columns, rows, bands, bits } = cells
  if (predictor === 1) return
  if (![8, 16, 32, 64].includes(bits)) throw new RangeError(`Differences of ${bits} bits are not known.`)
  const rowBytes = (columns * bands * bits) / 8
  const eachRow = (change: (bytes: Uint8Array) => void): void => {
    for (let row = 0; row < rows && (row + 1) * rowBytes <= block.length; row++)
      change(block.subarray(row * rowBytes, (row + 1) * rowBytes))
  }
  if (predictor !== 3) return eachRow((bytes) => sumNeighbours(bytes, cells))
  const packed = cells.bigEndian ? block.slice() : block
  eachRow((bytes) => sumFloats(bytes, cells, true))
  if (!cells.bigEndian) return
  // Some programs turn the bytes of such files round before they sort them, against the note: numbers tell which.
  const strange = strangeFloats(block, cells)
  if (strange === 0) return
  const byNote = block.slice()
  block.set(packed)
  eachRow((bytes) => sumFloats(bytes, cells, false))
  if (strangeFloats(block, cells) >= strange) block.set(byNote)
}

/** How many numbers of a block are beyond what anybody measures, as those are whose bytes stand the wrong way. */
function strangeFloats(block: Uint8Array, { bits, bigEndian }: BlockOfCells): number {
  const view = new DataView(block.buffer, block.byteOffset, block.byteLength)
  const size = bits / 8
  let count = 0
  for (let at = 0; at + size <= block.length; at += size) {
    const value = Math.abs(bits === 64 ? view.getFloat64(at, !bigEndian) : view.getFloat32(at, !bigEndian))
    if (value !== 0 && !(value > 1e-25 && value < 1e25)) count++
  }
  return count
}

function sumNeighbours(bytes: Uint8Array, { bands, bits, bigEndian }: BlockOfCells): void {
  if (bits === 8) {
    for (let i = bands; i < bytes.length; i++) bytes[i] += bytes[i - bands]
    return
  }
  const size = bits / 8
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const little = !bigEndian
  for (let at = bands * size; at < bytes.length; at += size) {
    const before = at - bands * size
    if (bits === 16) view.setUint16(at, view.getUint16(at, little) + view.getUint16(before, little), little)
    else if (bits === 32)
      view.setUint32(at, view.getUint32(at, little) + view.getUint32(before, little), little)
    else view.setBigUint64(at, view.getBigUint64(at, little) + view.getBigUint64(before, little), little)
  }
}

/**
 * The highest bytes of all values come first, then the next (the lowest, where `highestFirst` is false); they become
 * values in the byte order of the file.
 */
function sumFloats(bytes: Uint8Array, { bands, bits, bigEndian }: BlockOfCells, highestFirst: boolean): void {
  for (let i = bands; i < bytes.length; i++) bytes[i] += bytes[i - bands]
  const size = bits / 8
  const count = bytes.length / size
  const sorted = bytes.slice()
  const isSame = bigEndian === highestFirst
  for (let i = 0; i < count; i++)
    for (let b = 0; b < size; b++) bytes[size * i + (isSame ? b : size - 1 - b)] = sorted[b * count + i]
}
