import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { geometryFromShapes } from '@/core/geo/shapes'
import { geodesicMetres } from '@/core/projection/ground'
import type { Dataset } from '../../dataset'
import { sizeAtLevel, type Raster } from '../../raster'
import { statisticsInAreas } from '../../raster-zones'
import { drain } from '@/core/grid/steps'
import { stepTypes, stepKindOf } from '../registry'
import { after, column, problemOf, tableOf } from '../step-testing'

const [columns, rows, cell] = [60, 40, 0.01]
const [west, north] = [20, 70.2]
type Field = (lon: number, lat: number) => number

function rasterOf(...bands: Field[]): Raster {
  const [east, south] = [west + columns * cell, north - rows * cell]
  const values = new Float32Array(bands.length * columns * rows)
  bands.forEach((z, b) => {
    for (let i = 0; i < columns * rows; i++)
      values[b * columns * rows + i] = z(
        west + ((i % columns) + 0.5) * cell,
        north - (Math.floor(i / columns) + 0.5) * cell,
      )
  })
  return {
    crs: '',
    columns,
    rows,
    bands: bands.length,
    transform: Float64Array.of(west, cell, 0, north, 0, -cell),
    values,
    edge: Float64Array.of(west, north, east, north, east, south, west, south),
    fileSize: Uint32Array.of(columns, rows),
  }
}
const dataset = (raster: Raster): Dataset => ({
  rowCount: raster.bands,
  fields: [],
  geometry: { kind: 'none' },
  raster,
})
const metresNorth = geodesicMetres([20.3, 70], [20.3, 70.01]) / 0.01
const metresEast = geodesicMetres([20.3, 70], [20.31, 70]) / 0.01
const cellsOf = (made: { dataset: Dataset }): Float32Array =>
  made.dataset.raster?.values ?? new Float32Array(0)
/** The cell whose middle lies nearest to 70° north, 20.3° east. */
const middle = 20 * columns + 30

describe('what a surface is like', () => {
  // Up by 0.1 for each metre to the east and by 0.2 to the north.
  const plane = rasterOf((lon, lat) => 0.1 * (lon - 20.3) * metresEast + 0.2 * (lat - 70) * metresNorth)
  const measured = (measure: string, raster = plane, more: object = {}) =>
    cellsOf(after(dataset(raster), [['terrain', { measure, ...more }]]))
  it('slope and aspect are those of a plane on the ground far in the north', () => {
    expect(measured('slope')[middle]).toBeCloseTo((Math.atan(Math.hypot(0.1, 0.2)) * 180) / Math.PI, 2)
    // It goes down to the south-west by west and south.
    expect(measured('aspect')[middle]).toBeCloseTo(180 + (Math.atan2(0.1, 0.2) * 180) / Math.PI, 1)
  })
  it('curvature is that of a dome, and nought on a plane', () => {
    const dome = rasterOf(
      (lon, lat) => -1e-4 * (((lon - 20.3) * metresEast) ** 2 + ((lat - 70) * metresNorth) ** 2),
    )
    expect(measured('curvature', dome)[middle]).toBeCloseTo(0.04, 3)
    expect(Math.abs(measured('curvature')[middle])).toBeLessThan(1e-3)
  })
  it('light is that of the published formula', () => {
    const [s, a] = [Math.atan(Math.hypot(0.1, 0.2)), Math.PI + Math.atan2(0.1, 0.2)]
    const [zenith, azimuth] = [(60 * Math.PI) / 180, (200 * Math.PI) / 180]
    const wanted = Math.cos(zenith) * Math.cos(s) + Math.sin(zenith) * Math.sin(s) * Math.cos(azimuth - a)
    expect(measured('hillshade', plane, { azimuthDeg: 200, altitudeDeg: 30 })[middle]).toBeCloseTo(
      100 * wanted,
      1,
    )
  })
  it('local relief is the highest less the lowest about', () => {
    const peak = rasterOf((lon, lat) => (Math.hypot(lon - 20.305, lat - 69.995) < 0.004 ? 50 : 10))
    const relief = measured('local relief', peak, { reachKm: 1.5 })
    expect(Math.max(...relief)).toBe(40)
    expect(relief[0]).toBe(0)
    expect(relief.filter((value) => value === 40).length).toBe(25)
  })
})

describe('a raster in areas', () => {
  const square = (x0: number, y0: number, x1: number, y1: number): GeoJSON.Geometry => ({
    type: 'Polygon',
    coordinates: [
      [
        [x0, y0],
        [x1, y0],
        [x1, y1],
        [x0, y1],
        [x0, y0],
      ],
    ],
  })
  const field: Field = (lon, lat) => Math.round(40 * Math.sin(9 * lon) + 30 * Math.cos(17 * lat))
  const raster = rasterOf(field)
  const place = fc.tuple(
    fc.double({ min: west - 0.05, max: west + columns * cell + 0.05, noNaN: true }),
    fc.double({ min: north - rows * cell - 0.05, max: north + 0.05, noNaN: true }),
  )
  it('has the mean, sum, least, most and shares that counting fine pieces gives', () => {
    fc.assert(
      fc.property(fc.tuple(place, place, place), ([a, b, c]) => {
        const twice = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])
        fc.pre(Math.abs(twice) > 0.01)
        const ring = twice > 0 ? [a, b, c, a] : [a, c, b, a]
        const areas = geometryFromShapes([{ type: 'Polygon', coordinates: [ring] }])
        if (areas.kind !== 'areas') throw new Error('It is an area.')
        const found = drain(statisticsInAreas(raster, areas, { band: 0, values: [0] }))
        const inside = (x: number, y: number): boolean =>
          [0, 1, 2].every((i) => {
            const [p, q] = [ring[i], ring[i + 1]]
            return (q[0] - p[0]) * (y - p[1]) - (q[1] - p[1]) * (x - p[0]) >= 0
          })
        const fine = 9
        let [sum, weights, weighted, zero] = [0, 0, 0, 0]
        for (let r = 0; r < rows * fine; r++)
          for (let k = 0; k < columns * fine; k++) {
            const [lon, lat] = [west + ((k + 0.5) * cell) / fine, north - ((r + 0.5) * cell) / fine]
            if (!inside(lon, lat)) continue
            const value = raster.values[Math.floor(r / fine) * columns + Math.floor(k / fine)]
            const weight = Math.cos((lat * Math.PI) / 180)
            sum += value / fine ** 2
            weights += weight
            weighted += weight * value
            if (value === 0) zero += weight
          }
        fc.pre(weights > 200)
        expect(Math.abs(found.mean[0] - weighted / weights)).toBeLessThan(1)
        expect(Math.abs(found.sum[0] - sum)).toBeLessThan(0.05 * (weights / fine ** 2) + 60)
        expect(Math.abs(found.shares[0][0] - zero / weights)).toBeLessThan(0.03)
      }),
      { numRuns: 25 },
    )
  })
  it('of squares on cells is exact, and counts covered parts', () => {
    const flat = rasterOf((lon) => Math.floor((lon - west) / cell))
    const shapes = [square(20.105, 70, 20.125, 70.01), square(20.5, 70, 20.7, 70.01), square(40, 0, 41, 1)]
    const made = after(
      tableOf({ name: ['a', 'b', 'c'] }, shapes),
      [['statistics-in-areas', { figures: 'all', label: 'z', unit: '' }]],
      {
        relief: dataset(flat),
      },
    )
    expect(problemOf(made)).toBe(null)
    // Half of column 10, all of 11, half of 12.
    expect(column(made, 'z_mean')?.[0]).toBeCloseTo(11, 6)
    expect(column(made, 'z_sum')?.[0]).toBeCloseTo(22, 6)
    expect([column(made, 'z_least')?.[0], column(made, 'z_most')?.[0]]).toEqual([10, 12])
    expect(column(made, 'z_mean')?.[1]).toBeCloseTo(54.5, 5)
    expect(column(made, 'z_mean')?.[2]).toBe(null)
    expect(made.reports.at(-1)?.remark).toMatch(
      /1 area has no cell.*1 area lies on cells without a value in part/s,
    )
  })
  it('is refused for shares of what is no category', () => {
    const made = after(
      tableOf({ name: ['a'] }, [square(20, 70, 20.1, 70.1)]),
      [['statistics-in-areas', { figures: 'shares' }]],
      {
        relief: dataset(rasterOf((lon, lat) => lon * lat)),
      },
    )
    expect(problemOf(made)).toMatch(/Reclassify/)
  })
})

describe('cells reckoned anew', () => {
  const two = rasterOf(
    (lon) => lon,
    (lon) => 3 * lon,
  )
  it('by a formula over bands, an index of two among them', () => {
    const made = after(dataset(two), [['formula-over-cells', {}]])
    expect(cellsOf(made)[77]).toBeCloseTo(0.5, 5)
    expect(made.dataset.raster?.bands).toBe(1)
    expect(problemOf(after(dataset(two), [['formula-over-cells', { formula: 'band_7 + 1' }]]))).toMatch(
      /band_7/,
    )
  })
  it('says what of a formula cannot be reckoned', () => {
    const made = after(dataset(two), [['formula-over-cells', { formula: 'hypot(band_1, band_2)' }]])
    expect(problemOf(made)).toBe(null)
    expect(
      problemOf(after(dataset(two), [['formula-over-cells', { formula: 'sqrt(band_1, band_2)' }]])),
    ).toMatch(/cannot be reckoned/)
  })
  it('with another raster at the same places', () => {
    const made = after(
      dataset(two),
      [['formula-over-cells', { formula: 'other_1 - band_1', datasetId: 'more' }]],
      {
        more: dataset(rasterOf((lon) => lon + 5)),
      },
    )
    expect(cellsOf(made)[middle]).toBeCloseTo(5, 4)
  })
  it('into numbers for ranges; empty names and what lies above take cells out', () => {
    const made = after(dataset(rasterOf((lon) => Math.floor((lon - west) / cell + 1e-9))), [
      [
        'reclassify',
        {
          ranges: [
            { under: 10, name: '1' },
            { under: 20, name: '' },
            { under: 50, name: '-2.5' },
          ],
        },
      ],
    ])
    const row = cellsOf(made).subarray(0, columns)
    expect([row[0], row[9], row[30]]).toEqual([1, 1, -2.5])
    expect([row[10], row[19], row[55]]).toEqual([NaN, NaN, NaN])
    expect(made.reports.at(-1)?.remark).toMatch(/400 cells/)
    expect(
      problemOf(after(dataset(two), [['reclassify', { ranges: [{ under: null, name: 'wood' }] }]])),
    ).toMatch(/wood/)
  })
  it('smoothed, clipped by areas, and taken under points', () => {
    const spike = rasterOf((lon, lat) => (Math.hypot(lon - 20.305, lat - 69.995) < 0.004 ? 1000 : 0))
    const smoothed = cellsOf(after(dataset(spike), [['smooth', { sigmaKm: 2 }]]))
    expect(Math.max(...smoothed)).toBeLessThan(300)
    expect(smoothed.reduce((a, b) => a + b, 0)).toBeCloseTo(1000, 0)
    const half = tableOf({ name: ['a'] }, [
      {
        type: 'Polygon',
        coordinates: [
          [
            [19, 60],
            [20.3, 60],
            [20.3, 80],
            [19, 80],
            [19, 60],
          ],
        ],
      },
    ])
    for (const keep of ['inside', 'outside']) {
      const cut = cellsOf(after(dataset(spike), [['clip-cells', { keep, datasetId: 'half' }]], { half }))
      expect(cut.filter((value) => value === value).length).toBe((columns * rows) / 2)
      expect(Number.isNaN(cut[0])).toBe(keep === 'outside')
    }
    const points = tableOf({ name: ['a', 'b'] }, [
      { type: 'Point', coordinates: [20.2, 70] },
      { type: 'Point', coordinates: [50, 0] },
    ])
    const made = after(points, [['values-under-points', { label: 'h', way: 'between' }]], {
      z: dataset(rasterOf((lon) => lon)),
    })
    expect(column(made, 'h')?.[0]).toBeCloseTo(20.2, 4)
    expect(column(made, 'h')?.[1]).toBe(null)
    expect(made.reports.at(-1)?.remark).toMatch(/1 point has no value/)
  })
  it('over the date line have values under points on either side, however their longitudes are counted', () => {
    const across = rasterOf((_, lat) => lat)
    across.transform = Float64Array.of(179.7, cell, 0, north, 0, -cell)
    const points = tableOf({ name: ['a', 'b', 'c'] }, [
      { type: 'Point', coordinates: [179.8, 70] },
      { type: 'Point', coordinates: [-179.8, 70.1] },
      { type: 'Point', coordinates: [-179.4, 70] },
    ])
    const made = after(points, [['values-under-points', { label: 'h', way: 'between' }]], {
      z: dataset(across),
    })
    expect(column(made, 'h')?.[0]).toBeCloseTo(70, 4)
    expect(column(made, 'h')?.[1]).toBeCloseTo(70.1, 4)
    expect(column(made, 'h')?.[2]).toBe(null)
  })
  it('says on which cells where the file has finer ones, of which statistics and points take note', () => {
    const held = rasterOf((lon) => lon)
    const size = sizeAtLevel(columns * 2, rows * 2, 0)
    const fine: Raster = {
      ...held,
      fileSize: Uint32Array.of(size.columns, size.rows),
      fine: { id: 'x', side: 256, levels: 1, digest: '', bytes: 1 },
      readTile: () => new Float32Array(size.columns * size.rows).fill(7),
    }
    expect(after(dataset(fine), [['smooth', {}]]).reports.at(-1)?.remark).toMatch(/Reckoned on cells of/)
    const areas = tableOf({ name: ['a'] }, [
      {
        type: 'Polygon',
        coordinates: [
          [
            [20.1, 70],
            [20.2, 70],
            [20.2, 70.1],
            [20.1, 70.1],
            [20.1, 70],
          ],
        ],
      },
    ])
    const made = after(areas, [['statistics-in-areas', { label: 'z' }]], { r: dataset(fine) })
    expect(column(made, 'z_mean')).toEqual([7])
  })
  it('is offered for rasters alone', () => {
    for (const type of stepTypes)
      if (stepKindOf(type).about === 'cells')
        expect(stepKindOf(type).accepts(after(tableOf({ a: [1] }), []) as never)).toBe(false)
  })
})
