import { describe, expect, it } from 'vitest'
import { groundAreas } from '@/core/geo/measure'
import { rasterAt, gridPlace } from '../raster'
import { after, column, demo, problemOf, tableOf } from './step-testing'

const places = Array.from({ length: 60 }, (_, i): [number, number] => [
  10 + 0.03 * (i % 10) + 0.001 * i,
  50 + 0.02 * Math.floor(i / 10),
])
const points = tableOf(
  {
    n: places.map((_, i) => (i === 7 ? null : i)),
    height: places.map(([lon, lat]) => 100 * (lon - 10) + 50 * (lat - 50)),
  },
  places.map((coordinates) => ({ type: 'Point', coordinates })),
)

describe('density', () => {
  it('gives areas between levels whose ground and levels hold all the points', () => {
    const made = after(points, [['density', { bandwidthKm: 4, out: 'areas', interval: 0 }]])
    const areas = groundAreas(made.dataset.geometry)
    const [from, to] = [column(made, 'from'), column(made, 'to')] as number[][]
    const low = areas.reduce((sum, area, i) => sum + (area / 1e6) * from[i], 0)
    const high = areas.reduce((sum, area, i) => sum + (area / 1e6) * to[i], 0)
    expect(low).toBeLessThan(60)
    expect(high).toBeGreaterThan(60)
    expect(problemOf(made)).toBeNull()
  })

  it('gives a raster that holds them as well', () => {
    const { raster } = after(points, [['density', { bandwidthKm: 4, out: 'raster' }]]).dataset
    if (!raster) throw new Error('There is no raster.')
    expect(rasterAt(raster, 0, ...gridPlace(raster, 10.15, 50.05))).toBeGreaterThan(0.03)
    expect(raster.crs).toBe('')
  })

  it('refuses more levels than anybody reads', () => {
    const made = after(points, [['density', { bandwidthKm: 4, out: 'lines', interval: 1e-6 }]])
    expect(made.dataset).toBe(points)
    expect(problemOf(made)).toContain('at most 500')
  })
})

describe('interpolate', () => {
  it('reproduces a plane as lines at its levels', () => {
    const made = after(points, [
      ['interpolate', { field: 'height', way: 'natural-neighbours', out: 'lines', interval: 5 }],
    ])
    const levels = column(made, 'level') as number[]
    expect(levels).toContain(10)
    const { geometry } = made.dataset
    if (geometry.kind !== 'lines') throw new Error('Lines were asked for.')
    const f = levels.indexOf(10)
    for (let r = geometry.featureStarts[f]; r < geometry.featureStarts[f + 1]; r++)
      for (let k = geometry.ringStarts[r]; k < geometry.ringStarts[r + 1]; k++) {
        const arc = geometry.refs[k] < 0 ? ~geometry.refs[k] : geometry.refs[k]
        for (let v = geometry.arcs.starts[arc] + 1; v < geometry.arcs.starts[arc + 1] - 1; v++) {
          const [lon, lat] = [geometry.arcs.coords[2 * v], geometry.arcs.coords[2 * v + 1]]
          expect(Math.abs(100 * (lon - 10) + 50 * (lat - 50) - 10)).toBeLessThan(0.2)
        }
      }
  })

  for (const way of ['inverse-distance', 'thin-plate', 'kriging'] as const)
    it(`goes by ${way} as well`, () => {
      const made = after(points, [['interpolate', { field: 'n', way, out: 'areas', interval: 10 }]])
      expect(made.dataset.rowCount).toBeGreaterThan(3)
    })
})

describe('isolines', () => {
  const relief = demo.datasets.get('relief')!.dataset

  it('of a raster run at whole levels, areas between them have both ends', () => {
    const lines = after(relief, [['isolines', { interval: 250, out: 'lines' }]])
    for (const level of column(lines, 'level') as number[]) expect(level % 250).toBe(0)
    const areas = after(relief, [['isolines', { interval: 250, out: 'areas' }]])
    const [from, to] = [column(areas, 'from'), column(areas, 'to')] as number[][]
    from.forEach((low, i) => expect(to[i] - low).toBe(250))
  })

  it('say how many lines round single cells they leave out', () => {
    const [columns, rows] = [40, 40]
    const values = new Float32Array(columns * rows)
    values[20 * columns + 20] = 100
    values[11 * columns + 9] = -100
    const raster = {
      ...{ crs: '', columns, rows, bands: 1, values, fileSize: Uint32Array.of(columns, rows) },
      // Cells of twice the height that they are wide: the grid of square ones is coarser one way.
      transform: Float64Array.of(10, 0.01, 0, 60, 0, -0.01),
      edge: Float64Array.of(10, 60, 10.4, 60, 10.4, 59.6, 10, 59.6),
    }
    const made = after({ rowCount: 0, fields: [], geometry: { kind: 'none' }, raster }, [
      ['isolines', { interval: 10, out: 'lines' }],
    ])
    const levels = column(made, 'level') as number[]
    const [most, least] = [Math.max(...levels), Math.min(...levels)]
    const lost = (100 - most) / 10 + (100 + least) / 10
    expect(lost).toBeGreaterThan(0)
    expect(made.reports[0].remark).toMatch(new RegExp(`^${lost} lines? round single cells of the raster`))
    const flat = { ...raster, values: values.map((_, i) => i % columns) }
    const even = after({ rowCount: 0, fields: [], geometry: { kind: 'none' }, raster: flat }, [
      ['isolines', { interval: 10, out: 'lines' }],
    ])
    expect(even.reports[0].remark).toBeNull()
  })

  it('of a band that is not there are refused', () => {
    expect(after(relief, [['isolines', { band: 9 }]]).dataset).toBe(relief)
  })
})
