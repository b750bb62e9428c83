import fc from 'fast-check'
import geographiclib from 'geographiclib-geodesic'
import { describe, expect, it } from 'vitest'
import { edgeIndex } from '@/core/geo/edge-index'
import { nearestFeatures } from '@/core/geo/nearest'
import { geometryFromShapes } from '@/core/geo/shapes'
import { after, column, problemOf, square, tableOf } from './step-testing'

const { WGS84 } = geographiclib.Geodesic
const metresBetween = (a: number[], b: number[]): number => WGS84.Inverse(a[1], a[0], b[1], b[0]).s12 ?? NaN
const point = (coordinates: number[]): GeoJSON.Geometry => ({ type: 'Point', coordinates })
const line = (...coordinates: number[][]): GeoJSON.Geometry => ({ type: 'LineString', coordinates })
const points = (places: number[][]) => geometryFromShapes(places.map(point))
const place = fc.tuple(
  fc.double({ min: -180, max: 180, noNaN: true }),
  fc.double({ min: -90, max: 90, noNaN: true }),
)

describe('the nearest feature', () => {
  it('of points is that of a plain search through all of them, anywhere on the globe', () => {
    const many = fc.array(place, { minLength: 1, maxLength: 60 })
    fc.assert(
      fc.property(many, many, (from, to) => {
        const { metres } = nearestFeatures(points(from), points(to))
        from.forEach((a, i) => {
          const least = Math.min(...to.map((b) => metresBetween(a, b)))
          expect(Math.abs(metres[i] - least)).toBeLessThan(1e-3)
        })
      }),
      { numRuns: 60 },
    )
  })

  it('of lines is as far as the nearest of many places along them', () => {
    const ends = fc.tuple(place, fc.double({ min: -3, max: 3 }), fc.double({ min: -3, max: 3 }))
    fc.assert(
      fc.property(place, fc.array(ends, { minLength: 1, maxLength: 8 }), (from, paths) => {
        const real = paths.filter(([[, lat], dx, dy]) => Math.abs(lat + dy) < 89 && !Number.isNaN(dx + dy))
        fc.pre(real.length > 0)
        const along = real.map(([[lon, lat], dx, dy]) => [
          [lon, lat],
          [lon + dx, lat + dy],
        ])
        const found = edgeIndex(geometryFromShapes(along.map((path) => line(...path)))).nearest(...from)
        const least = Math.min(
          ...along.flatMap(([a, b]) =>
            Array.from({ length: 1001 }, (_, k) =>
              metresBetween(from, [a[0] + ((b[0] - a[0]) * k) / 1000, a[1] + ((b[1] - a[1]) * k) / 1000]),
            ),
          ),
        )
        const metres = found?.metres ?? NaN
        expect(metres).toBeLessThanOrEqual(least + 1e-3)
        // Between two of the places there are some 400 m, and the nearest one lies little farther off.
        expect(metres).toBeGreaterThan(least - 420)
      }),
      { numRuns: 60 },
    )
  })

  it('is 0 away where one lies in the other, holds or touches or crosses it', () => {
    const areas = geometryFromShapes([square(0, 0, 4), square(10, 0, 1), square(12, 0, 1)])
    const inside = geometryFromShapes([square(1, 1, 1), square(0.5, 0.5, 4), square(12.5, 0.2, 0.1)])
    expect([...nearestFeatures(inside, areas).metres]).toEqual([0, 0, 0])
    const [wide, rivers] = [line([9.5, 0.5], [11.5, 0.5]), line([1, 1], [2, 2])]
    const back = nearestFeatures(areas, geometryFromShapes([rivers, wide]))
    expect([...back.metres.slice(0, 2)]).toEqual([0, 0])
    expect([...back.features]).toEqual([0, 1, 1])
    expect(back.metres[2]).toBeCloseTo(metresBetween([12, 0.5], [11.5, 0.5]), 0)
    // Only edges cross: no corner of either lies in the other.
    const cross = geometryFromShapes([line([2, -1], [2, 5])])
    expect([...nearestFeatures(areas, cross).metres.slice(0, 1)]).toEqual([0])
    const neighbour = geometryFromShapes([square(4, 0, 1)])
    expect(nearestFeatures(areas, neighbour).metres[0]).toBe(0)
  })

  it('is found across the date line and the pole', () => {
    const from = points([
      [179.9, 10],
      [0, 89.5],
    ])
    const to = points([
      [-179.9, 10],
      [180, 89.5],
      [170, 10],
    ])
    const { features, metres } = nearestFeatures(from, to)
    expect([...features]).toEqual([0, 1])
    expect(metres[0]).toBeCloseTo(metresBetween([179.9, 10], [-179.9, 10]), 6)
    expect(metres[1]).toBeCloseTo(metresBetween([0, 89.5], [180, 89.5]), 6)
  })
})

describe('the step', () => {
  const land = tableOf({ name: ['West', 'East'] }, [square(0, 0, 2), square(6, 0, 2)])
  const ports = tableOf({ port: ['Ell', 'Marr', null] }, [point([3, 1]), point([6.5, 1]), null])

  it('gives kilometres and the name, from a point inside or from the border', () => {
    const others = { ports }
    const settings = { datasetId: 'ports', name: 'port' }
    const inside = after(land, [['nearest', { ...settings, measure: 'inside' }]], others)
    expect(column(inside, 'nearest')).toEqual(['Ell', 'Marr'])
    expect(column(inside, 'distance_km')?.[0]).toBeCloseTo(metresBetween([1, 1], [3, 1]) / 1000, 0)
    expect(inside.fieldMeta('distance_km').unit).toBe('km')
    const border = after(land, [['nearest', { ...settings, measure: 'border' }]], others)
    expect(column(border, 'distance_km')?.[0]).toBeCloseTo(metresBetween([2, 1], [3, 1]) / 1000, 2)
    expect(column(border, 'distance_km')?.[1]).toBe(0)
  })

  it('says how many rows have no distance, and what it cannot do', () => {
    const far = after(ports, [['nearest', { datasetId: 'land', name: 'name' }]], { land })
    expect(column(far, 'nearest')).toEqual(['West', 'East', null])
    expect(far.reports[0].remark).toContain('1 row has no distance')
    const none = after(land, [['nearest', { datasetId: 'plain' }]], { plain: tableOf({ a: [1] }) })
    expect(problemOf(none)).toContain('must have shapes')
  })
})
