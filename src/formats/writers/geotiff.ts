import { deflateSync } from 'node:zlib'
import type { Raster } from '@/core/data/raster'
import { cellsOf, finestLevel, levelHeld, sizeOf } from '@/core/data/raster-cells'
import { SaidError } from '@/core/said/said-error'
import { referenceSystems } from '../crs/catalogue'
import { tiffFile, type Tag } from '../geotiff/tiff-file'
import type { WriteRequest, Written } from './rows'

/** More cells than this are not written at once. */
const mostCells = 200_000_000
const rowsPerStrip = 64

/** How cells are stored: whole numbers of 8 or 16 bits where all of them are such, floats of 32 bits otherwise. */
type Cells = {
  bits: 8 | 16 | 32
  format: 1 | 2 | 3
  empty: string | null
  bytes: (values: Float32Array) => Uint8Array
}

const asBytes: Cells = { bits: 8, format: 1, empty: null, bytes: (values) => Uint8Array.from(values) }
/** The same with one value for nothing, where the raster has colours for its values: TIFF has them for bytes alone. */
const noByte = 255
const asBytesOrNone: Cells = {
  bits: 8,
  format: 1,
  empty: String(noByte),
  bytes: (values) => Uint8Array.from(values, (v) => (v === v ? v : noByte)),
}
const noValue = -32_768
const asWhole: Cells = {
  bits: 16,
  format: 2,
  empty: String(noValue),
  bytes: (values) => new Uint8Array(Int16Array.from(values, (v) => (v === v ? v : noValue)).buffer),
}
const asFloats: Cells = {
  bits: 32,
  format: 3,
  empty: 'nan',
  bytes: (values) => new Uint8Array(values.buffer, values.byteOffset, values.byteLength),
}

/**
 * A raster as a GeoTIFF (TIFF 6.0; OGC 19-008) in deflated strips, band by band, with its place, its reference system
 * and what marks nothing. All cells of the finest level are written.
 * @throws SaidError where the dataset is no raster, or its system has no code, or it is too large
 */
export function writeGeotiff({ dataset, name }: WriteRequest): Written {
  const { raster } = dataset
  if (!raster) throw new SaidError(`GeoTIFF is for rasters; “${name}” has none.`)
  const level = finestLevel(raster)
  const { columns, rows } = sizeOf(raster, level)
  if (columns * rows * raster.bands > mostCells)
    throw new SaidError(`“${name}” has ${columns} × ${rows} cells, more than are written into one file.`)
  const rowsOf = (band: number, from: number): Float32Array => {
    const scale = 2 ** (levelHeld(raster) - level)
    const to = Math.min(rows, from + rowsPerStrip)
    const window = { left: 0, top: from / scale, right: raster.columns, bottom: to / scale }
    return cellsOf(raster, { band, level, window }).values
  }
  const starts = Array.from({ length: Math.ceil(rows / rowsPerStrip) }, (_, i) => i * rowsPerStrip)
  const bands = Array.from({ length: raster.bands }, (_, b) => b)
  const cells = storedAs(
    bands.flatMap((band) => starts.map((from) => () => rowsOf(band, from))),
    raster.palette !== undefined,
  )
  const strips = bands.flatMap((band) => starts.map((from) => deflateSync(cells.bytes(rowsOf(band, from)))))
  const remarks: string[] = []
  if (raster.fine && level > 0)
    remarks.push(
      `The fine cells of “${name}” are not here: the file holds what is held of it, ${columns} × ${rows} cells.`,
    )
  if (raster.palette && !hasColours(raster, cells))
    remarks.push(
      `The colours of the values of “${name}” were left out: a GeoTIFF has them for values of 0 to 255 only.`,
    )
  return {
    bytes: tiffFile(
      strips,
      tagsOf(raster, { columns, rows, cells, every: 2 ** (levelHeld(raster) - level) }),
    ),
    remarks,
  }
}

/** Looks at all cells, a strip at a time. */
function storedAs(strips: (() => Float32Array)[], inColours: boolean): Cells {
  let [low, high, isWhole, isFull] = [Infinity, -Infinity, true, true]
  for (const strip of strips) {
    for (const value of strip()) {
      if (value !== value) {
        isFull = false
        continue
      }
      if (value !== Math.round(value)) isWhole = false
      if (value < low) low = value
      if (value > high) high = value
    }
    if (!isWhole) return asFloats
  }
  if (isFull && low >= 0 && high <= 255) return asBytes
  if (inColours && low >= 0 && high < noByte) return asBytesOrNone
  return low > noValue && high <= 32_767 ? asWhole : asFloats
}

/** Whether a file can say the colours of its values. */
const hasColours = ({ palette, bands }: Raster, { bits, format }: Cells): boolean =>
  palette !== undefined && bands === 1 && bits === 8 && format === 1

/** The colours of 256 values (TIFF 6.0, ColorMap): all reds, then all greens, then all blues, of 16 bits. */
const colourMap = (palette: Uint32Array): number[] =>
  [16, 8, 0].flatMap((shift) =>
    Array.from({ length: 256 }, (_, value) => (((palette[value] ?? 0) >> shift) & 255) * 257),
  )

function tagsOf(
  raster: Raster,
  { columns, rows, cells, every }: { columns: number; rows: number; cells: Cells; every: number },
): Tag[] {
  const { bands } = raster
  const [t0, t1, t2, t3, t4, t5] = raster.transform
  const [a, b, d, e] = [t1 / every, t2 / every, t4 / every, t5 / every]
  const isUpright = b === 0 && d === 0 && a > 0 && e < 0
  const each = (value: number): number[] => new Array<number>(bands).fill(value)
  return [
    { id: 256, type: 4, values: [columns] },
    { id: 257, type: 4, values: [rows] },
    { id: 258, type: 3, values: each(cells.bits) },
    { id: 259, type: 3, values: [8] },
    // Three bands of bytes are red, green and blue; one with colours has a palette; anything else is values.
    { id: 262, type: 3, values: [photometricOf(raster, cells)] },
    ...(raster.palette && hasColours(raster, cells)
      ? [{ id: 320, type: 3 as const, values: colourMap(raster.palette) }]
      : []),
    { id: 277, type: 3, values: [bands] },
    { id: 278, type: 4, values: [rowsPerStrip] },
    { id: 284, type: 3, values: [bands > 1 ? 2 : 1] },
    ...(bands > 1 && !(bands === 3 && cells.bits === 8)
      ? [{ id: 338, type: 3 as const, values: new Array<number>(bands - 1).fill(0) }]
      : []),
    { id: 339, type: 3, values: each(cells.format) },
    ...(isUpright
      ? [
          { id: 33550, type: 12 as const, values: [a, -e, 0] },
          { id: 33922, type: 12 as const, values: [0, 0, 0, t0, t3, 0] },
        ]
      : [{ id: 34264, type: 12 as const, values: [a, b, 0, t0, d, e, 0, t3, 0, 0, 0, 0, 0, 0, 0, 1] }]),
    { id: 34735, type: 3, values: keysOf(raster.crs) },
    ...(cells.empty === null ? [] : [{ id: 42113, type: 2 as const, values: `${cells.empty}\0` }]),
  ]
}

function photometricOf(raster: Raster, cells: Cells): number {
  if (hasColours(raster, cells)) return 3
  return raster.bands === 3 && cells.bits === 8 ? 2 : 1
}

/** The keys of a system: whether it is projected, that values belong to areas, and its code. */
function keysOf(crs: string): number[] {
  const code = crs ? referenceSystems().find(({ proj4 }) => proj4 === crs)?.code : 'EPSG:4326'
  if (!code) throw new SaidError('The reference system of this raster has no code that a GeoTIFF could name.')
  const isProjected = crs !== '' && !crs.includes('+proj=longlat')
  return [
    ...[1, 1, 0, 3],
    ...[1024, 0, 1, isProjected ? 1 : 2],
    ...[1025, 0, 1, 1],
    ...[isProjected ? 3072 : 2048, 0, 1, Number(code.slice(5))],
  ]
}
