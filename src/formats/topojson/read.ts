import type { GeometryCollection, GeometryObject, Topology } from 'topojson-specification'
import { z } from 'zod'
import { issueWords } from '@/core/said/issue-words'
import { SaidError } from '@/core/said/said-error'
import type { Dataset } from '@/core/data/dataset'
import { geometryFromTopology } from '@/core/geo/from-topology'
import { featureCount } from '@/core/geo/geometry'
import { definitionOf } from '../crs/reproject'
import { ImportError, type Imported, type ReadOptions } from '../import-error'
import { fieldsFromProperties } from '../properties'
import { decodeText, nameFromFile, parseJson } from '../text'
import { borderNotes } from '../vector'
import { checkDegrees } from '../geojson/coordinates'

const Shape = z.object({
  type: z.literal('Topology'),
  transform: z
    .object({ scale: z.tuple([z.number(), z.number()]), translate: z.tuple([z.number(), z.number()]) })
    .optional(),
  objects: z.record(z.string(), z.object({ type: z.string().nullable() }).loose()),
  arcs: z.array(z.array(z.array(z.number()).min(2))),
})

/**
 * Reads every object of a TopoJSON file as a dataset of its own, keeping the shared arcs.
 * @throws ImportError
 */
export function readTopojson(bytes: Uint8Array, fileName: string, { crs }: ReadOptions = {}): Imported[] {
  const parsed = Shape.safeParse(parseJson(decodeText(bytes), fileName))
  if (!parsed.success)
    throw new ImportError(`${fileName} is not a TopoJSON topology: ${issueWords(parsed.error)}.`)
  // The schema holds what is read here; the library's type has more that no file need have.
  const topology = placed(absolute(parsed.data as unknown as Topology), crs, fileName)
  const objects = Object.entries(topology.objects)
  if (!objects.length) throw new ImportError(`${fileName} holds no objects.`)
  return objects.map(([name, object]) => {
    const dataset = datasetFromTopology(topology, object as GeometryObject, fileName)
    return { name: nameFromFile(name), guessed: { crs }, notes: borderNotes(dataset.geometry), dataset }
  })
}

/** One dataset of a topology with absolute coordinates. */
export function datasetFromTopology(topology: Topology, object: GeometryObject, fileName: string): Dataset {
  const features = object.type === 'GeometryCollection' ? (object as GeometryCollection).geometries : [object]
  // A file from elsewhere may say that it is a collection and hold none.
  if (!Array.isArray(features) || features.some((f) => typeof f !== 'object' || f === null))
    throw new ImportError(`${fileName} is damaged: an object of it holds no list of shapes.`)
  checkReferences(features, topology.arcs.length, fileName)
  try {
    const geometry = geometryFromTopology(topology, object)
    const dataset: Dataset = {
      rowCount: features.length,
      fields: fieldsFromProperties(features.map((f) => f.properties as Record<string, unknown>)),
      geometry,
    }
    if (geometry.kind !== 'none')
      checkDegrees(geometry.kind === 'points' ? geometry.coords : geometry.arcs.coords, fileName)
    if (geometry.kind !== 'none' && featureCount(geometry) !== dataset.rowCount)
      throw new SaidError('Shapes and rows do not agree.')
    return dataset
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
  features.forEach((feature, i) => 'arcs' in feature && visit(feature.arcs, i))
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
