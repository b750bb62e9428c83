import type { Geometry, GeometryCollection } from 'geojson'
import type { ValueType } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import type { Points } from '@/core/geo/geometry'
import type { Tell } from '@/core/geo/buffer'
import { borderFaults } from '@/core/geo/gaps'
import { geometryFromShapes } from '@/core/geo/shapes'
import { accuracyWords, definitionOf, mapPositions, type Definition } from './crs/reproject'
import { ImportError, UnknownSystemError, type Guessed, type Imported, type ShapeNote } from './import-error'
import { fieldsFromProperties } from './properties'
import { repairShape } from './repair'

export type Row = { shape: Geometry | null; properties: Record<string, unknown> }

const kinds = { areas: /Polygon$/, lines: /LineString$/, points: /Point$/ } as const
const kindOf = (shape: Geometry): keyof typeof kinds | null =>
  (Object.keys(kinds) as (keyof typeof kinds)[]).find((kind) => kinds[kind].test(shape.type)) ?? null

/** What is known of the rows of a file: their system, what was guessed, the types of fields, what is to be said. */
export type FileSays = {
  crs: string | null
  guessed?: Guessed
  types?: Record<string, ValueType | 'real' | 'text'>
  /** The file knows text only; numbers are recognised. */
  loose?: boolean
  remarks?: string[]
}

/**
 * Rows with shapes as datasets in degrees of WGS 84, shapes mended where that is safe. A file that mixes
 * areas, lines and points gives a dataset for each, and so does a feature that is a collection of them; rows
 * without a shape go with the first.
 * @param says EPSG code, well-known text or proj4 definition of the coordinates (null takes them for degrees), and
 * what else the file says
 * @throws ImportError
 */
export function vectorDatasets(rows: Row[], name: string, fileName: string, says: FileSays): Imported[] {
  const definition = says.crs === null ? null : definitionOf(says.crs)
  const remarks = [...(says.remarks ?? [])]
  const turned = definition && accuracyWords(definition)
  if (turned) remarks.push(turned)
  const { whole, collections } = apart(rows)
  const heights = { rows: 0 }
  const inDegrees = whole.map(({ shape, properties }, row): Row => {
    if (!shape || shape.type === 'GeometryCollection') return { shape: null, properties }
    if (definition?.toDegrees) {
      if (hasHeights(shape.coordinates)) heights.rows++
      return {
        shape: mapPositions(shape, (x, y) => placeOf(x, y, { definition, fileName, row })),
        properties,
      }
    }
    // Degrees stay as they are; a large file is not copied.
    const flat = flatDegrees(
      shape.coordinates,
      (lon, lat) => void placeOf(lon, lat, { definition: null, fileName, row }),
    )
    if (!flat) heights.rows++
    return { shape, properties }
  })
  if (heights.rows) remarks.push(`Heights or measures of ${counted(heights.rows, 'shape')} were left out.`)
  const present = new Set(inDegrees.flatMap(({ shape }) => (shape ? [kindOf(shape)] : [])))
  const kinds = (['areas', 'lines', 'points'] as const).filter((kind) => present.has(kind))
  if (collections)
    remarks.push(
      `${counted(collections, 'feature')} ${collections === 1 ? 'is a collection' : 'are collections'} of shapes, taken apart by their sort.`,
    )
  if (kinds.length <= 1) return [oneKind(inDegrees, name, { ...says, remarks })]
  remarks.push(`The file mixes ${kinds.join(' and ')}; each became a dataset of its own.`)
  return kinds.map((kind, k) =>
    oneKind(
      inDegrees.filter(({ shape }) => (shape ? kindOf(shape) === kind : k === 0)),
      `${name}, ${kind}`,
      { ...says, remarks },
    ),
  )
}

const counted = (count: number, thing: string): string =>
  `${count.toLocaleString('en-GB')} ${thing}${count === 1 ? '' : 's'}`

/** Rows whose shape is a collection as one row for each sort of shape in it. */
function apart(rows: Row[]): { whole: Row[]; collections: number } {
  const collections = rows.filter(({ shape }) => shape?.type === 'GeometryCollection').length
  if (!collections) return { whole: rows, collections }
  return {
    collections,
    whole: rows.flatMap(({ shape, properties }): Row[] => {
      if (shape?.type !== 'GeometryCollection') return [{ shape, properties }]
      const parts = bySort(shape)
      return parts.length ? parts.map((part) => ({ shape: part, properties })) : [{ shape: null, properties }]
    }),
  }
}

/** Shapes of one sort in a collection as one shape of several parts. */
export function bySort(collection: GeometryCollection): Geometry[] {
  const flat = (shape: Geometry): Exclude<Geometry, GeometryCollection>[] =>
    shape.type === 'GeometryCollection' ? shape.geometries.flatMap(flat) : [shape]
  const shapes = collection.geometries.flatMap(flat)
  return (['Polygon', 'LineString', 'Point'] as const).flatMap((type): Geometry[] => {
    const parts = shapes.flatMap((shape): unknown[] => {
      if (shape.type === type) return [shape.coordinates]
      return shape.type === `Multi${type}` ? shape.coordinates : []
    })
    if (parts.length > 1) return [{ type: `Multi${type}`, coordinates: parts } as Geometry]
    return parts.length ? [{ type, coordinates: parts[0] } as Geometry] : []
  })
}

/**
 * Points of one place each from their coordinates, NaN where there is none, without a detour by single
 * shapes.
 * @throws ImportError; UnknownSystemError where they are not degrees and no system was said
 */
export function pointsDataset(
  xs: Float64Array,
  ys: Float64Array,
  fileName: string,
  crs: string | null,
): { geometry: Points; notes: ShapeNote[]; remarks: string[] } {
  const definition = crs === null ? null : definitionOf(crs)
  const coords = new Float64Array(2 * xs.length)
  const featureStarts = new Uint32Array(xs.length + 1)
  const notes: ShapeNote[] = []
  let count = 0
  for (let row = 0; row < xs.length; row++) {
    if (Number.isNaN(xs[row]) || Number.isNaN(ys[row])) {
      if (notes.length < mostNotes) notes.push({ row, what: 'has no shape', at: null })
    } else {
      const [lon, lat] = placeOf(xs[row], ys[row], { definition, fileName, row })
      coords[2 * count] = lon
      coords[2 * count + 1] = lat
      count++
    }
    featureStarts[row + 1] = count
  }
  const turned = definition && accuracyWords(definition)
  return {
    geometry: { kind: 'points', coords: coords.slice(0, 2 * count), featureStarts },
    notes,
    remarks: turned ? [turned] : [],
  }
}

const mostNotes = 1000

/** A place in degrees. */
function placeOf(
  x: number,
  y: number,
  { definition, fileName, row }: { definition: Definition | null; fileName: string; row: number },
): [number, number] {
  const place: [number, number] = definition?.toDegrees ? definition.toDegrees(x, y) : [x, y]
  if (!Number.isFinite(place[0]) || !Number.isFinite(place[1]))
    throw new ImportError(
      `${fileName}: feature ${row + 1} has the coordinates ${x}, ${y}, which ${definition?.toDegrees ? `lie outside ${definition.name}` : 'are not numbers'}.`,
    )
  if (Math.abs(place[0]) > 540 || Math.abs(place[1]) > 90.000001)
    throw new UnknownSystemError(
      `${fileName} holds the coordinates ${x}, ${y}, which are not degrees of longitude and latitude. Choose the reference system that they are in.`,
    )
  return place
}

/**
 * Whether all places are degrees and have no third number; those that have one lose it.
 * @throws UnknownSystemError by `refuse`
 */
function flatDegrees(coordinates: unknown, refuse: (x: number, y: number) => void): boolean {
  const list = coordinates as unknown[]
  if (typeof list[0] === 'number') return flatPlace(list as number[], refuse)
  let flat = true
  if (Array.isArray(list[0]) && typeof list[0][0] === 'number') {
    const places = list as number[][]
    for (let i = 0; i < places.length; i++) if (!flatPlace(places[i], refuse)) flat = false
  } else for (const part of list) if (!flatDegrees(part, refuse)) flat = false
  return flat
}

function flatPlace(place: number[], refuse: (x: number, y: number) => void): boolean {
  const lon = place[0]
  const lat = place[1]
  if (!(lon <= 540 && lon >= -540 && lat <= 90 && lat >= -90)) refuse(lon, lat)
  if (place.length < 3) return true
  place.length = 2
  return false
}

function hasHeights(coordinates: unknown): boolean {
  const list = coordinates as unknown[]
  return typeof list[0] === 'number' ? list.length > 2 : list.some(hasHeights)
}

/** Where a shape begins, and how many places it has: the same for shapes that are equal. */
function startOf({ type, coordinates }: Exclude<Geometry, GeometryCollection>): string {
  let count = 0
  const look = (part: unknown): void => {
    const list = part as unknown[]
    if (Array.isArray(list[0]) && Array.isArray(list[0][0])) for (const inner of list) look(inner)
    else count += list.length
  }
  look(coordinates)
  let first: unknown = coordinates
  while (Array.isArray(first) && Array.isArray(first[0])) first = first[0]
  return `${type} ${count} ${String(first)}`
}

/** Two sums over the places of a shape, which hardly ever are the same for shapes that begin alike and are not. */
function sumsOf(coordinates: unknown): string {
  let [count, sum, turned] = [0, 0, 0]
  const look = (part: unknown): void => {
    const list = part as unknown[]
    if (typeof list[0] !== 'number') {
      for (const inner of list) look(inner)
      return
    }
    const [x, y] = [list[0], list[1] as number]
    count++
    sum += x + 3 * y
    turned += (count % 1021) * (x - y)
  }
  look(coordinates)
  return `${sum} ${turned}`
}

/** The rows of shapes that are the same as one before. Few begin alike, so that few are looked at whole. */
function copiesIn(shapes: (Geometry | null)[]): number[] {
  const seen = new Map<string, { first: unknown; sums: Set<string> | null }>()
  return shapes.flatMap((shape, row) => {
    if (!shape || shape.type === 'GeometryCollection' || shape.type.endsWith('Point')) return []
    const key = startOf(shape)
    const alike = seen.get(key)
    if (!alike) {
      seen.set(key, { first: shape.coordinates, sums: null })
      return []
    }
    alike.sums ??= new Set([sumsOf(alike.first)])
    const own = sumsOf(shape.coordinates)
    if (alike.sums.has(own)) return [row]
    alike.sums.add(own)
    return []
  })
}

/**
 * Gaps and overlaps between neighbours, which only the person can judge. Looking for them takes longer than reading
 * and is no part of it.
 */
export const borderNotes = (geometry: Dataset['geometry'], tell?: Tell): ShapeNote[] =>
  geometry.kind === 'areas'
    ? borderFaults(geometry, tell).map(({ row, what, at }): ShapeNote => ({
        row,
        what: what === 'gap' ? 'leaves a gap to its neighbour' : 'overlaps its neighbour',
        at,
      }))
    : []

function oneKind(
  rows: Row[],
  name: string,
  { guessed = {}, types, loose, remarks = [] }: FileSays,
): Imported {
  const notes: ShapeNote[] = []
  const anyShape = rows.some(({ shape }) => shape !== null)
  const effort = { crossings: 0 }
  const shapes = anyShape ? rows.map(({ shape }, row) => repairShape(shape, row, notes, effort)) : []
  for (const row of copiesIn(shapes)) notes.push({ row, what: 'is a copy of another row', at: null })
  const { fields, remarks: ofFields } = fieldsFromProperties(
    rows.map(({ properties }) => properties),
    { types, loose },
  )
  const dataset: Dataset = {
    rowCount: rows.length,
    fields,
    geometry: anyShape ? geometryFromShapes(shapes) : { kind: 'none' },
  }
  return { name, dataset, guessed, notes, remarks: [...remarks, ...ofFields] }
}
