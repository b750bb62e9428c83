import Papa from 'papaparse'
import { topology } from 'topojson-server'
import type { FeatureCollection, MultiPolygon } from 'geojson'
import { geometryFromShapes } from '@/core/geo/shapes'
import { flatShapeOf } from '@/core/geo/sphere/flat'
import { textColumn } from '@/core/data/column'
import { writeShapefile } from '@/formats/writers/shapefile'
import { makePlanet, smallPlanet, type Planet } from './planet'
import { planetStatistics } from './statistics'

const text = (words: string): Uint8Array => new TextEncoder().encode(words)
const json = (value: unknown): Uint8Array => text(`${JSON.stringify(value)}\n`)

/** The planet as files of every kind that trouble people: the same states each time. */
export function planetFiles(planet: Planet = makePlanet(smallPlanet)): Record<string, Uint8Array> {
  const { states, cities } = planet
  const shapes = states.map(({ geometry }) => geometry)
  const store = geometryFromShapes(shapes)
  const features = (shapeAt: (f: number) => unknown): FeatureCollection =>
    ({
      type: 'FeatureCollection',
      // Official names stand in the tables alone.
      features: states.map(({ id, properties: { code, name, land } }, f) => ({
        type: 'Feature',
        id,
        properties: { code, name, land },
        geometry: shapeAt(f),
      })),
    }) as FeatureCollection
  const clockwise = ({ coordinates }: MultiPolygon): MultiPolygon => ({
    type: 'MultiPolygon',
    coordinates: coordinates.map((rings) => rings.map((ring) => [...ring].reverse())),
  })
  const keys = ['code', 'name', 'land'] as const
  return {
    // Uncut, with shared arcs and identifiers.
    'vintarra-states.topojson': json(topology({ states: features((f) => shapes[f]) }, 1e5)),
    // Cut at the date line, after RFC 7946.
    'vintarra-states.geojson': json(features((f) => flatShapeOf(store, f))),
    // Uncut and of the old winding.
    'vintarra-states-old.geojson': json(features((f) => clockwise(shapes[f]))),
    // Cut, rings clockwise.
    'vintarra-states.zip': writeShapefile({
      dataset: {
        rowCount: states.length,
        geometry: store,
        fields: [
          { key: 'id', column: textColumn(states.map(({ id }) => String(id))) },
          ...keys.map((key) => ({
            key,
            column: textColumn(states.map(({ properties }) => properties[key])),
          })),
        ],
      },
      name: 'vintarra-states',
      fieldMeta: (key) => ({ label: key, unit: '', role: 'name' }),
      fieldNames: 'short',
      crs: 'EPSG:4326',
    }).bytes,
    'vintarra-cities.csv': text(`${Papa.unparse(cities, { newline: '\n' })}\n`),
    'vintarra-statistics.csv': text(
      `${Papa.unparse(
        planetStatistics(planet).map(({ value, flag, ...rest }) => ({
          ...rest,
          value: value === null ? ':' : `${value}${flag ? ` ${flag}` : ''}`,
        })),
        { newline: '\n' },
      )}\n`,
    ),
  }
}
