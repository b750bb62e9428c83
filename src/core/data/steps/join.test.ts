import { describe, expect, it } from 'vitest'
import { tableOf, after, column, towns } from './step-testing'

describe('join by several keys and with figures', () => {
  const years = tableOf({ town: ['Marby', 'Marby', 'Perran'], year: [2024, 2025, 2025], lent: [1, 2, 4] })
  it('needs every key to be equal', () => {
    const own = tableOf({ name: ['Marby', 'Perran'], year: [2025, 2024] })
    const prepared = after(
      own,
      [
        [
          'join',
          {
            datasetId: 'years',
            keys: [
              { key: 'name', otherKey: 'town' },
              { key: 'year', otherKey: 'year' },
            ],
          },
        ],
      ],
      { years },
    )
    expect(column(prepared, 'lent')).toEqual([2, null])
  })

  it('sums many rows into one', () => {
    const prepared = after(
      towns,
      [
        [
          'join',
          {
            datasetId: 'years',
            keys: [{ key: 'name', otherKey: 'town' }],
            several: 'figures',
            figures: [
              { field: 'lent', op: 'sum', weight: null },
              { field: 'year', op: 'count', weight: null },
            ],
          },
        ],
      ],
      { years },
    )
    expect(column(prepared, 'lent')).toEqual([3, null, 4, null])
    expect(column(prepared, 'year_count')).toEqual([2, 0, 1, 0])
  })
})
