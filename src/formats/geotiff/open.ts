import { GeoTIFF, type GeoTIFFImage } from 'geotiff'
import type { ValuesAre } from '@/core/data/reading'
import type { ByteSource } from '../byte-source'
import { ImportError, UnknownSystemError, type ReadOptions } from '../import-error'
import { systemOf, type Beside, type RasterFile, type System, type Transform } from '../raster/raster-file'
import { checkDirectories } from './check-directories'
import { addStrictDecoders, noteByteOrder, takeDamagedBlocks, unpacksHere } from './decoders'
import { kindsIn } from './kinds'

const mostBands = 8

type Slice = { offset: number; length: number }

/** What the library reads pieces of a file by. */
function librarySource({ size, read }: ByteSource) {
  const slice = async ({ offset, length }: Slice) => {
    const bytes = read(offset, Math.max(0, Math.min(size, offset + length) - offset)).slice()
    return { offset, length: bytes.length, data: bytes.buffer }
  }
  return {
    fetch: (slices: Slice[]) => Promise.all(slices.map(async (one) => (await slice(one)).data)),
    fetchSlice: slice,
    fileSize: size,
    close: async () => undefined,
  }
}

/**
 * Opens a GeoTIFF to be read row by row; what it says of its place itself goes before what lies beside it.
 * @throws ImportError; UnknownSystemError where nothing says its reference system
 */
export async function openGeotiff(
  source: ByteSource,
  fileName: string,
  options: ReadOptions,
  beside: Beside = { transform: null, system: null },
): Promise<RasterFile> {
  checkDirectories(source, fileName)
  addStrictDecoders()
  const tiff = await GeoTIFF.fromSource(librarySource(source))
  const image = await tiff.getImage(0)
  await checkByteOrder(tiff, image, fileName)
  const transform = (await placeOf(image)) ?? beside.transform
  if (!transform)
    throw new ImportError(
      `${fileName} does not say where on the ground it lies. Save it with its georeference, or bring it in together with its world file (.tfw).`,
    )
  const system = systemIn(image, { options, fileName, beside: beside.system })
  const mask = await maskOf(tiff, image)
  return {
    name: fileName,
    transform,
    system,
    ...(await cellsIn({ image, mask, fileName, wanted: options.values })),
  }
}

/**
 * The library undoes differences as if every file had the lowest byte first.
 * @throws ImportError where only it could
 */
async function checkByteOrder(tiff: GeoTIFF, image: GeoTIFFImage, fileName: string): Promise<void> {
  const directory = image.getFileDirectory()
  noteByteOrder(directory, tiff.littleEndian)
  const load = async (tag: 'Compression' | 'Predictor') => ((await directory.loadValue(tag)) as number) ?? 1
  const [compression, predictor] = [await load('Compression'), await load('Predictor')]
  if (tiff.littleEndian || predictor === 1 || compression === 1 || unpacksHere(compression)) return
  throw new ImportError(
    `${fileName} is packed in a way whose byte order is not known here. Save it with Deflate or LZW, or without differences between neighbours (predictor 1).`,
  )
}

/** More pictures than this in one file are not looked through for a mask. */
const mostPictures = 64

/**
 * The picture of a file that says which cells of the first are clear (TIFF 6.0, NewSubfileType 4); null without
 * one.
 */
async function maskOf(tiff: GeoTIFF, image: GeoTIFFImage): Promise<GeoTIFFImage | null> {
  const count = Math.min(mostPictures, await tiff.getImageCount())
  for (let i = 1; i < count; i++) {
    const other = await tiff.getImage(i)
    const sort = ((await other.getFileDirectory().loadValue('NewSubfileType')) as number | undefined) ?? 0
    const isOfFirst = (sort & 4) !== 0 && (sort & 1) === 0
    if (!isOfFirst || other.getWidth() !== image.getWidth() || other.getHeight() !== image.getHeight())
      continue
    noteByteOrder(other.getFileDirectory(), tiff.littleEndian)
    return other
  }
  return null
}

/** From column and row of the file to its coordinates, as in `Raster`; null where it does not say. */
async function placeOf(image: GeoTIFFImage): Promise<Transform | null> {
  const matrix = (await image.getFileDirectory().loadValue('ModelTransformation')) as
    ArrayLike<number> | undefined
  let place: Transform
  if (matrix) place = [matrix[3], matrix[0], matrix[1], matrix[7], matrix[4], matrix[5]]
  else {
    try {
      const [[x, y], [dx, dy]] = [image.getOrigin(), image.getResolution()]
      place = [x, dx, 0, y, 0, dy]
    } catch {
      return null
    }
  }
  if (image.pixelIsArea()) return place
  // Where values belong to points, the place given is the middle of the first cell.
  return [
    place[0] - (place[1] + place[2]) / 2,
    place[1],
    place[2],
    place[3] - (place[4] + place[5]) / 2,
    place[4],
    place[5],
  ]
}

function systemIn(
  image: GeoTIFFImage,
  { options, fileName, beside }: { options: ReadOptions; fileName: string; beside: string | null },
): System {
  const keys = image.getGeoKeys()
  const listed = [keys?.ProjectedCSTypeGeoKey, keys?.GeographicTypeGeoKey].find(
    (key): key is number => typeof key === 'number' && key > 0 && key < 32767,
  )
  const own = listed === undefined || (keys?.ProjectedCSTypeGeoKey ?? 0) === 32767 ? null : `EPSG:${listed}`
  const code = options.crs ?? own ?? beside
  if (!code)
    throw new UnknownSystemError(
      `${fileName} does not say its reference system. Choose the one that it is in.`,
    )
  return systemOf(code)
}

/** The size of an image, and its cells row by row. */
async function cellsIn({
  image,
  mask,
  fileName,
  wanted,
}: {
  image: GeoTIFFImage
  mask: GeoTIFFImage | null
  fileName: string
  wanted: ReadOptions['values']
}): Promise<Omit<RasterFile, 'name' | 'transform' | 'system'>> {
  const [columns, rows] = [image.getWidth(), image.getHeight()]
  const photometric = (await image.getFileDirectory().loadValue('PhotometricInterpretation')) as
    number | undefined
  const kinds = await kindsIn(image, { photometric, wanted })
  const inPalette = photometric === 3
  // Palettes and pictures that are not stored as red, green and blue are turned into them.
  const asRgb = inPalette
    ? !kinds && wanted !== 'amounts'
    : photometric !== undefined && photometric > 2 && photometric !== 32844
  const stored = image.getSamplesPerPixel()
  const mayBe: ValuesAre[] = inPalette ? ['amounts', 'kinds', 'colours'] : ['amounts', 'kinds']
  const guessed = stored === 1 && (inPalette || !asRgb)
  const clear = asRgb ? -1 : await alphaOf(image)
  const inColour = clear >= 0 ? stored - 1 : stored
  const bands = asRgb ? 3 : inColour
  if (!(bands >= 1)) throw new ImportError(`${fileName} is damaged: it has no bands.`)
  if (bands > mostBands)
    throw new ImportError(`${fileName} has ${bands} bands; up to ${mostBands} can be brought in.`)
  // What marks nothing is written in full, while cells of 32 bits hold it rounded.
  const said = image.getGDALNoData()
  const empty = said !== null && isSingle(image) ? Math.fround(said) : said
  const scaling = asRgb ? [] : await scalingOf(image, bands)
  const isWide = image.getBitsPerSample() > 24 && !isSingle(image)
  const hasPalette = inPalette && !kinds && !asRgb

  let rounded = 0
  async function read(top: number, bottom: number): Promise<Float32Array[]> {
    takeDamagedBlocks()
    const window = [0, top, columns, bottom]
    const stored = await storedCells(image, window, asRgb).catch(() => null)
    const [masked] = mask && stored ? await storedCells(mask, window, false).catch(() => []) : []
    if (!stored || (mask && !masked) || takeDamagedBlocks() > 0)
      throw new ImportError(
        `${fileName} is damaged, or packed in a way that is not known here: its rows ${top + 1} to ${bottom} cannot be read.`,
      )
    const alpha = clear >= 0 ? stored[clear] : null
    return Array.from({ length: bands }, (_, b) => {
      const [cells, scale] = [stored[b], scaling[b]]
      const out = new Float32Array(columns * (bottom - top))
      for (let i = 0; i < out.length; i++) {
        const raw = cells[i]
        if (raw === empty || (alpha && alpha[i] === 0) || (masked && masked[i] === 0)) {
          out[i] = NaN
          continue
        }
        const value = scale ? raw * scale.scale + scale.offset : raw
        out[i] = value
        if (isWide && out[i] !== value && value === value) rounded++
      }
      return out
    })
  }
  return {
    ...{ columns, rows, bands, rowsInBlock: image.getTileHeight(), read },
    ...kinds,
    ...(guessed && { valuesMayBe: mayBe }),
    remarks: () => [
      ...(rounded
        ? [
            `${rounded.toLocaleString('en-GB')} values have more figures than the seven that cells are held with, and were rounded to them.`,
          ]
        : []),
      ...(hasPalette
        ? ['The colours that the file gives its values were left out, since they were read as amounts.']
        : []),
    ],
  }
}

/**
 * Which band says how opaque cells are: as the file says (TIFF 6.0, ExtraSamples 1 and 2), else by their number; −1
 * for none.
 */
async function alphaOf(image: GeoTIFFImage): Promise<number> {
  const stored = image.getSamplesPerPixel()
  const extra = (await image.getFileDirectory().loadValue('ExtraSamples')) as
    ArrayLike<number> | number | undefined
  if (extra === undefined)
    return image.getBitsPerSample() === 8 && (stored === 4 || stored === 2) ? stored - 1 : -1
  const list = typeof extra === 'number' ? [extra] : Array.from(extra)
  const at = list.findIndex((sort) => sort === 1 || sort === 2)
  return at < 0 ? -1 : stored - list.length + at
}

const isSingle = (image: GeoTIFFImage): boolean =>
  image.getSampleFormat() === 3 && image.getBitsPerSample() === 32

/** By what cells of each band are multiplied and what is added (items of the metadata that GDAL writes). */
async function scalingOf(image: GeoTIFFImage, bands: number): Promise<{ scale: number; offset: number }[]> {
  const found: { scale: number; offset: number }[] = []
  for (let b = 0; b < bands; b++) {
    const items = (await Promise.resolve(image.getGDALMetadata(b)).catch(() => null)) as Record<
      string,
      string
    > | null
    const [scale, offset] = [Number(items?.SCALE ?? 1), Number(items?.OFFSET ?? 0)]
    if (Number.isFinite(scale) && Number.isFinite(offset) && (scale !== 1 || offset !== 0))
      found[b] = { scale, offset }
  }
  return found
}

/** The cells of a window as they are stored, a list for each band. */
async function storedCells(
  image: GeoTIFFImage,
  window: number[],
  asRgb: boolean,
): Promise<ArrayLike<number>[]> {
  const read = asRgb
    ? await image.readRGB({ window, interleave: false })
    : await image.readRasters({ window, interleave: false })
  // Without interleaving both give one array for each band; the types do not say so.
  return read as unknown as ArrayLike<number>[]
}
