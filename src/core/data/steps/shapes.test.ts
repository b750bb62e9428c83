import { describe, expect, it } from 'vitest'
import { arcNeighbours, type Areas } from '@/core/geo/geometry'
import { featureAt } from '@/core/geo/feature-at'
import { groundAreas } from '@/core/geo/measure'
import { geometryFromShapes } from '@/core/geo/shapes'
import { workingProjection } from '@/core/geo/reshape'
import { type Dataset } from '../dataset'
import { demo, square, tableOf, after, column, problemOf } from './step-testing'

describe('shapes', () => {
  const land = tableOf({ name: ['West', 'East'] }, [square(-30, 48, 2), square(-28, 48, 2)])

  it('grids have cells of one size on the ground, sharing their edges', () => {
    for (const shape of ['hexagons', 'squares', 'triangles']) {
      const prepared = after(land, [['grid', { shape, sizeKm: 40, keep: 'all' }]])
      const sizes = groundAreas(prepared.dataset.geometry)
      const expected = {
        hexagons: (Math.sqrt(3) / 2) * 1600,
        squares: 1600,
        triangles: (Math.sqrt(3) / 4) * 1600,
      }[shape] as number
      for (const size of sizes) expect(size / 1e6 / expected).toBeCloseTo(1, 3)
      expect(
        [...arcNeighbours(prepared.dataset.geometry as Areas)].filter((s, i) => i % 2 && s >= 0).length,
      ).toBeGreaterThan(prepared.dataset.rowCount / 2)
    }
  })

  it('grids cut to the areas cover just them; too small cells are refused', () => {
    const prepared = after(land, [['grid', { shape: 'squares', sizeKm: 60, keep: 'clipped' }]])
    const total = (areas: Float64Array) => areas.reduce((a, b) => a + b, 0)
    expect(total(groundAreas(prepared.dataset.geometry)) / total(groundAreas(land.geometry))).toBeCloseTo(
      1,
      3,
    )
    expect(problemOf(after(land, [['grid', { sizeKm: 0.05 }]]))).toContain('choose larger ones')
  })

  it('points of areas lie inside them, even in a bent one', () => {
    const bent: GeoJSON.Geometry = {
      type: 'Polygon',
      coordinates: [
        [
          [0, 0],
          [10, 0],
          [10, 10],
          [8, 10],
          [8, 2],
          [2, 2],
          [2, 10],
          [0, 10],
          [0, 0],
        ],
      ],
    }
    const areas = tableOf({ n: [1, 2] }, [bent, square(20, 0)])
    const { geometry } = after(areas, [['areas-to-points', {}]]).dataset
    if (geometry.kind !== 'points') throw new Error('These are points.')
    for (const f of [0, 1])
      expect(featureAt(areas.geometry, geometry.coords[2 * f], geometry.coords[2 * f + 1])).toBe(f)
  })

  it('borders are lines with the names of both sides', () => {
    const prepared = after(land, [['areas-to-borders', { coasts: false }]])
    expect([column(prepared, 'left'), column(prepared, 'right')].flat().sort()).toEqual(['East', 'West'])
    expect(after(land, [['areas-to-borders', { coasts: true }]]).dataset.rowCount).toBe(3)
  })

  it('simplified districts still share their borders', () => {
    const districts = demo.contents.get(
      demo.folio.datasets.find((d) => d.id === 'districts')?.source.contentId ?? '',
    ) as Dataset
    const prepared = after(districts, [['simplify', { percent: 10 }]])
    const [was, is] = [districts.geometry as Areas, prepared.dataset.geometry as Areas]
    expect(is.arcs.coords.length).toBeLessThan(was.arcs.coords.length * 0.2)
    expect(is.refs).toEqual(was.refs)
    const total = (areas: Areas) => groundAreas(areas).reduce((a, b) => a + b, 0)
    expect(total(is) / total(was)).toBeCloseTo(1, 2)
  })

  it('clipping keeps what lies inside', () => {
    const prepared = after(land, [['clip', { datasetId: 'mask' }]], {
      mask: tableOf({ m: [1] }, [square(-29, 48, 1.5)]),
    })
    expect(prepared.dataset.rowCount).toBe(2)
    const projection = workingProjection([land.geometry])
    expect(projection.spec.id).toBeTruthy()
    expect(
      groundAreas(prepared.dataset.geometry).reduce((a, b) => a + b, 0) /
        groundAreas(geometryFromShapes([square(-29, 48, 1.5)]))[0],
    ).toBeCloseTo(1, 4)
  })

  it('a buffer of a point is a circle of its size on the ground', () => {
    const prepared = after(tableOf({ n: [1] }, [{ type: 'Point', coordinates: [-28, 49] }]), [
      ['buffer', { km: 25 }],
    ])
    const area = groundAreas(prepared.dataset.geometry)[0] / 1e6
    expect(area / (Math.PI * 625)).toBeGreaterThan(0.985)
    expect(area / (Math.PI * 625)).toBeLessThan(1.005)
  })

  it('parts are split off, small ones dropped', () => {
    const two: GeoJSON.Geometry = {
      type: 'MultiPolygon',
      coordinates: [
        [
          [
            [0, 0],
            [1, 0],
            [1, 1],
            [0, 1],
            [0, 0],
          ],
        ],
        [
          [
            [5, 5],
            [5.1, 5],
            [5.1, 5.1],
            [5, 5.1],
            [5, 5],
          ],
        ],
      ],
    }
    expect(column(after(tableOf({ n: [7] }, [two]), [['split-off', { leastKm2: 0 }]]), 'n')).toEqual([7, 7])
    expect(after(tableOf({ n: [7] }, [two]), [['split-off', { leastKm2: 1000 }]]).dataset.rowCount).toBe(1)
  })
})
