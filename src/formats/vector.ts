import type { Geometry } from 'geojson'
import type { Dataset, Field } from '@/core/data/dataset'
import { borderFaults } from '@/core/geo/gaps'
import { geometryFromShapes } from '@/core/geo/shapes'
import { definitionOf, mapPositions } from './crs/reproject'
import { ImportError, UnknownSystemError, type Guessed, type Imported, type ShapeNote } from './import-error'
import { fieldsFromProperties } from './properties'
import { repairShape } from './repair'

export type Row = { shape: Geometry | null; properties: Record<string, unknown> }

const kinds = { areas: /Polygon$/, lines: /LineString$/, points: /Point$/ } as const
const kindOf = (shape: Geometry): keyof typeof kinds | null => (Object.keys(kinds) as (keyof typeof kinds)[]).find((kind) => kinds[kind].test(shape.type)) ?? null

/**
 * Rows with shapes as datasets in degrees of WGS 84, shapes mended where that is safe. A file that mixes areas, lines
 * and points gives a dataset for each.
 * @param crs EPSG code, well-known text or proj4 definition of the coordinates; null takes them for degrees
 * @throws ImportError
 */
export function vectorDatasets(rows: Row[], name: string, fileName: string, crs: string | null, guessed: Guessed = {}): Imported[] {
  const definition = crs === null ? null : definitionOf(crs)
  const inDegrees = rows.map(({ shape, properties }, row): Row => {
    if (!shape) return { shape, properties }
    if (shape.type === 'GeometryCollection') throw new ImportError(`${fileName}: feature ${row + 1} is a collection of shapes; split it into its parts first.`)
    const toDegrees = definition?.toDegrees
    const placed = mapPositions(shape, (x, y) => {
      const place: [number, number] = toDegrees ? toDegrees(x, y) : [x, y]
      if (!Number.isFinite(place[0]) || !Number.isFinite(place[1])) throw new ImportError(`${fileName}: feature ${row + 1} has the coordinates ${x}, ${y}, which ${toDegrees ? `lie outside ${definition?.name}` : 'are not numbers'}.`)
      if (Math.abs(place[0]) > 540 || Math.abs(place[1]) > 90.000001) throw new UnknownSystemError(`${fileName} holds the coordinates ${x}, ${y}, which are not degrees of longitude and latitude. Choose the reference system that they are in.`)
      return place
    })
    return { shape: placed, properties }
  })
  const present = new Set(inDegrees.flatMap(({ shape }) => (shape ? [kindOf(shape)] : [])))
  const found = [...present].filter((kind) => kind !== null)
  if (found.length <= 1) return [oneKind(inDegrees, name, guessed)]
  return found.map((kind) => oneKind(inDegrees.filter(({ shape }) => shape && kindOf(shape) === kind), `${name}, ${kind}`, guessed))
}

/** Gaps and overlaps between neighbours, which only the person can judge. */
export const borderNotes = (geometry: Dataset['geometry']): ShapeNote[] => (geometry.kind === 'areas' ? borderFaults(geometry).map(({ row, what, at }): ShapeNote => ({ row, what: what === 'gap' ? 'leaves a gap to its neighbour' : 'overlaps its neighbour', at })) : [])

function oneKind(rows: Row[], name: string, guessed: Guessed): Imported {
  const notes: ShapeNote[] = []
  const anyShape = rows.some(({ shape }) => shape !== null)
  const shapes = anyShape ? rows.map(({ shape }, row) => repairShape(shape, row, notes)) : []
  const seen = new Map<string, number>()
  shapes.forEach((shape, row) => {
    if (!shape || shape.type.endsWith('Point')) return
    const key = JSON.stringify(shape)
    if (seen.has(key)) notes.push({ row, what: 'is a copy of another row', at: null })
    else seen.set(key, row)
  })
  const fields: Field[] = fieldsFromProperties(rows.map(({ properties }) => properties))
  const dataset: Dataset = { rowCount: rows.length, fields, geometry: anyShape ? geometryFromShapes(shapes) : { kind: 'none' } }
  return { name, dataset, guessed, notes: [...notes, ...borderNotes(dataset.geometry)] }
}
