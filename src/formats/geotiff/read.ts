import { GeoTIFF, type GeoTIFFImage } from 'geotiff'
import { numberColumn } from '@/core/data/column'
import type { Raster } from '@/core/data/raster'
import type { ByteSource, Sink } from '../byte-source'
import { definitionOf } from '../crs/reproject'
import { referenceSystem } from '../crs/catalogue'
import {
  ImportError,
  UnknownSystemError,
  type Imported,
  type ReadOptions,
  type Reading,
} from '../import-error'
import { openTiles, tileReader } from '../raster-tiles/read'
import { writePyramid, type PyramidWriter } from '../raster-tiles/write'
import { nameFromFile } from '../text'
import { checkDirectories } from './check-directories'
import { addStrictDecoders, takeDamagedBlocks } from './decoders'

/** Cells that are read at once. */
const windowCells = 4_000_000
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
 * Reads an elevation model or picture window by window into levels of detail, of which the finest that a browser can
 * hold is held and the others lie in tiles; figures of each band are those of all cells. Values marked as empty, and
 * cells under a clear mask, are missing. No more than a few hundred rows are held at a time.
 * @throws ImportError; UnknownSystemError where the file does not say its reference system
 */
export async function readGeotiff(
  source: ByteSource,
  fileName: string,
  options: ReadOptions,
  reading: Reading,
): Promise<Imported[]> {
  checkDirectories(source, fileName)
  addStrictDecoders()
  try {
    const tiff = await GeoTIFF.fromSource(librarySource(source))
    const image = await tiff.getImage(0)
    const transform = await placeOf(image, fileName)
    const { definition, code } = systemOf(image, options, fileName)
    const size: [number, number] = [image.getWidth(), image.getHeight()]
    const system = definition?.toDegrees ? (referenceSystem(code)?.proj4 ?? '') : ''
    const edge = edgeOf(size, transform, { toDegrees: definition.toDegrees, fileName })
    // Only a raster of more cells than are held opens one.
    const sinks: Sink[] = []
    const { figures, columns, rows, values, fine } = await readCells(image, fileName, {
      ...reading,
      openSink() {
        sinks.push(reading.openSink())
        return sinks[0]
      },
    })
    const [sink] = sinks
    // Cells of the held grid are so many cells of the file wide.
    const every = 2 ** (fine?.levels ?? 0)
    const raster: Raster = {
      crs: system,
      columns,
      rows,
      bands: figures.length,
      values,
      fileSize: Uint32Array.from(size),
      transform: Float64Array.from(transform, (part, k) => (k % 3 ? part * every : part)),
      edge,
      ...(fine && { fine: { ...fine, id: '' }, readTile: tileReader(openTiles(sink.source())) }),
    }
    const field = (key: string, of: (f: Figures) => number | null) => ({
      key,
      column: numberColumn(figures.map(of)),
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
        dataset: { rowCount: figures.length, fields, geometry: { kind: 'none' }, raster },
        ...(fine && { tiles: sink }),
      },
    ]
  } catch (error) {
    if (error instanceof ImportError) throw error
    throw new ImportError(
      `${fileName} cannot be read as a GeoTIFF: what it says of itself does not fit together.`,
      { cause: error },
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

type CellsRead = ReturnType<PyramidWriter['end']> & { figures: Figures[] }

/** Reads all cells once, from the top down. */
async function readCells(image: GeoTIFFImage, fileName: string, reading: Reading): Promise<CellsRead> {
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
  const pyramid = writePyramid({ columns: width, rows: height, bands }, reading.openSink)
  const moments = Array.from({ length: bands }, () => ({
    low: Infinity,
    high: -Infinity,
    count: 0,
    mean: 0,
    squares: 0,
  }))
  const row = moments.map(() => new Float32Array(width))
  const block = Math.max(1, image.getTileHeight())
  const step = Math.max(block, Math.floor(windowCells / width / block) * block)
  for (let top = 0; top < height; top += step) {
    const bottom = Math.min(height, top + step)
    reading.progress(
      top / height,
      `Reading row ${(top + 1).toLocaleString('en-GB')} of ${height.toLocaleString('en-GB')}`,
    )
    const window = [0, top, width, bottom]
    takeDamagedBlocks()
    const read = await cellsOf(image, window, asRgb).catch(() => null)
    if (!read || takeDamagedBlocks() > 0)
      throw new ImportError(
        `${fileName} is damaged, or packed in a way that is not known here: its rows ${top + 1} to ${bottom} cannot be read.`,
      )
    for (let r = top; r < bottom; r++) {
      const from = (r - top) * width
      for (let b = 0; b < bands; b++) {
        const m = moments[b]
        const [cells, out, scale] = [read[b], row[b], scaling[b]]
        for (let c = 0; c < width; c++) {
          const raw = cells[from + c]
          const value = scale ? raw * scale.scale + scale.offset : raw
          if (raw === empty || value !== value || (clear >= 0 && read[clear][from + c] === 0)) {
            out[c] = NaN
            continue
          }
          out[c] = value
          if (value < m.low) m.low = value
          if (value > m.high) m.high = value
          // Welford 1962: mean and squares in one pass.
          const off = value - m.mean
          m.mean += off / ++m.count
          m.squares += off * (value - m.mean)
        }
      }
      pyramid.row(row)
    }
  }
  const figures = moments.map(({ low, high, count, mean, squares }, b): Figures => ({
    band: b + 1,
    low: count ? low : null,
    high: count ? high : null,
    mean: count ? mean : null,
    deviation: count > 1 ? Math.sqrt(squares / (count - 1)) : null,
    empty: 100 * (1 - count / (width * height)),
  }))
  return { ...pyramid.end(), figures }
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
  [columns, rows]: [number, number],
  [t0, t1, t2, t3, t4, t5]: number[],
  {
    toDegrees,
    fileName,
  }: { toDegrees: ((x: number, y: number) => [number, number]) | null; fileName: string },
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
