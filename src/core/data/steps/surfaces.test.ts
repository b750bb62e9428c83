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

  it('of a band that is not there are refused', () => {
    expect(after(relief, [['isolines', { band: 9 }]]).dataset).toBe(relief)
  })
})
