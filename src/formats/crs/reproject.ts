import type { Geometry, Position } from 'geojson'
import proj4 from 'proj4'
import { ImportError } from '../import-error'
import { referenceSystem, unusableSystem, type ReferenceSystem } from './catalogue'
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
  /** Whether coordinates are what the formula gives: easting before northing, or degrees. */
  plainAxes: boolean
}

const wgs84: Definition = {
  code: 'EPSG:4326',
  formula: '',
  name: 'WGS 84',
  toDegrees: null,
  fromDegrees: null,
  accuracyM: 0,
  plainAxes: true,
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
  if (listed) return definitionOfListed(listed)
  const understood = understoodText(trimmed)
  if (/^(GEOGCS|GEOGCRS)/i.test(trimmed) && /WGS.?(19)?84/i.test(trimmed)) return wgs84
  return reckonedBy(understood.text, {
    code: null,
    name: nameOfWkt(trimmed),
    unit: '',
    accuracyM: understood.shift?.accuracyM ?? null,
  })
}

/** The definition of a system of the list. @throws ImportError where it cannot be understood */
export const definitionOfListed = ({ proj4: formula, ...system }: ReferenceSystem): Definition =>
  reckonedBy(formula, system)

/** @throws ImportError where the formula cannot be understood */
function reckonedBy(
  formula: string,
  {
    code,
    name,
    unit,
    accuracyM,
  }: { code: string | null; name: string; unit: string; accuracyM: number | null },
): Definition {
  try {
    const converter = proj4(formula)
    const axes = axesOf(formula, unit)
    return {
      ...{ code, formula, name, accuracyM },
      plainAxes: axes.plain,
      toDegrees: (x, y) => converter.inverse(axes.toEastNorth(x, y)) as [number, number],
      fromDegrees: (lon, lat) => axes.fromEastNorth(...(converter.forward([lon, lat]) as [number, number])),
    }
  } catch {
    throw new ImportError(
      `The reference system “${code ? name : formula.slice(0, 60)}” cannot be understood. Choose another from the list.`,
    )
  }
}

type Turn = (a: number, b: number) => [number, number]

/**
 * How coordinates of a file stand to metres east and north, or degrees: axes to the west or south keep the order and
 * the signs that the system gives them (`+axis=wsu`), and grads are turned into degrees. Axes to the north and east are
 * written with the east first in files, whatever the system says, as to which all programs agree.
 */
function axesOf(formula: string, unit: string): { toEastNorth: Turn; fromEastNorth: Turn; plain: boolean } {
  const axes = /\+axis=([nsew])([nsew])/.exec(formula)
  if (axes && /[sw]/.test(axes[0].slice(6))) {
    const signs = axes.slice(1).map((axis) => ('sw'.includes(axis) ? -1 : 1))
    const turned = 'ns'.includes(axes[1])
    return {
      plain: false,
      toEastNorth: (a, b) => (turned ? [signs[1] * b, signs[0] * a] : [signs[0] * a, signs[1] * b]),
      fromEastNorth: (x, y) => (turned ? [signs[0] * y, signs[1] * x] : [signs[0] * x, signs[1] * y]),
    }
  }
  const size = unit === 'grad' ? 0.9 : 1
  return {
    plain: size === 1,
    toEastNorth: (a, b) => [a * size, b * size],
    fromEastNorth: (x, y) => [x / size, y / size],
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
