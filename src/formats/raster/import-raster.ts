import { numberColumn } from '@/core/data/column'
import type { Raster } from '@/core/data/raster'
import type { ValuesAre } from '@/core/data/reading'
import type { Sink } from '../byte-source'
import { ImportError, UnknownSystemError, type Imported, type Reading } from '../import-error'
import { limits } from '../limits'
import { openTiles, tileReader } from '../raster-tiles/read'
import { writePyramid, type PyramidWriter } from '../raster-tiles/write'
import { nameFromFile } from '../text'
import type { RasterFile } from './raster-file'

/** Cells that are read at once. */
const windowCells = 4_000_000

/**
 * Reads a file of cells from the top down into levels of detail, of which the finest that a browser can hold is held
 * and the others lie in tiles; figures of each band are those of all cells. No more than some hundred rows are held at
 * a time.
 * @throws ImportError
 */
export async function importRaster(file: RasterFile, fileName: string, reading: Reading): Promise<Imported> {
  const { columns: wide, rows: high, bands: inFile, palette, ofKinds, system, valuesMayBe } = file
  if (wide * high * inFile > limits.rasterCells)
    throw new ImportError(
      `${fileName} has ${(wide * high * inFile).toLocaleString('en-GB')} cells; up to ${limits.rasterCells.toLocaleString('en-GB')} can be brought in.`,
    )
  const edge = edgeOf(file, fileName)
  // Only a raster of more cells than are held opens one.
  const sinks: Sink[] = []
  const { figures, columns, rows, values, fine } = await readCells(file, {
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
    crs: system.formula,
    columns,
    rows,
    bands: figures.length,
    values,
    fileSize: Uint32Array.of(wide, high),
    transform: Float64Array.from(file.transform, (part, k) => (k % 3 ? part * every : part)),
    edge,
    ...(ofKinds && { ofKinds }),
    ...(palette && { palette }),
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
  return {
    name: nameFromFile(file.name),
    guessed: { crs: system.code, ...(valuesMayBe && { values: valuesAre(file), valuesMayBe }) },
    notes: [],
    remarks: [
      ...(ofKinds
        ? [
            'Its values name kinds of ground: coarser cells have the kind that is found most often in them. Open this card to say otherwise.',
          ]
        : []),
      ...(file.remarks?.() ?? []),
    ],
    dataset: { rowCount: figures.length, fields, geometry: { kind: 'none' }, raster },
    ...(fine && { tiles: sink }),
  }
}

/** What the values of a file were taken for. */
function valuesAre({ ofKinds, bands }: RasterFile): ValuesAre {
  if (ofKinds) return 'kinds'
  return bands > 1 ? 'colours' : 'amounts'
}

type Figures = {
  band: number
  low: number | null
  high: number | null
  mean: number | null
  deviation: number | null
  empty: number
}

type CellsRead = ReturnType<PyramidWriter['end']> & { figures: Figures[] }

/** Reads all cells once, from the top down. */
async function readCells(file: RasterFile, reading: Reading): Promise<CellsRead> {
  const { columns: width, rows: height, bands, rowsInBlock } = file
  const pyramid = writePyramid(file, reading.openSink)
  const moments = Array.from({ length: bands }, () => ({
    low: Infinity,
    high: -Infinity,
    count: 0,
    mean: 0,
    squares: 0,
  }))
  const row = moments.map(() => new Float32Array(width))
  const block = Math.max(1, rowsInBlock)
  const step = Math.max(block, Math.floor(windowCells / width / block) * block)
  for (let top = 0; top < height; top += step) {
    const bottom = Math.min(height, top + step)
    reading.progress(
      top / height,
      `Reading row ${(top + 1).toLocaleString('en-GB')} of ${height.toLocaleString('en-GB')}`,
    )
    const read = await file.read(top, bottom)
    for (let r = top; r < bottom; r++) {
      const from = (r - top) * width
      for (let b = 0; b < bands; b++) {
        const m = moments[b]
        const [cells, out] = [read[b], row[b]]
        for (let c = 0; c < width; c++) {
          const value = cells[from + c]
          out[c] = value
          if (value !== value) continue
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

const edgePoints = 40

/** Points along the four sides, in degrees. */
function edgeOf(
  { columns, rows, transform: [t0, t1, t2, t3, t4, t5], system: { toDegrees } }: RasterFile,
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
