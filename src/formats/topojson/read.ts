import type { Feature, Geometry } from 'geojson'
import { feature } from 'topojson-client'
import type { GeometryCollection, GeometryObject, Topology } from 'topojson-specification'
import { z } from 'zod'
import { issueWords } from '@/core/said/issue-words'
import { SaidError } from '@/core/said/said-error'
import type { Dataset } from '@/core/data/dataset'
import { geometryFromTopology } from '@/core/geo/from-topology'
import { featureCount } from '@/core/geo/geometry'
import { isCutEdge } from '@/core/geo/sphere/sew'
import { accuracyWords, definitionOf } from '../crs/reproject'
import { ImportError, type Imported, type ReadOptions } from '../import-error'
import { withIds } from '../feature-ids'
import { noExtentIn } from '../gathered-rows'
import { fieldsFromProperties } from '../properties'
import { vectorDatasets, type Row } from '../vector'
import { decodeText, nameFromFile, parseJson } from '../text'
import { checkDegrees } from '../geojson/coordinates'

const Shape = z.object({
  type: z.literal('Topology'),
  transform: z
    .object({ scale: z.tuple([z.number(), z.number()]), translate: z.tuple([z.number(), z.number()]) })
    .optional(),
  objects: z.record(z.string(), z.object({ type: z.string().nullable() }).loose()),
  arcs: z.array(z.unknown()),
})

/**
 * Reads every object of a TopoJSON file as a dataset of its own, keeping the shared arcs.
 * @throws ImportError
 */
export function readTopojson(bytes: Uint8Array, fileName: string, { crs }: ReadOptions = {}): Imported[] {
  const parsed = Shape.safeParse(parseJson(decodeText(bytes), fileName))
  if (!parsed.success)
    throw new ImportError(`${fileName} is not a TopoJSON topology: ${issueWords(parsed.error)}.`)
  const heights = checkArcs(parsed.data.arcs, fileName)
  const turned = crs === undefined ? null : accuracyWords(definitionOf(crs))
  if (turned) heights.push(turned)
  // The schema holds what is read here; the library's type has more that no file need have.
  const topology = placed(absolute(parsed.data as unknown as Topology), crs, fileName)
  const objects = Object.entries(topology.objects)
  if (!objects.length) throw new ImportError(`${fileName} holds no objects.`)
  const cut = isCut(topology)
  return objects.flatMap(([name, object]): Imported[] => {
    const { type } = object as GeometryObject
    const list = (
      type === 'GeometryCollection' ? (object as GeometryCollection).geometries : [object]
    ) as unknown[]
    // A topology that is cut at the date line is sewn shape by shape, and one that mixes sorts is taken apart.
    if (cut || mixes(list))
      return fromShapes(topology, object as GeometryObject, { name, fileName, crs, remarks: heights })
    const { dataset, remarks: found } = datasetFromTopology(topology, object as GeometryObject, fileName)
    const remarks = [...heights, ...found]
    const notes = noExtentIn(dataset.geometry)
    return [{ name: nameFromFile(name), guessed: { crs }, notes, dataset, remarks }]
  })
}

/**
 * What is to be said of arcs, which are looked at one by one: a schema would take longer than all the rest.
 * @throws ImportError where they are not lists of positions
 */
function checkArcs(arcs: unknown[], fileName: string): string[] {
  let heights = 0
  arcs.forEach((arc, i) => {
    const fits =
      Array.isArray(arc) &&
      arc.every((place: unknown) => {
        if (!Array.isArray(place) || typeof place[0] !== 'number' || typeof place[1] !== 'number')
          return false
        if (place.length > 2) heights++
        return true
      })
    if (!fits)
      throw new ImportError(`${fileName} is not a TopoJSON topology: its arc ${i} is no list of positions.`)
  })
  return heights ? ['Heights or measures of its vertices were left out.'] : []
}

/** Whether any edge of a topology in degrees runs along the date line or round a pole. */
const isCut = ({ arcs }: Topology): boolean =>
  arcs.some((arc) => arc.some((place, i) => i > 0 && isCutEdge(arc[i - 1], place)))

function mixes(list: unknown[]): boolean {
  const sorts = new Set<string>()
  for (const one of list) {
    const type = (one as { type?: unknown } | null)?.type
    if (typeof type === 'string') sorts.add(type.replace(/^Multi/, ''))
  }
  return sorts.size > 1 || sorts.has('GeometryCollection')
}

function fromShapes(
  topology: Topology,
  object: GeometryObject,
  {
    name,
    fileName,
    crs,
    remarks,
  }: { name: string; fileName: string; crs: string | undefined; remarks: string[] },
): Imported[] {
  const list = listOf(object, fileName)
  checkReferences(list, topology.arcs.length, fileName)
  let rows: Row[]
  try {
    rows = list.map((one): Row => ({
      shape: one.type === null ? null : (feature(topology, one) as Feature<Geometry>).geometry,
      properties: (one.properties ?? {}) as Record<string, unknown>,
      id: one.id,
    }))
  } catch {
    throw new ImportError(`${fileName} is damaged: its shapes do not have the form that their types say.`)
  }
  return vectorDatasets(rows, nameFromFile(name), fileName, { crs: null, guessed: { crs }, remarks })
}

function listOf(object: GeometryObject, fileName: string): GeometryObject[] {
  const list = object.type === 'GeometryCollection' ? (object as GeometryCollection).geometries : [object]
  // A file from elsewhere may say that it is a collection and hold none.
  if (!Array.isArray(list) || list.some((f) => typeof f !== 'object' || f === null))
    throw new ImportError(`${fileName} is damaged: an object of it holds no list of shapes.`)
  return list
}

/** One dataset of a topology with absolute coordinates, and what is to be said of it. */
export function datasetFromTopology(
  topology: Topology,
  object: GeometryObject,
  fileName: string,
): { dataset: Dataset; remarks: string[] } {
  const features = listOf(object, fileName)
  checkReferences(features, topology.arcs.length, fileName)
  try {
    const geometry = geometryFromTopology(topology, object)
    const rows = withIds(
      features.map(({ properties }) => ({ properties: (properties ?? {}) as Record<string, unknown> })),
      features.map(({ id }) => id),
    )
    const { fields, remarks } = fieldsFromProperties(rows.map(({ properties }) => properties))
    const dataset: Dataset = { rowCount: features.length, fields, geometry }
    if (geometry.kind !== 'none')
      checkDegrees(geometry.kind === 'points' ? geometry.coords : geometry.arcs.coords, fileName)
    if (geometry.kind !== 'none' && featureCount(geometry) !== dataset.rowCount)
      throw new SaidError('Shapes and rows do not agree.')
    return { dataset, remarks }
  } catch (error) {
    if (error instanceof ImportError) throw error
    throw new ImportError(
      error instanceof SaidError
        ? `${fileName}: ${error.message}`
        : `${fileName} is damaged: its shapes do not have the form that their types say.`,
    )
  }
}

function checkReferences(features: GeometryObject[], arcs: number, fileName: string): void {
  const visit = (value: unknown, feature: number): void => {
    if (Array.isArray(value)) for (const item of value) visit(item, feature)
    else if (typeof value !== 'number' || !Number.isInteger(value) || (value < 0 ? ~value : value) >= arcs)
      throw new ImportError(
        `${fileName}: shape ${feature + 1} refers to arc ${String(value)}, which the file does not hold.`,
      )
  }
  const arcsOf = (shape: GeometryObject, i: number): void => {
    if ('arcs' in shape) visit(shape.arcs, i)
    if ('geometries' in shape) for (const part of shape.geometries as GeometryObject[]) arcsOf(part, i)
  }
  features.forEach(arcsOf)
}

/** The topology in degrees, where its coordinates are in another system; arcs stay shared. */
function placed(topology: Topology, crs: string | undefined, fileName: string): Topology {
  const toDegrees = crs === undefined ? null : definitionOf(crs).toDegrees
  if (!toDegrees) return topology
  const place = ([x, y]: number[]): [number, number] => {
    const [lon, lat] = toDegrees(x, y)
    if (!Number.isFinite(lon) || !Number.isFinite(lat))
      throw new ImportError(`${fileName} holds the coordinates ${x}, ${y}, which lie outside ${crs}.`)
    return [lon, lat]
  }
  return {
    ...topology,
    arcs: topology.arcs.map((arc) => arc.map(place)),
    objects: Object.fromEntries(
      Object.entries(topology.objects).map(([name, object]) => [
        name,
        movePoints(object as GeometryObject, place),
      ]),
    ),
  } as Topology
}

function movePoints(object: GeometryObject, place: (position: number[]) => [number, number]): GeometryObject {
  if (object.type === 'GeometryCollection')
    return {
      ...object,
      geometries: ((object as GeometryCollection).geometries as GeometryObject[] | undefined)?.map((part) =>
        movePoints(part, place),
      ),
    } as GeometryObject
  if (object.type === 'Point') return { ...object, coordinates: place(object.coordinates) }
  if (object.type === 'MultiPoint') return { ...object, coordinates: object.coordinates.map(place) }
  return object
}

/** Undoes the quantization of arcs and points (TopoJSON specification 2.1.2 and 2.1.4). */
function absolute(topology: Topology): Topology {
  const { transform } = topology
  if (!transform) return topology
  const { scale, translate } = transform
  const place = (x: number, y: number): [number, number] => [
    x * scale[0] + translate[0],
    y * scale[1] + translate[1],
  ]
  const arcs = topology.arcs.map((arc) => {
    let [x, y] = [0, 0]
    return arc.map(([dx, dy]) => place((x += dx), (y += dy)))
  })
  return {
    ...topology,
    transform: undefined,
    arcs,
    objects: Object.fromEntries(
      Object.entries(topology.objects).map(([k, o]) => [
        k,
        movePoints(o as GeometryObject, ([x, y]) => place(x, y)),
      ]),
    ),
  } as Topology
}
