import type { FeatureCollection, Geometry } from 'geojson'
import { topology } from 'topojson-server'
import type { GeometryObject } from 'topojson-specification'
import { z } from 'zod'
import { ImportError, type Imported } from '../import-error'
import { decodeText, nameFromFile, parseJson } from '../text'
import { datasetFromTopology } from '../topojson/read'

const Position = z.array(z.number()).min(2)
const shapes = {
  Point: Position,
  MultiPoint: z.array(Position),
  LineString: z.array(Position).min(2),
  MultiLineString: z.array(z.array(Position).min(2)),
  Polygon: z.array(z.array(Position).min(4)),
  MultiPolygon: z.array(z.array(z.array(Position).min(4))),
} as const

const Member = z.object({ type: z.string(), geometry: z.unknown().optional(), properties: z.record(z.string(), z.unknown()).nullish(), id: z.union([z.string(), z.number()]).optional() })

/**
 * Reads a GeoJSON feature collection, feature or geometry (RFC 7946). Shared borders become shared arcs.
 * @throws ImportError
 */
export function readGeojson(bytes: Uint8Array, fileName: string): Imported[] {
  const parsed = parseJson(decodeText(bytes), fileName)
  const members = membersOf(parsed, fileName)
  const features = members.map((member, i) => {
    const feature = Member.safeParse(member)
    if (!feature.success || feature.data.type !== 'Feature') throw new ImportError(`${fileName}: entry ${i + 1} is not a GeoJSON feature.`)
    const properties = feature.data.properties ?? {}
    return {
      type: 'Feature' as const,
      properties: feature.data.id !== undefined && !('id' in properties) ? { id: String(feature.data.id), ...properties } : properties,
      geometry: checkGeometry(feature.data.geometry ?? null, i, fileName),
    }
  })
  if (!features.length) throw new ImportError(`${fileName} holds no features.`)
  const built = topology({ features: { type: 'FeatureCollection', features } as FeatureCollection })
  return [{ name: nameFromFile(fileName), dataset: datasetFromTopology(built, built.objects.features as GeometryObject, fileName) }]
}

function membersOf(parsed: unknown, fileName: string): unknown[] {
  if (typeof parsed === 'object' && parsed !== null && 'type' in parsed) {
    if (parsed.type === 'FeatureCollection' && 'features' in parsed && Array.isArray(parsed.features)) return parsed.features
    if (parsed.type === 'Feature') return [parsed]
    if (typeof parsed.type === 'string' && parsed.type in shapes) return [{ type: 'Feature', properties: {}, geometry: parsed }]
  }
  throw new ImportError(`${fileName} is JSON, but not GeoJSON: it has no features.`)
}

function checkGeometry(geometry: unknown, index: number, fileName: string): Geometry | null {
  if (geometry === null) return null
  const type = typeof geometry === 'object' && 'type' in geometry ? String(geometry.type) : ''
  if (!(type in shapes)) throw new ImportError(`${fileName}: feature ${index + 1} has a shape of the type “${type}”, which cannot be read.`)
  const coordinates = shapes[type as keyof typeof shapes].safeParse((geometry as { coordinates?: unknown }).coordinates)
  if (!coordinates.success) throw new ImportError(`${fileName}: feature ${index + 1} (${type}) has coordinates that are not complete.`)
  return { type, coordinates: flat(coordinates.data) } as unknown as Geometry
}

/** Heights and measures behind longitude and latitude are dropped. */
const flat = (value: unknown): unknown => (Array.isArray(value) && typeof value[0] === 'number' ? value.slice(0, 2) : (value as unknown[]).map(flat))
