import type { Geometry } from 'geojson'
import { z } from 'zod'
import { ImportError, type Imported, type ReadOptions } from '../import-error'
import { decodeText, nameFromFile } from '../text'
import { vectorDatasets, type Row } from '../vector'
import { membersOf, shapes } from './members'

/** Taken as it is: a copy of it would lose what is called `__proto__`. */
const Properties = z.custom<Record<string, unknown>>(
  (value) => typeof value === 'object' && value !== null && !Array.isArray(value),
)

const Member = z.object({
  type: z.string(),
  geometry: z.unknown().optional(),
  properties: Properties.nullish(),
  id: z.union([z.string(), z.number(), z.bigint()]).nullish(),
})

/**
 * Reads a GeoJSON feature collection, feature or geometry (RFC 7946), or one feature a line (RFC 8142).
 * Shared borders become shared arcs. An older file may name its reference system.
 * @throws ImportError
 */
export function readGeojson(bytes: Uint8Array, fileName: string, options: ReadOptions): Imported[] {
  const { head, count, each } = membersOf(decodeText(bytes), fileName, /\.(geojsonl|ndjson)$/i.test(fileName))
  if (!count) throw new ImportError(`${fileName} holds no features.`)
  const crs = options.crs ?? namedSystem(head)
  return vectorDatasets(rowsOf(each(), fileName), nameFromFile(fileName), fileName, {
    crs,
    guessed: { crs: crs ?? undefined },
  })
}

function* rowsOf(members: Iterable<unknown>, fileName: string): Iterable<Row> {
  let i = 0
  for (const member of members) {
    const feature = Member.safeParse(member)
    if (!feature.success || feature.data.type !== 'Feature')
      throw new ImportError(`${fileName}: entry ${i + 1} is not a GeoJSON feature.`)
    const { geometry, properties, id } = feature.data
    yield { properties: properties ?? {}, shape: checkGeometry(geometry ?? null, i, fileName), id }
    i++
  }
}

/** The EPSG code of a “crs” member, as files from before RFC 7946 have it. */
function namedSystem(parsed: unknown): string | null {
  const name = (parsed as { crs?: { properties?: { name?: unknown } } }).crs?.properties?.name
  const code = typeof name === 'string' ? /EPSG:+(\d+)$/i.exec(name)?.[1] : undefined
  return code ? `EPSG:${code}` : null
}

function checkGeometry(geometry: unknown, index: number, fileName: string): Geometry | null {
  if (geometry === null) return null
  const type = typeof geometry === 'object' && 'type' in geometry ? String(geometry.type) : ''
  if (type === 'GeometryCollection') {
    const { geometries } = geometry as { geometries?: unknown }
    if (!Array.isArray(geometries))
      throw new ImportError(`${fileName}: feature ${index + 1} is a collection without a list of shapes.`)
    const parts = geometries
      .map((part) => checkGeometry(part, index, fileName))
      .filter((part) => part !== null)
    return { type, geometries: parts }
  }
  if (!(type in shapes))
    throw new ImportError(
      `${fileName}: feature ${index + 1} has a shape of the type “${type}”, which cannot be read.`,
    )
  const { coordinates } = geometry as { coordinates?: unknown }
  const { depth, least } = shapes[type as keyof typeof shapes]
  if (!complete(coordinates, depth, least))
    throw new ImportError(
      `${fileName}: feature ${index + 1} (${type}) has coordinates that are not complete.`,
    )
  // Checked above: the depth of `coordinates` is that of `type`.
  return { type, coordinates } as unknown as Geometry
}

/** Whether coordinates are whole, without copying them. */
function complete(value: unknown, depth: number, least: number): boolean {
  if (!Array.isArray(value) || (depth === 1 && value.length < least)) return false
  const list = value as unknown[]
  if (depth === 0) return isPlace(list)
  if (depth > 1) {
    for (let i = 0; i < list.length; i++) if (!complete(list[i], depth - 1, least)) return false
    return true
  }
  for (let i = 0; i < list.length; i++) if (!isPlace(list[i])) return false
  return true
}

const isPlace = (value: unknown): boolean =>
  Array.isArray(value) && value.length >= 2 && typeof value[0] === 'number' && typeof value[1] === 'number'
