import type { Geometry, GeometryCollection } from 'geojson'
import type { ValueType } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import type { Points } from '@/core/geo/geometry'
import type { Tell } from '@/core/geo/buffer'
import { borderFaults } from '@/core/geo/gaps'
import { accuracyWords, definitionOf, mapPositions, type Definition } from './crs/reproject'
import type { FeatureId } from './feature-ids'
import { GatheredRows, type Plain, type Properties } from './gathered-rows'
import { ImportError, UnknownSystemError, type Guessed, type Imported, type ShapeNote } from './import-error'
import { fieldsFromProperties } from './properties'

/** A feature of a file, with the identifier that the file gives it beside its properties. */
export type Row = { shape: Geometry | null; properties: Properties; id?: FeatureId }

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
 * without a shape go with the first. Rows are gone through once, and none is needed after the next was asked for.
 * @param says EPSG code, well-known text or proj4 definition of the coordinates (null takes them for degrees), and
 * what else the file says
 * @throws ImportError
 */
export function vectorDatasets(
  rows: Iterable<Row>,
  name: string,
  fileName: string,
  says: FileSays,
): Imported[] {
  const definition = says.crs === null ? null : definitionOf(says.crs)
  const gathered = new GatheredRows()
  let [collections, heights] = [0, 0]
  for (const { shape, properties, id } of rows) {
    if (shape?.type !== 'GeometryCollection') {
      const placed = shape && inDegrees(shape, { definition, fileName, row: gathered.count })
      if (placed?.heights) heights++
      gathered.add(placed?.shape ?? null, properties, id)
      continue
    }
    collections++
    const parts = bySort(shape)
    if (!parts.length) gathered.add(null, properties, id)
    for (const part of parts) {
      const placed = inDegrees(part, { definition, fileName, row: gathered.count })
      if (placed.heights) heights++
      gathered.add(placed.shape, properties, id)
    }
  }
  const remarks = [...(says.remarks ?? [])]
  const turned = definition && accuracyWords(definition)
  if (turned) remarks.push(turned)
  if (heights) remarks.push(`Heights or measures of ${counted(heights, 'shape')} were left out.`)
  if (collections)
    remarks.push(
      `${counted(collections, 'feature')} ${collections === 1 ? 'is a collection' : 'are collections'} of shapes, taken apart by their sort.`,
    )
  const parts = gathered.bySort()
  const mixed = parts.length > 1
  if (mixed)
    remarks.push(
      `The file mixes ${parts.map(({ sort }) => sort).join(' and ')}; each became a dataset of its own.`,
    )
  return parts.map(({ sort, properties, geometry, notes }): Imported => {
    const { fields, remarks: ofFields } = fieldsFromProperties(properties, says)
    return {
      name: mixed ? `${name}, ${sort}` : name,
      dataset: { rowCount: properties.length, fields, geometry },
      guessed: says.guessed ?? {},
      notes,
      remarks: [...remarks, ...ofFields],
    }
  })
}

/** A shape of a file in degrees, and whether it lost a third number. */
function inDegrees(shape: Plain, whose: Whose): { shape: Plain; heights: boolean } {
  if (whose.definition?.toDegrees)
    return {
      heights: hasHeights(shape.coordinates),
      shape: mapPositions(shape, (x, y) => placeOf(x, y, whose)) as Plain,
    }
  // Degrees stay as they are; a large file is not copied.
  return { heights: !flatDegrees(shape.coordinates, whose), shape }
}

const counted = (count: number, thing: string): string =>
  `${count.toLocaleString('en-GB')} ${thing}${count === 1 ? '' : 's'}`

/** Shapes of one sort in a collection as one shape of several parts. */
export function bySort(collection: GeometryCollection): Plain[] {
  const flat = (shape: Geometry): Plain[] =>
    shape.type === 'GeometryCollection' ? shape.geometries.flatMap(flat) : [shape]
  const shapes = collection.geometries.flatMap(flat)
  return (['Polygon', 'LineString', 'Point'] as const).flatMap((type): Plain[] => {
    const parts = shapes.flatMap((shape): unknown[] => {
      if (shape.type === type) return [shape.coordinates]
      return shape.type === `Multi${type}` ? shape.coordinates : []
    })
    if (parts.length > 1) return [{ type: `Multi${type}`, coordinates: parts } as Plain]
    return parts.length ? [{ type, coordinates: parts[0] } as Plain] : []
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

/** No more than this is said of single rows of a table of points. */
const mostNotes = 1000

/** The file and the feature that a place is of, and its system; null for degrees. */
type Whose = { definition: Definition | null; fileName: string; row: number }

/** A place in degrees. */
function placeOf(x: number, y: number, { definition, fileName, row }: Whose): [number, number] {
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
 * @throws as placeOf
 */
function flatDegrees(coordinates: unknown, whose: Whose): boolean {
  const list = coordinates as unknown[]
  if (typeof list[0] === 'number') return flatPlaces([list as number[]], whose)
  if (Array.isArray(list[0]) && typeof list[0][0] === 'number') return flatPlaces(list as number[][], whose)
  let flat = true
  for (const part of list) if (!flatDegrees(part, whose)) flat = false
  return flat
}

function flatPlaces(places: number[][], whose: Whose): boolean {
  let flat = true
  for (let i = 0; i < places.length; i++) {
    const place = places[i]
    const lon = place[0]
    const lat = place[1]
    if (!(lon <= 540 && lon >= -540 && lat <= 90 && lat >= -90)) placeOf(lon, lat, whose)
    if (place.length < 3) continue
    place.length = 2
    flat = false
  }
  return flat
}

function hasHeights(coordinates: unknown): boolean {
  const list = coordinates as unknown[]
  return typeof list[0] === 'number' ? list.length > 2 : list.some(hasHeights)
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
