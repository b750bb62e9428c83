import { deflateSync, inflateSync } from 'fflate'
import { z } from 'zod'
import { issueWords } from '@/core/said/issue-words'
import { valueTypes, type Column } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { heldOnly, sizeAtLevel, withTiles, type Raster } from '@/core/data/raster'
import { rememberingTiles } from '@/core/data/tile-memory'
import { documentOf } from '@/core/folio/document'
import { FolioError } from '@/core/folio/folio-error'
import { readFolio, type Folio } from '@/core/folio/schema'
import { fromBase64, toBase64 } from '../base64'
import { bytesSource } from '../byte-source'
import { flatGeometry, geometryFromFlat } from '../pack/pack'
import { openTiles, tileReader } from '../raster-tiles/read'

/** A long list whose items are looked at where they are: a schema for each would copy them one by one. */
const listOf = <T>(isItem: (value: unknown) => boolean, words: string): z.ZodType<T[]> =>
  z.custom<T[]>(
    (value) => Array.isArray(value) && value.every(isItem),
    `the value should be a list of ${words}`,
  )

const isNumber = (value: unknown): boolean => typeof value === 'number'
/** Numbers as plain lists; missing ones are null. */
const Numbers = listOf<number | null>((v) => v === null || isNumber(v), 'numbers, null where one is missing')
const Places = listOf<number>(isNumber, 'numbers')
const Whole = listOf<number>(Number.isSafeInteger, 'whole numbers')
const Words = listOf<string | null>(
  (v) => v === null || typeof v === 'string',
  'texts, null where one is missing',
)
const Type = z.enum(valueTypes).optional()

const StoredDataset = z.object({
  rowCount: z.number().int().nonnegative(),
  fields: z.array(
    z.discriminatedUnion('kind', [
      z.object({ key: z.string(), type: Type, kind: z.literal('number'), values: Numbers }),
      z.object({ key: z.string(), type: Type, kind: z.literal('text'), values: Words }),
    ]),
  ),
  geometry: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('none') }),
    z.object({ kind: z.literal('points'), coords: Places, featureStarts: Whole }),
    z.object({
      kind: z.literal('lines'),
      arcCoords: Places,
      arcStarts: Whole,
      refs: Whole,
      ringStarts: Whole,
      featureStarts: Whole,
    }),
    z.object({
      kind: z.literal('areas'),
      arcCoords: Places,
      arcStarts: Whole,
      refs: Whole,
      ringStarts: Whole,
      polygonStarts: Whole,
      featureStarts: Whole,
    }),
  ]),
  raster: z.lazy(() => StoredRaster).optional(),
})

/** The values of a raster as packed text: 32-bit floats, little-endian, deflated (RFC 1951), in Base64. */
const StoredRaster = z.object({
  crs: z.string(),
  columns: z.number().int().positive(),
  rows: z.number().int().positive(),
  bands: z.number().int().positive(),
  transform: z.array(z.number()).length(6),
  edge: z.array(z.number()),
  fileSize: Whole,
  values: z.string(),
  ofKinds: z.boolean().optional(),
  palette: Whole.optional(),
  /** What there is of cells that are finer than those held; they themselves lie in `tiles`, or beside the file. */
  fine: z
    .object({
      side: z.number().int().min(1).max(4096),
      levels: z.number().int().min(1).max(32),
      digest: z.string().regex(/^[0-9a-f]{32}$/),
      bytes: z.number().int().positive(),
    })
    .optional(),
})

const FolioFile = z.object({
  format: z.literal('keen-folio-file'),
  version: z.literal(1),
  folio: z.unknown(),
  contents: z.record(z.string(), StoredDataset),
  /** The bytes of pictures in Base64, by id. */
  pictures: z.record(z.string(), z.string()).default({}),
  /** The fine cells of rasters, a file of tiles each in Base64, by the id of their rows. */
  tiles: z.record(z.string(), z.string()).default({}),
})

export type FolioWithData = {
  folio: Folio
  contents: Map<string, Dataset>
  /** The bytes of its pictures by id; those that are missing are shown as missing. */
  pictures?: Map<string, Uint8Array>
  /** The fine cells of rasters by the id of their rows, as files of tiles; those that are not there lie elsewhere. */
  tiles?: Map<string, Uint8Array>
}

/** A folio with the rows and shapes of its datasets and its pictures, as one JSON text. */
export function writeFolioFile({
  folio,
  contents,
  pictures = new Map(),
  tiles = new Map(),
}: FolioWithData): string {
  const stored = Object.fromEntries([...contents].map(([id, dataset]) => [id, storedDataset(dataset)]))
  const inText = (files: Map<string, Uint8Array>) =>
    Object.fromEntries([...files].map(([id, bytes]) => [id, toBase64(bytes)]))
  return (
    JSON.stringify({
      format: 'keen-folio-file',
      version: 1,
      folio,
      contents: stored,
      ...(pictures.size > 0 && { pictures: inText(pictures) }),
      ...(tiles.size > 0 && { tiles: inText(tiles) }),
    }) + '\n'
  )
}

/**
 * Reads a folio file.
 * @throws FolioError saying what is wrong with it.
 */
export function readFolioFile(text: string): FolioWithData {
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch {
    throw new FolioError('This is not a folio file: it is not complete JSON.')
  }
  const parsed = FolioFile.safeParse(json)
  if (!parsed.success) throw new FolioError(`This is not a folio file: ${issueWords(parsed.error)}.`)
  const folio = readFolio(parsed.data.folio)
  // What is too large to be stored is not opened either.
  documentOf(folio)
  const tiles = bytesOf(parsed.data.tiles, 'the cells of a raster')
  const contents = new Map(
    Object.entries(parsed.data.contents).map(([id, stored]) => [
      id,
      withOwnTiles(datasetFromStored(stored), id, tiles.get(id)),
    ]),
  )
  const lost = folio.datasets.find((entry) => !contents.has(entry.source.contentId))
  if (lost) throw new FolioError(`The folio file does not hold the rows of “${lost.name}”.`)
  return { folio, contents, pictures: bytesOf(parsed.data.pictures, 'a picture in it'), tiles }
}

function bytesOf(stored: Record<string, string>, what: string): Map<string, Uint8Array> {
  try {
    return new Map(Object.entries(stored).map(([id, text]) => [id, fromBase64(text)]))
  } catch {
    throw new FolioError(`The folio file is damaged: ${what} cannot be read.`)
  }
}

/** A dataset whose fine cells are read from the file of tiles that came with it. */
function withOwnTiles(dataset: Dataset, id: string, tiles: Uint8Array | undefined): Dataset {
  if (!tiles || !dataset.raster) return dataset
  try {
    const file = openTiles(bytesSource(tiles))
    const { fine, fileSize, bands } = dataset.raster
    const said = [fine?.side, fine?.levels, fileSize[0], fileSize[1], bands]
    const { side, levels, columns, rows, bands: inFile } = file.head
    if (said.join() !== [side, levels, columns, rows, inFile].join()) throw new Error('Another raster.')
    return withTiles(dataset, id, rememberingTiles(tileReader(file)))
  } catch {
    throw new FolioError('The folio file is damaged: the fine cells of a raster do not fit it.')
  }
}

function storedDataset({ rowCount, fields, geometry, raster }: Dataset): z.infer<typeof StoredDataset> {
  const lists = Object.fromEntries(
    Object.entries(flatGeometry(geometry)).map(([key, value]) => [
      key,
      typeof value === 'string' ? value : Array.from(value),
    ]),
  )
  return {
    rowCount,
    fields: fields.map(({ key, column }) =>
      column.kind === 'number'
        ? {
            ...named(key, column),
            kind: 'number',
            values: Array.from(column.values, (v) => (Number.isNaN(v) ? null : v)),
          }
        : {
            ...named(key, column),
            kind: 'text',
            values: Array.from(column.codes, (code) => (code ? column.dictionary[code - 1] : null)),
          },
    ),
    geometry: lists as z.infer<typeof StoredDataset>['geometry'],
    ...(raster && { raster: storedRaster(raster) }),
  }
}

function datasetFromStored({ rowCount, fields, geometry, raster }: z.infer<typeof StoredDataset>): Dataset {
  const arrays = Object.entries(geometry).map(([key, value]) => {
    if (typeof value === 'string') return [key, value]
    if (/coords/i.test(key)) return [key, Float64Array.from(value)]
    return [key, key === 'refs' ? Int32Array.from(value) : Uint32Array.from(value)]
  })
  const dataset: Dataset = {
    rowCount,
    fields: fields.map((field) => ({ key: field.key, column: columnFromStored(field) })),
    geometry: geometryFromFlat(Object.fromEntries(arrays)),
    ...(raster && { raster: rasterFromStored(raster) }),
  }
  checkIndices(dataset)
  return dataset
}

function storedRaster(raster: Raster): z.infer<typeof StoredRaster> {
  const { values, transform, edge, fileSize, palette, ...rest } = heldOnly(raster)
  const { fine } = raster
  return {
    ...rest,
    ...(fine && {
      fine: { side: fine.side, levels: fine.levels, digest: fine.digest, bytes: fine.bytes },
    }),
    transform: Array.from(transform),
    edge: Array.from(edge),
    fileSize: Array.from(fileSize),
    ...(palette && { palette: Array.from(palette) }),
    values: toBase64(
      deflateSync(new Uint8Array(values.buffer, values.byteOffset, values.byteLength), { level: 9 }),
    ),
  }
}

function rasterFromStored({
  values,
  transform,
  edge,
  fileSize,
  fine,
  palette,
  ...rest
}: z.infer<typeof StoredRaster>): Raster {
  const cells = rest.columns * rest.rows * rest.bands
  if (cells > 64_000_000) throw new FolioError('The folio file is damaged: a raster is too large.')
  const level = fine && sizeAtLevel(fileSize[0], fileSize[1], fine.levels)
  if (level && (level.columns !== rest.columns || level.rows !== rest.rows))
    throw new FolioError('The folio file is damaged: the levels of a raster do not fit together.')
  try {
    // No more is unpacked than there can be.
    const bytes = inflateSync(fromBase64(values), { out: new Uint8Array(4 * cells) })
    if (bytes.length !== 4 * cells) throw new Error('Cells are missing.')
    return {
      ...rest,
      values: new Float32Array(bytes.buffer, bytes.byteOffset, cells),
      transform: Float64Array.from(transform),
      edge: Float64Array.from(edge),
      fileSize: Uint32Array.from(fileSize),
      ...(palette && { palette: Uint32Array.from(palette) }),
      ...(fine && { fine: { ...fine, id: '' } }),
    }
  } catch {
    throw new FolioError('The folio file is damaged: the cells of a raster cannot be read.')
  }
}

const named = (key: string, { type }: Column) => ({ key, ...(type && { type }) })

function columnFromStored(field: z.infer<typeof StoredDataset>['fields'][number]): Column {
  const type = field.type && { type: field.type }
  if (field.kind === 'number')
    return { ...type, kind: 'number', values: Float64Array.from(field.values, (v) => v ?? NaN) }
  const dictionary = [...new Set(field.values.filter((v) => v !== null))]
  const codes = new Map(dictionary.map((word, i) => [word, i + 1]))
  return {
    ...type,
    kind: 'text',
    dictionary,
    codes: Uint32Array.from(field.values, (v) => (v === null ? 0 : (codes.get(v) ?? 0))),
  }
}

/** A file from elsewhere may point outside its own lists; drawing relies on it not doing so. */
function checkIndices({ rowCount, fields, geometry }: Dataset): void {
  const fail = (what: string): never => {
    throw new FolioError(`The folio file is damaged: ${what}.`)
  }
  for (const { key, column } of fields)
    if ((column.kind === 'number' ? column.values : column.codes).length !== rowCount)
      fail(`the field “${key}” has not one value for each row`)
  if (geometry.kind === 'none') return
  const ascending = (starts: Uint32Array, end: number) =>
    starts.length > 0 &&
    starts.every((v, i) => (i === 0 ? v === 0 : v >= starts[i - 1])) &&
    starts[starts.length - 1] === end
  checkPlaces(geometry.kind === 'points' ? geometry.coords : geometry.arcs.coords, fail)
  if (geometry.featureStarts.length !== rowCount + 1) fail('shapes and rows do not agree')
  if (geometry.kind === 'points') {
    if (!ascending(geometry.featureStarts, geometry.coords.length / 2)) fail('its points are out of order')
    return
  }
  const { arcs, refs, ringStarts, featureStarts } = geometry
  const arcCount = arcs.starts.length - 1
  const rings = ringStarts.length - 1
  const upper = geometry.kind === 'areas' ? geometry.polygonStarts : featureStarts
  if (
    !ascending(arcs.starts, arcs.coords.length / 2) ||
    !ascending(ringStarts, refs.length) ||
    !ascending(upper, rings)
  )
    fail('its shapes are out of order')
  if (geometry.kind === 'areas' && !ascending(featureStarts, geometry.polygonStarts.length - 1))
    fail('its shapes are out of order')
  if (refs.some((ref) => (ref < 0 ? ~ref : ref) >= arcCount))
    fail('a shape refers to a line that is not there')
}

/** Stored coordinates are degrees; drawing relies on that. */
function checkPlaces(coords: Float64Array, fail: (what: string) => never): void {
  for (let i = 0; i + 1 < coords.length; i += 2)
    if (!(Math.abs(coords[i]) <= 540.000001 && Math.abs(coords[i + 1]) <= 90.000001))
      fail(`it holds the coordinates ${coords[i]}, ${coords[i + 1]}, which are not degrees`)
}
