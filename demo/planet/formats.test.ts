import type { Position } from 'geojson'
import { describe, expect, it } from 'vitest'
import { textColumn } from '@/core/data/column'
import type { Areas } from '@/core/geo/geometry'
import { groundAreas } from '@/core/geo/measure'
import { geometryFromShapes } from '@/core/geo/shapes'
import { exportFormatIds, savedAs } from '@/formats/list'
import { readFile } from '@/formats/registry'
import { writeDataset } from '@/formats/writers/registry'
import { planetFiles } from './files'
import { makePlanet, smallPlanet } from './planet'

const planet = makePlanet(smallPlanet)
const states = geometryFromShapes(planet.states.map(({ geometry }) => geometry)) as Areas
const ground = groundAreas(states)
const dataset = {
  rowCount: planet.states.length,
  geometry: states,
  fields: [{ key: 'code', column: textColumn(planet.states.map(({ properties }) => properties.code)) }],
}

/** The largest difference of any area from what it is, as a share of it. */
const worst = (measured: Float64Array): number =>
  measured.reduce((most, size, f) => Math.max(most, Math.abs(size / ground[f] - 1)), 0)

const withShapes = exportFormatIds.filter((id) => !['csv', 'xlsx', 'geotiff'].includes(id))

describe('areas keep their size on the ellipsoid', () => {
  for (const format of withShapes)
    it(`in ${savedAs(format).label}, written and read again`, async () => {
      const { bytes } = await writeDataset(format, {
        dataset,
        name: 'states',
        fieldMeta: (key) => ({ label: key, unit: '', role: 'name' }),
        fieldNames: 'short',
        crs: 'EPSG:4326',
      })
      const [{ dataset: read, notes }] = (await readFile(bytes, `states${savedAs(format).extension}`))
        .datasets
      expect(read.rowCount).toBe(dataset.rowCount)
      expect(worst(groundAreas(read.geometry))).toBeLessThan(1e-6)
      expect(notes.map(({ what }) => what)).not.toContain('has no shape')
    })

  it('in all files of the planet but for what rounding takes', async () => {
    for (const [name, bytes] of Object.entries(planetFiles(planet))) {
      if (name.endsWith('.csv')) continue
      const [{ dataset: read }] = (await readFile(bytes, name)).datasets
      // The topology is rounded to a hundred thousandth of the globe.
      expect(worst(groundAreas(read.geometry)), name).toBeLessThan(name.endsWith('.topojson') ? 2e-2 : 1e-6)
    }
  })

  it('in files that have every other way to say where the date line is', async () => {
    const { bytes } = await writeDataset('geojson', {
      dataset,
      name: 'states',
      fieldMeta: (key) => ({ label: key, unit: '', role: 'name' }),
      fieldNames: 'short',
      crs: 'EPSG:4326',
    })
    const collection = JSON.parse(new TextDecoder().decode(bytes)) as {
      features: { geometry: { coordinates: unknown } }[]
    }
    const eachPlace = (value: unknown, change: (place: Position) => Position): unknown =>
      typeof (value as unknown[])[0] === 'number'
        ? change(value as Position)
        : (value as unknown[]).map((part) => eachPlace(part, change))
    const ways: Record<string, (place: Position) => Position> = {
      'the line is 180': ([x, y]) => [x === -180 ? 180 : x, y],
      'the line is −180': ([x, y]) => [x === 180 ? -180 : x, y],
      'from 180 to 540': ([x, y]) => [x + 360, y],
      'rounded beside the line': ([x, y]) => [Math.abs(x) === 180 ? x * (1 - 1e-11) : x, y],
    }
    for (const [name, change] of Object.entries(ways)) {
      const features = collection.features.map((feature) => ({
        ...feature,
        geometry: { ...feature.geometry, coordinates: eachPlace(feature.geometry.coordinates, change) },
      }))
      const text = new TextEncoder().encode(JSON.stringify({ ...collection, features }))
      const [{ dataset: read }] = (await readFile(text, 'states.geojson')).datasets
      expect(worst(groundAreas(read.geometry)), name).toBeLessThan(1e-6)
    }
  })
})
