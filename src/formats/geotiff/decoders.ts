import { inflateSync } from 'node:zlib'
import { addDecoder, BaseDecoder } from 'geotiff'
import { undoPredictor, type BlockOfCells } from './predictor'

/** How blocks are packed (TIFF 6.0, sections 7 to 13; Adobe's technical notes). */
const methods = { lzw: [5], deflate: [8, 32_946] }

/** Some programs fill the last block up; nothing needs more than this beside what was promised. */
const slackBytes = 65_536

type BlockParameters = ConstructorParameters<typeof BaseDecoder>[0] & { bigEndian?: boolean }
type Directory = Parameters<NonNullable<Parameters<typeof addDecoder>[2]>>[0]

const bigEndian = new WeakSet<object>()

/** Notes of a directory that its file has the highest byte of each number first; the library tells decoders nothing. */
export function noteByteOrder(directory: object, littleEndian: boolean): void {
  if (!littleEndian) bigEndian.add(directory)
}

/** Whether blocks packed in a way are unpacked here, the byte order of the file being kept. */
export const unpacksHere = (compression: number): boolean =>
  [...methods.lzw, ...methods.deflate].includes(compression)

/** What a decoder is told of the blocks of a picture, the number of its bands included. */
async function parametersOf(directory: Directory): Promise<BlockParameters> {
  const load = async (name: Parameters<Directory['loadValue']>[0]) =>
    (await directory.loadValue(name)) as number | undefined
  const isTiled = !directory.hasTag('StripOffsets')
  const whole = await load('ImageLength')
  return {
    tileWidth: (await load(isTiled ? 'TileWidth' : 'ImageWidth')) ?? 0,
    tileHeight: (isTiled ? await load('TileLength') : ((await load('RowsPerStrip')) ?? whole)) ?? 0,
    planarConfiguration: (await load('PlanarConfiguration')) ?? 1,
    bitsPerSample: (await directory.loadValue('BitsPerSample')) as number[],
    predictor: (await load('Predictor')) ?? 1,
    samplesPerPixel: (await load('SamplesPerPixel')) ?? 1,
    bigEndian: bigEndian.has(directory),
  }
}

/** As many bytes may come out of a block: those of its cells. */
function mostBytes(parameters: BlockParameters): number {
  const { columns, rows, bands, bits } = cellsOf(parameters)
  return Math.ceil((columns * bands * bits) / 8) * rows + slackBytes
}

function cellsOf(parameters: BlockParameters): BlockOfCells {
  const { tileWidth, tileHeight, planarConfiguration, bitsPerSample, samplesPerPixel = 1 } = parameters
  const bits =
    Array.isArray(bitsPerSample) || ArrayBuffer.isView(bitsPerSample) ? bitsPerSample[0] : bitsPerSample
  return {
    columns: tileWidth,
    rows: tileHeight,
    bands: planarConfiguration === 2 ? 1 : samplesPerPixel,
    bits: Number(bits ?? 1),
    bigEndian: parameters.bigEndian ?? false,
  }
}

let damagedBlocks = 0

/** How many blocks could not be unpacked since this was last asked for. */
export function takeDamagedBlocks(): number {
  const count = damagedBlocks
  damagedBlocks = 0
  return count
}

/**
 * A decoder that never fails: the library unpacks many blocks at once and listens to the first failure only.
 * Blocks that cannot be unpacked are counted, and their cells are empty.
 */
abstract class CountingDecoder extends BaseDecoder {
  override async decode(packed: ArrayBuffer): Promise<ArrayBufferLike> {
    const parameters: BlockParameters = this.parameters
    try {
      const block = await this.decodeBlock(packed)
      undoPredictor(new Uint8Array(block), parameters.predictor, cellsOf(parameters))
      return block
    } catch {
      damagedBlocks++
      return new ArrayBuffer(mostBytes(this.parameters))
    }
  }
}

class LzwDecoder extends CountingDecoder {
  override decodeBlock(packed: ArrayBuffer): ArrayBufferLike {
    return unpackLzw(new Uint8Array(packed), mostBytes(this.parameters)).buffer
  }
}

class DeflateDecoder extends CountingDecoder {
  override decodeBlock(packed: ArrayBuffer): ArrayBufferLike {
    const maxOutputLength = mostBytes(this.parameters)
    return Uint8Array.from(inflateSync(new Uint8Array(packed), { maxOutputLength })).buffer
  }
}

const clearCode = 256
const endCode = 257
const firstCode = 258
const mostCodes = 4096

/**
 * Unpacks LZW as TIFF has it (TIFF 6.0, section 13): codes of 9 to 12 bits, the first bit being the highest,
 * each one bit longer one code early.
 * @throws RangeError where a code stands for nothing yet, or more comes out than there can be
 */
export function unpackLzw(packed: Uint8Array, mostOut: number): Uint8Array {
  // Each code is the one before it with a byte behind; a string is written from its end.
  const before = new Uint16Array(mostCodes)
  const last = new Uint8Array(mostCodes)
  const lengths = new Uint16Array(mostCodes)
  for (let code = 0; code < clearCode; code++) {
    last[code] = code
    lengths[code] = 1
  }
  let out = new Uint8Array(Math.min(mostOut, Math.max(4096, packed.length * 4)))
  let [size, next, width, previous, bit] = [0, firstCode, 9, -1, 0]
  for (;;) {
    if (bit + width > packed.length * 8) break
    const at = bit >> 3
    const word = (packed[at] << 16) | ((packed[at + 1] ?? 0) << 8) | (packed[at + 2] ?? 0)
    const code = (word >> (24 - (bit & 7) - width)) & ((1 << width) - 1)
    bit += width
    if (code === endCode) break
    if (code === clearCode) {
      ;[next, width, previous] = [firstCode, 9, -1]
      continue
    }
    if (code > next || (code >= next && previous < 0) || (previous < 0 && code > endCode))
      throw new RangeError('A code stands for nothing yet.')
    const isNew = code === next
    const string = isNew ? previous : code
    const length = lengths[string] + (isNew ? 1 : 0)
    if (size + length > mostOut) throw new RangeError('More comes out than there can be.')
    if (size + length > out.length) {
      const larger = new Uint8Array(Math.min(mostOut, 2 * (size + length)))
      larger.set(out)
      out = larger
    }
    let place = size + lengths[string]
    let first = string
    for (let left = lengths[string]; left > 0; left--) {
      out[--place] = last[first]
      if (left > 1) first = before[first]
    }
    if (isNew) out[size + length - 1] = last[first]
    size += length
    if (previous >= 0 && next < mostCodes) {
      before[next] = previous
      last[next] = last[first]
      lengths[next] = lengths[previous] + 1
      next++
      if (next + 1 >= 1 << width && width < 12) width++
    }
    previous = code
  }
  return out.slice(0, size)
}

let added = false

/** Has the library unpack with decoders that stop where a damaged block would go on. */
export function addStrictDecoders(): void {
  if (added) return
  added = true
  addDecoder(methods.lzw, async () => LzwDecoder, parametersOf, false)
  addDecoder(methods.deflate, async () => DeflateDecoder, parametersOf, false)
}
