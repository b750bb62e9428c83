import { numbersIn, type ByteSource } from '../byte-source'
import { ImportError } from '../import-error'
import { limits } from '../limits'

/** Bytes of a value of each type of field (TIFF 6.0, section 2; BigTIFF). */
const typeBytes: Record<number, number> = {
  ...{ 1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8, 13: 4 },
  ...{ 16: 8, 17: 8, 18: 8 },
}
const tag = {
  width: 256,
  height: 257,
  stripOffsets: 273,
  samples: 277,
  stripRows: 278,
  stripBytes: 279,
  tileWidth: 322,
  tileHeight: 323,
  tileOffsets: 324,
  tileBytes: 325,
} as const

const mostDirectories = 256
const mostEntries = 4096

type Entry = { type: number; count: number; at: number }

/**
 * Walks through the directories of a TIFF before anything is decoded: they must not lead in a circle, their
 * fields must lie within the file, and so must every strip and tile.
 * @throws ImportError
 */
export function checkDirectories(source: ByteSource, fileName: string): void {
  const damaged = (what: string) => new ImportError(`${fileName} is damaged: ${what}.`)
  const order = source.size < 16 ? 0 : numbersIn(source, false).u16(0)
  if (order !== 0x4949 && order !== 0x4d4d)
    throw new ImportError(`${fileName} cannot be read as a GeoTIFF: it does not begin as one.`)
  const little = order === 0x4949
  const numbers = numbersIn(source, little)
  const version = numbers.u16(2)
  if (version !== 42 && version !== 43)
    throw new ImportError(`${fileName} cannot be read as a GeoTIFF: it does not begin as one.`)
  const big = version === 43
  const word = (at: number): number => {
    if (at + (big ? 8 : 4) > source.size) throw damaged('it breaks off within its directories')
    return big ? numbers.u64(at) : numbers.u32(at)
  }
  const seen = new Set<number>()
  for (let at = word(big ? 8 : 4); at !== 0;) {
    const number = seen.size + 1
    if (seen.has(at)) throw damaged('its directories lead in a circle')
    if (number > mostDirectories) throw damaged(`it has more than ${mostDirectories} directories`)
    seen.add(at)
    const entries = new Map<number, Entry>()
    const head = big ? 8 : 2
    if (at + head > source.size) throw damaged(`directory ${number} lies outside of the file`)
    const count = big ? numbers.u64(at) : numbers.u16(at)
    const size = big ? 20 : 12
    if (count > mostEntries || at + head + count * size + (big ? 8 : 4) > source.size)
      throw damaged(`directory ${number} is not complete`)
    for (let i = 0; i < count; i++) {
      const from = at + head + i * size
      const [name, type] = [numbers.u16(from), numbers.u16(from + 2)]
      const values = big ? numbers.u64(from + 4) : numbers.u32(from + 4)
      const length = (typeBytes[type] ?? 0) * values
      const inside = length <= (big ? 8 : 4)
      const start = inside ? from + (big ? 12 : 8) : word(from + (big ? 12 : 8))
      if (start + length > source.size)
        throw damaged(`the field ${name} of directory ${number} lies outside of the file`)
      entries.set(name, { type, count: values, at: start })
    }
    checkImage({ numbers, entries, number, size: source.size, fileName }, damaged)
    at = word(at + head + count * size)
  }
  if (!seen.size) throw damaged('it has no directory')
}

type Directory = {
  numbers: ReturnType<typeof numbersIn>
  entries: Map<number, Entry>
  number: number
  size: number
  fileName: string
}

function checkImage(directory: Directory, damaged: (what: string) => ImportError): void {
  const { entries, number, size, fileName } = directory
  const one = (name: number, otherwise: number) => valueAt(directory, entries.get(name), 0) ?? otherwise
  const [width, height] = [one(tag.width, 0), one(tag.height, 0)]
  if (!width || !height) throw damaged(`picture ${number} has no size`)
  if (width * height * one(tag.samples, 1) > limits.rasterCells)
    throw damaged(`picture ${number} would have ${width} × ${height} cells, which are too many`)
  const tiled = entries.has(tag.tileOffsets)
  const blockRows = Math.min(height, one(tiled ? tag.tileHeight : tag.stripRows, height))
  const blockCells = (tiled ? one(tag.tileWidth, 0) : width) * blockRows * one(tag.samples, 1)
  if (blockCells > limits.rasterBlockCells)
    throw new ImportError(
      `${fileName} is packed in pieces of ${Math.round(blockCells / 1e6)} million cells, each of which would have ` +
        'to be held whole. Save it in tiles, or in strips of a few rows.',
    )
  if (tiled && (!one(tag.tileWidth, 0) || !one(tag.tileHeight, 0)))
    throw damaged(`the tiles of picture ${number} have no size`)
  const offsets = entries.get(tiled ? tag.tileOffsets : tag.stripOffsets)
  const lengths = entries.get(tiled ? tag.tileBytes : tag.stripBytes)
  if (!offsets || !lengths || offsets.count !== lengths.count || !offsets.count)
    throw damaged(`picture ${number} does not say where its cells are`)
  for (let i = 0; i < offsets.count; i++) {
    const [from, length] = [valueAt(directory, offsets, i) ?? 0, valueAt(directory, lengths, i) ?? 0]
    if (from + length > size)
      throw damaged(
        `it breaks off in ${tiled ? 'tile' : 'strip'} ${i + 1} of ${offsets.count} of picture ${number}`,
      )
  }
}

/** A whole number of a field; null where there is none. */
function valueAt({ numbers }: Directory, entry: Entry | undefined, i: number): number | null {
  if (!entry || i >= entry.count) return null
  switch (entry.type) {
    case 1:
      return numbers.u8(entry.at + i)
    case 3:
      return numbers.u16(entry.at + 2 * i)
    case 4:
    case 13:
      return numbers.u32(entry.at + 4 * i)
    case 16:
    case 18:
      return numbers.u64(entry.at + 8 * i)
    default:
      return null
  }
}
