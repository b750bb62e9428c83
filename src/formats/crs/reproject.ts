import type { Geometry, Position } from 'geojson'
import proj4 from 'proj4'
import { ImportError } from '../import-error'
import { referenceSystem } from './catalogue'

export type Definition = {
  code: string | null
  name: string
  toDegrees: ((x: number, y: number) => [number, number]) | null
  fromDegrees: ((lon: number, lat: number) => [number, number]) | null
}

const wgs84: Definition = { code: 'EPSG:4326', name: 'WGS 84', toDegrees: null, fromDegrees: null }

/**
 * A reference system by its EPSG code, by well-known text (as in a .prj file) or by a proj4 definition.
 * @throws ImportError where it is not known
 */
export function definitionOf(text: string): Definition {
  const trimmed = text.trim()
  if (/^(epsg:)?4326$/i.test(trimmed) || /^(OGC:)?CRS84$/i.test(trimmed)) return wgs84
  const listed = /^(epsg:)?\d+$/i.test(trimmed) ? referenceSystem(trimmed) : null
  if (/^(epsg:)?\d+$/i.test(trimmed) && !listed)
    throw new ImportError(`There is no reference system ${trimmed} in the EPSG list.`)
  try {
    const converter = proj4(listed?.proj4 ?? trimmed)
    const plain = /^(GEOGCS|GEOGCRS)/i.test(trimmed) && /WGS.?(19)?84/i.test(trimmed)
    if (plain) return wgs84
    return {
      code: listed?.code ?? null,
      name: listed?.name ?? nameOfWkt(trimmed),
      toDegrees: (x, y) => converter.inverse([x, y]) as [number, number],
      fromDegrees: (lon, lat) => converter.forward([lon, lat]) as [number, number],
    }
  } catch {
    throw new ImportError(
      `The reference system “${trimmed.slice(0, 60)}” cannot be understood. Choose it from the list.`,
    )
  }
}

const nameOfWkt = (wkt: string): string =>
  /^\w+\["([^"]+)"/.exec(wkt)?.[1]?.replace(/_/g, ' ') ?? 'a system of its own'

/** A shape with every position taken through a function. */
export function mapPositions(shape: Geometry, place: (x: number, y: number) => Position): Geometry {
  const walk = (value: unknown): unknown =>
    Array.isArray(value) && typeof value[0] === 'number'
      ? place(value[0] as number, value[1] as number)
      : (value as unknown[]).map(walk)
  return shape.type === 'GeometryCollection'
    ? { ...shape, geometries: shape.geometries.map((g) => mapPositions(g, place)) }
    : ({ ...shape, coordinates: walk(shape.coordinates) } as Geometry)
}
