import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { borderFaults } from './gaps'
import type { Areas } from './geometry'
import { geometryFromShapes } from './shapes'

const polygon = (...ring: [number, number][]): GeoJSON.Geometry => ({
  type: 'Polygon',
  coordinates: [[...ring, ring[0]]],
})
const faults = (...shapes: GeoJSON.Geometry[]) => borderFaults(geometryFromShapes(shapes) as Areas)

describe('borders that should be shared', () => {
  it('are without fault in the districts, lakes, islands and all', () => {
    const { folio, contents } = openDemo()
    const entry = folio.datasets.find(({ id }) => id === 'districts')
    const geometry = contents.get(entry?.source.contentId ?? '')?.geometry
    expect(borderFaults(geometry as Areas)).toEqual([])
  })

  it('leave a thin gap where one neighbour bends away', () => {
    const gaps = faults(
      polygon([0, 0], [1, 0], [1, 0.4], [1, 0.5], [1, 0.6], [1, 1], [0, 1]),
      polygon([1, 0], [2, 0], [2, 1], [1, 1], [1, 0.6], [1.01, 0.5], [1, 0.4]),
    )
    expect(gaps).toMatchObject([{ row: 0, what: 'gap' }])
    expect(gaps[0].at[0]).toBeCloseTo(1, 1)
    expect(gaps[0].at[1]).toBeCloseTo(0.5, 0)
  })

  it('overlap where one reaches over the other', () => {
    expect(
      faults(polygon([0, 0], [1, 0], [1.02, 0.5], [1, 1], [0, 1]), polygon([1, 0], [2, 0], [2, 1], [1, 1])),
    ).toEqual([{ row: 0, what: 'overlaps', at: [1.02, 0.5] }])
  })

  it('do not count a lake, a large hole or areas that only touch', () => {
    const lake: GeoJSON.Geometry = {
      type: 'Polygon',
      coordinates: [
        [
          [0, 0],
          [2, 0],
          [2, 2],
          [0, 2],
          [0, 0],
        ],
        [
          [0.9, 0.9],
          [0.9, 1],
          [1, 1],
          [1, 0.9],
          [0.9, 0.9],
        ],
      ],
    }
    expect(faults(lake, polygon([2, 0], [3, 0], [3, 2], [2, 2]))).toEqual([])
    expect(faults(polygon([0, 0], [1, 0], [1, 1], [0, 1]), polygon([1, 1], [2, 1], [2, 2], [1, 2]))).toEqual(
      [],
    )
  })
})
