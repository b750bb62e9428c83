import { describe, expect, it } from 'vitest'
import { numberColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { glow } from '.'
import { coloursOf, lightOf } from './light'

describe('the light of points', () => {
  it('is strongest at the point, fades to nothing at the radius, and adds up', () => {
    const one = lightOf([{ x: 10.5, y: 10.5, weight: 1 }], 21, 21, 5)
    expect(one[10 * 21 + 10]).toBeCloseTo(1, 6)
    expect(one[10 * 21 + 15]).toBe(0)
    expect(one[10 * 21 + 13]).toBeCloseTo((1 - 9 / 25) ** 2, 6)
    expect(one[10 * 21 + 7]).toBeCloseTo(one[13 * 21 + 10], 6)
    const two = lightOf(
      [
        { x: 10.5, y: 10.5, weight: 1 },
        { x: 10.5, y: 10.5, weight: 2 },
      ],
      21,
      21,
      5,
    )
    expect(two[10 * 21 + 10]).toBeCloseTo(3, 6)
  })

  it('shows the chosen strength for one point, more for several, and never more than there is', () => {
    const rgba = coloursOf(Float32Array.from([0, 1, 2, 1000]), 0.3, ['#000000', '#808080', '#ffffff'])
    expect(rgba[3]).toBe(0)
    expect(rgba[4 + 3] / 255).toBeCloseTo(0.3 * 1.25, 2)
    expect(rgba[8 + 3]).toBeGreaterThan(rgba[4 + 3])
    expect([...rgba.slice(12)]).toEqual([255, 255, 255, 255])
  })

  it('is in proportion to a field where one is chosen', () => {
    const dataset: Dataset = {
      rowCount: 3,
      geometry: {
        kind: 'points',
        coords: new Float64Array(6),
        featureStarts: Uint32Array.from([0, 1, 2, 3]),
      },
      fields: [{ key: 'books', column: numberColumn([1, 3, null]) }],
    }
    const data = {
      dataset,
      name: 'Readers',
      fieldMeta: () => ({ label: 'Books', unit: '', role: 'total' as const }),
      datasetOf: () => null,
      datasetIds: [],
    }
    expect([...glow.plan({ ...glow.initial(data), field: 'books' }, data).weights]).toEqual([0.5, 1.5, 0])
    expect([...glow.plan(glow.initial(data), data).weights]).toEqual([1, 1, 1])
  })
})
