import type { Geometry, Position } from 'geojson'
import proj4 from 'proj4'
import { ImportError } from '../import-error'
import { referenceSystem, unusableSystem } from './catalogue'
import { codeOfText, understoodText } from './well-known-text'

export type Definition = {
  code: string | null
  /** What its formulas are reckoned by, a proj4 definition or well-known text; empty for degrees of WGS 84. */
  formula: string
  name: string
  toDegrees: ((x: number, y: number) => [number, number]) | null
  fromDegrees: ((lon: number, lat: number) => [number, number]) | null
  /** How good the way to WGS 84 is, in metres; null where that is not known. */
  accuracyM: number | null
}

const wgs84: Definition = {
  code: 'EPSG:4326',
  formula: '',
  name: 'WGS 84',
  toDegrees: null,
  fromDegrees: null,
  accuracyM: 0,
}

/**
 * A reference system by its EPSG code, by well-known text (as in a .prj file) or by a proj4 definition.
 * @throws ImportError where it is not known
 */
export function definitionOf(text: string): Definition {
  const trimmed = text.trim()
  if (/^(epsg:)?4326$/i.test(trimmed) || /^(OGC:)?CRS84$/i.test(trimmed)) return wgs84
  const own = codeOfText(trimmed)
  const code = /^(epsg:)?\d+$/i.test(trimmed) ? trimmed : own && referenceSystem(own) && `EPSG:${own}`
  if (code === 'EPSG:4326') return wgs84
  const listed = code ? referenceSystem(code) : null
  if (code && !listed) throw new ImportError(unknownCode(trimmed))
  const understood = understoodText(trimmed)
  try {
    const formula = listed?.proj4 ?? understood.text
    const converter = proj4(formula)
    const plain = /^(GEOGCS|GEOGCRS)/i.test(trimmed) && /WGS.?(19)?84/i.test(trimmed)
    if (plain) return wgs84
    return {
      code: listed?.code ?? null,
      formula,
      name: listed?.name ?? nameOfWkt(trimmed),
      toDegrees: (x, y) => converter.inverse([x, y]) as [number, number],
      fromDegrees: (lon, lat) => converter.forward([lon, lat]) as [number, number],
      accuracyM: listed ? listed.accuracyM : (understood.shift?.accuracyM ?? null),
    }
  } catch {
    throw new ImportError(
      `The reference system “${listed?.name ?? trimmed.slice(0, 60)}” cannot be understood. Choose another from the list.`,
    )
  }
}

function unknownCode(code: string): string {
  const name = unusableSystem(code)
  return name
    ? `${code.toUpperCase()} (${name}) cannot be reckoned with here: its coordinates are none of a plane, or no way from its datum to WGS 84 is published that needs no file of shifts. Save the data in another system and bring them in again.`
    : `There is no reference system ${code} in the EPSG list.`
}

/** What a report says of a system other than WGS 84 that coordinates were turned from; null for WGS 84 itself. */
export function accuracyWords({ name, toDegrees, accuracyM }: Definition): string | null {
  if (!toDegrees) return null
  const good =
    accuracyM === null
      ? 'how good that is, is not known; up to some metres may be lost'
      : `that is good to ${accuracyM < 1 ? 'a metre' : `${Number(accuracyM.toPrecision(2))} m`}`
  return `Coordinates were turned from ${name} into WGS 84; ${good}.`
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
