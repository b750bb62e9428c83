import { fromArrayBuffer, type GeoTIFF, type GeoTIFFImage } from 'geotiff'
import { numberColumn } from '@/core/data/column'
import { heldSize, type Raster } from '@/core/data/raster'
import { definitionOf } from '../crs/reproject'
import { referenceSystem } from '../crs/catalogue'
import { ImportError, UnknownSystemError, type Imported, type ReadOptions } from '../import-error'
import { nameFromFile } from '../text'
import { checkDirectories } from './check-directories'
import { addStrictDecoders, takeDamagedBlocks } from './decoders'

/** Cells that are read at once. */
const windowCells = 4_000_000
/** Above this, an overview of the file is read where it has one that is fine enough. */
const wholeCells = 60_000_000
const mostBands = 8

/**
 * Reads an elevation model or picture window by window into a grid of means that is small enough for a
 * browser; figures of each band are those of all cells read. Values marked as empty, and cells under a clear
 * mask, are missing.
 * @throws ImportError; UnknownSystemError where the file does not say its reference system
 */
export async function readGeotiff(
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions,
): Promise<Imported[]> {
  checkDirectories(bytes, fileName)
  addStrictDecoders()
  try {
    const tiff = await fromArrayBuffer(
      bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer,
    )
    const first = await tiff.getImage(0)
    const transform = await placeOf(first, fileName)
    const { definition, code } = systemOf(first, options, fileName)
    const size: [number, number] = [first.getWidth(), first.getHeight()]
    const held = heldSize(...size)
    const image = size[0] * size[1] > wholeCells ? await overview(tiff, first, held.columns) : first
    const { columns, rows, every } = image === first ? held : heldSize(image.getWidth(), image.getHeight())
    const grid = await reduce(image, columns, rows, { every, fileName })
    // Cells of the held grid are so many cells of the file wide.
    const [wide, high] = [(size[0] / image.getWidth()) * every, (size[1] / image.getHeight()) * every]
    const raster: Raster = {
      crs: definition?.toDegrees ? (referenceSystem(code)?.proj4 ?? '') : '',
      columns,
      rows,
      bands: grid.figures.length,
      values: grid.values,
      fileSize: Uint32Array.from(size),
      transform: Float64Array.of(
        transform[0],
        transform[1] * wide,
        transform[2] * high,
        transform[3],
        transform[4] * wide,
        transform[5] * high,
      ),
      edge: new Float64Array(0),
    }
    raster.edge = edgeOf(raster, definition.toDegrees, fileName)
    const field = (key: string, of: (f: Figures) => number | null) => ({
      key,
      column: numberColumn(grid.figures.map(of)),
    })
    const fields = [
      field('band_no', (f) => f.band),
      field('lowest', (f) => f.low),
      field('highest', (f) => f.high),
      field('mean', (f) => f.mean),
      field('standard_deviation', (f) => f.deviation),
      field('empty_percent', (f) => f.empty),
    ]
    return [
      {
        name: nameFromFile(fileName),
        guessed: { crs: code },
        notes: [],
        dataset: { rowCount: grid.figures.length, fields, geometry: { kind: 'none' }, raster },
      },
    ]
  } catch (error) {
    if (error instanceof ImportError) throw error
    throw new ImportError(
      `${fileName} cannot be read as a GeoTIFF: what it says of itself does not fit together.`,
    )
  }
}

type Figures = {
  band: number
  low: number | null
  high: number | null
  mean: number | null
  deviation: number | null
  empty: number
}

/** From column and row of the file to its coordinates, as in `Raster`. */
async function placeOf(image: GeoTIFFImage, fileName: string): Promise<number[]> {
  const matrix = (await image.getFileDirectory().loadValue('ModelTransformation')) as
    ArrayLike<number> | undefined
  let place: number[]
  if (matrix) place = [matrix[3], matrix[0], matrix[1], matrix[7], matrix[4], matrix[5]]
  else {
    try {
      const [[x, y], [dx, dy]] = [image.getOrigin(), image.getResolution()]
      place = [x, dx, 0, y, 0, dy]
    } catch {
      throw new ImportError(
        `${fileName} does not say where on the ground it lies. Save it with its georeference.`,
      )
    }
  }
  // Where values belong to points, the place given is the middle of the first cell.
  if (!image.pixelIsArea())
    place = [
      place[0] - (place[1] + place[2]) / 2,
      place[1],
      place[2],
      place[3] - (place[4] + place[5]) / 2,
      place[4],
      place[5],
    ]
  return place
}

function systemOf(
  image: GeoTIFFImage,
  options: ReadOptions,
  fileName: string,
): { definition: ReturnType<typeof definitionOf>; code: string } {
  const keys = image.getGeoKeys()
  const listed = [keys?.ProjectedCSTypeGeoKey, keys?.GeographicTypeGeoKey].find(
    (key): key is number => typeof key === 'number' && key > 0 && key < 32767,
  )
  const code =
    options.crs ??
    (listed === undefined || (keys?.ProjectedCSTypeGeoKey ?? 0) === 32767 ? null : `EPSG:${listed}`)
  if (!code)
    throw new UnknownSystemError(
      `${fileName} does not say its reference system. Choose the one that it is in.`,
    )
  return { definition: definitionOf(code), code }
}

/** The smallest overview that still has as many columns as are held. */
async function overview(tiff: GeoTIFF, first: GeoTIFFImage, columns: number): Promise<GeoTIFFImage> {
  let best = first
  for (let i = 1; i < (await tiff.getImageCount()); i++) {
    const image = await tiff.getImage(i)
    const shape = image.getWidth() / image.getHeight() / (first.getWidth() / first.getHeight())
    if (
      image.getWidth() >= columns &&
      image.getWidth() < best.getWidth() &&
      Math.abs(shape - 1) < 0.02 &&
      image.getSamplesPerPixel() === first.getSamplesPerPixel()
    )
      best = image
  }
  return best
}

async function reduce(
  image: GeoTIFFImage,
  columns: number,
  rows: number,
  { every, fileName }: { every: number; fileName: string },
): Promise<{ values: Float32Array; figures: Figures[] }> {
  const [width, height] = [image.getWidth(), image.getHeight()]
  const photometric = (await image.getFileDirectory().loadValue('PhotometricInterpretation')) as
    number | undefined
  // Palettes and pictures that are not stored as red, green and blue are turned into them.
  const asRgb = photometric !== undefined && photometric > 2 && photometric !== 32844
  const stored = image.getSamplesPerPixel()
  const clear = !asRgb && image.getBitsPerSample() === 8 && (stored === 4 || stored === 2) ? stored - 1 : -1
  const inColour = clear >= 0 ? stored - 1 : stored
  const bands = asRgb ? 3 : inColour
  if (!(bands >= 1)) throw new ImportError(`${fileName} is damaged: it has no bands.`)
  if (bands > mostBands)
    throw new ImportError(`${fileName} has ${bands} bands; up to ${mostBands} can be brought in.`)
  // What marks nothing is written in full, while cells of 32 bits hold it rounded.
  const said = image.getGDALNoData()
  const empty = said !== null && isSingle(image) ? Math.fround(said) : said
  const scaling = asRgb ? [] : await scalingOf(image, bands)
  const cells = columns * rows
  const sums = new Float64Array(bands * cells)
  const counts = new Uint32Array(bands * cells)
  const moments = Array.from({ length: bands }, () => ({
    low: Infinity,
    high: -Infinity,
    count: 0,
    mean: 0,
    squares: 0,
  }))
  const block = Math.max(1, image.getTileHeight())
  const step = Math.max(block, Math.floor(windowCells / width / block) * block)
  for (let top = 0; top < height; top += step) {
    const bottom = Math.min(height, top + step)
    const window = [0, top, width, bottom]
    takeDamagedBlocks()
    const read = await cellsOf(image, window, asRgb).catch(() => null)
    if (!read || takeDamagedBlocks() > 0)
      throw new ImportError(
        `${fileName} is damaged, or packed in a way that is not known here: its rows ${top + 1} to ${bottom} cannot be read.`,
      )
    for (let b = 0; b < bands; b++) {
      const m = moments[b]
      for (let r = top; r < bottom; r++) {
        const row = b * cells + Math.floor(r / every) * columns
        for (let c = 0, i = (r - top) * width; c < width; c++, i++) {
          const raw = read[b][i]
          const value = scaling[b] ? raw * scaling[b].scale + scaling[b].offset : raw
          if (raw === empty || Number.isNaN(value) || (clear >= 0 && read[clear][i] === 0)) continue
          const at = row + Math.floor(c / every)
          sums[at] += value
          counts[at]++
          if (value < m.low) m.low = value
          if (value > m.high) m.high = value
          // Welford 1962: mean and squares in one pass.
          const off = value - m.mean
          m.mean += off / ++m.count
          m.squares += off * (value - m.mean)
        }
      }
    }
  }
  const values = Float32Array.from(sums, (sum, i) => (counts[i] ? sum / counts[i] : NaN))
  const figures = moments.map(({ low, high, count, mean, squares }, b): Figures => ({
    band: b + 1,
    low: count ? low : null,
    high: count ? high : null,
    mean: count ? mean : null,
    deviation: count > 1 ? Math.sqrt(squares / (count - 1)) : null,
    empty: 100 * (1 - count / (width * height)),
  }))
  return { values, figures }
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

/** The cells of a window, a list for each band. */
async function cellsOf(image: GeoTIFFImage, window: number[], asRgb: boolean): Promise<ArrayLike<number>[]> {
  const read = asRgb
    ? await image.readRGB({ window, interleave: false })
    : await image.readRasters({ window, interleave: false })
  // Without interleaving both give one array for each band; the types do not say so.
  return read as unknown as ArrayLike<number>[]
}

const edgePoints = 40

/** Points along the four sides, in degrees. */
function edgeOf(
  { columns, rows, transform: [t0, t1, t2, t3, t4, t5] }: Raster,
  toDegrees: ((x: number, y: number) => [number, number]) | null,
  fileName: string,
): Float64Array {
  const places: number[] = []
  for (const [c0, r0, c1, r1] of [
    [0, 0, columns, 0],
    [columns, 0, columns, rows],
    [columns, rows, 0, rows],
    [0, rows, 0, 0],
  ])
    for (let i = 0; i < edgePoints; i++) {
      const [c, r] = [c0 + ((c1 - c0) * i) / edgePoints, r0 + ((r1 - r0) * i) / edgePoints]
      const [x, y] = [t0 + t1 * c + t2 * r, t3 + t4 * c + t5 * r]
      const [lon, lat] = toDegrees ? toDegrees(x, y) : [x, y]
      if (!Number.isFinite(lon) || !Number.isFinite(lat) || Math.abs(lat) > 90.000001 || Math.abs(lon) > 540)
        throw new UnknownSystemError(
          `${fileName} reaches the coordinates ${x}, ${y}, which do not fit its reference system. Choose the one that it is in.`,
        )
      places.push(lon, lat)
    }
  return Float64Array.from(places)
}
