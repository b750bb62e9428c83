import type { Geometry, GeometryCollection } from 'geojson'
import type { Dataset, Field } from '@/core/data/dataset'
import type { Points } from '@/core/geo/geometry'
import { borderFaults } from '@/core/geo/gaps'
import { geometryFromShapes } from '@/core/geo/shapes'
import { definitionOf, mapPositions, type Definition } from './crs/reproject'
import { ImportError, UnknownSystemError, type Guessed, type Imported, type ShapeNote } from './import-error'
import { fieldsFromProperties } from './properties'
import { repairShape } from './repair'

export type Row = { shape: Geometry | null; properties: Record<string, unknown> }

const kinds = { areas: /Polygon$/, lines: /LineString$/, points: /Point$/ } as const
const kindOf = (shape: Geometry): keyof typeof kinds | null =>
  (Object.keys(kinds) as (keyof typeof kinds)[]).find((kind) => kinds[kind].test(shape.type)) ?? null

/**
 * Rows with shapes as datasets in degrees of WGS 84, shapes mended where that is safe. A file that mixes
 * areas, lines and points gives a dataset for each.
 * @param crs EPSG code, well-known text or proj4 definition of the coordinates; null takes them for degrees
 * @throws ImportError
 */
export function vectorDatasets(
  rows: Row[],
  name: string,
  fileName: string,
  { crs, guessed = {} }: { crs: string | null; guessed?: Guessed },
): Imported[] {
  const definition = crs === null ? null : definitionOf(crs)
  const inDegrees = rows.map(({ shape, properties }, row): Row => {
    if (!shape) return { shape, properties }
    if (shape.type === 'GeometryCollection')
      throw new ImportError(
        `${fileName}: feature ${row + 1} is a collection of shapes; split it into its parts first.`,
      )
    if (definition?.toDegrees)
      return {
        shape: mapPositions(shape, (x, y) => placeOf(x, y, { definition, fileName, row })),
        properties,
      }
    // Degrees stay as they are; a large file is not copied.
    eachPosition(shape.coordinates, (x, y) => placeOf(x, y, { definition: null, fileName, row }))
    return { shape, properties }
  })
  const present = new Set(inDegrees.flatMap(({ shape }) => (shape ? [kindOf(shape)] : [])))
  const kinds = [...present].filter((kind) => kind !== null)
  if (kinds.length <= 1) return [oneKind(inDegrees, name, guessed)]
  return kinds.map((kind) =>
    oneKind(
      inDegrees.filter(({ shape }) => shape && kindOf(shape) === kind),
      `${name}, ${kind}`,
      guessed,
    ),
  )
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
): { geometry: Points; notes: ShapeNote[] } {
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
  return { geometry: { kind: 'points', coords: coords.slice(0, 2 * count), featureStarts }, notes }
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

function eachPosition(coordinates: unknown, visit: (x: number, y: number) => void): void {
  const list = coordinates as unknown[]
  if (typeof list[0] === 'number') visit(list[0], list[1] as number)
  else for (const part of list) eachPosition(part, visit)
}

/**
 * The same for shapes that are equal, and hardly ever for others: their number of places, where they begin,
 * and two sums.
 */
function markOf(shape: Exclude<Geometry, GeometryCollection>): string {
  let [count, sum, turned, first] = [0, 0, 0, '']
  eachPosition(shape.coordinates, (x, y) => {
    if (!count++) first = `${x} ${y}`
    sum += x + 3 * y
    turned += ((x * y) % 1) + count * (x - y)
  })
  return `${shape.type} ${count} ${first} ${sum} ${turned}`
}

/** Gaps and overlaps between neighbours, which only the person can judge. */
export const borderNotes = (geometry: Dataset['geometry']): ShapeNote[] =>
  geometry.kind === 'areas'
    ? borderFaults(geometry).map(({ row, what, at }): ShapeNote => ({
        row,
        what: what === 'gap' ? 'leaves a gap to its neighbour' : 'overlaps its neighbour',
        at,
      }))
    : []

function oneKind(rows: Row[], name: string, guessed: Guessed): Imported {
  const notes: ShapeNote[] = []
  const anyShape = rows.some(({ shape }) => shape !== null)
  const effort = { crossings: 0 }
  const shapes = anyShape ? rows.map(({ shape }, row) => repairShape(shape, row, notes, effort)) : []
  const seen = new Map<string, number>()
  shapes.forEach((shape, row) => {
    if (!shape || shape.type === 'GeometryCollection' || shape.type.endsWith('Point')) return
    const key = markOf(shape)
    if (seen.has(key)) notes.push({ row, what: 'is a copy of another row', at: null })
    else seen.set(key, row)
  })
  const fields: Field[] = fieldsFromProperties(rows.map(({ properties }) => properties))
  const dataset: Dataset = {
    rowCount: rows.length,
    fields,
    geometry: anyShape ? geometryFromShapes(shapes) : { kind: 'none' },
  }
  return { name, dataset, guessed, notes: [...notes, ...borderNotes(dataset.geometry)] }
}
