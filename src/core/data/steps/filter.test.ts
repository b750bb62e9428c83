import { describe, expect, it } from 'vitest'
import { featureAt } from '@/core/geo/feature-at'
import { square, tableOf, after, column, problemOf, towns } from './step-testing'

describe('filter', () => {
  const names = (settings: object) => column(after(towns, [['filter', settings]]), 'name')
  const is = (field: string, test: string, value = '', upTo = '') => ({ field, test, value, upTo })
  it('keeps rows by all, any or none of its conditions', () => {
    expect(names({ conditions: [is('kind', 'is', 'Town')] })).toEqual(['Marby', 'Perran'])
    expect(names({ conditions: [is('kind', 'is', 'town'), is('people', 'is at least', '10')] })).toEqual([
      'Marby',
    ])
    expect(
      names({
        match: 'any',
        conditions: [is('people', 'lies between', '30', '50'), is('name', 'is missing')],
      }),
    ).toEqual(['Ellashaw', null])
    expect(names({ match: 'none', conditions: [is('kind', 'is one of', 'town, city')] })).toEqual([null])
    expect(names({ conditions: [is('name', 'contains', 'rr')] })).toEqual(['Perran'])
    expect(names({ conditions: [] })).toHaveLength(4)
  })

  it('keeps rows by a formula, and by the areas they lie in', () => {
    expect(names({ by: 'formula', formula: 'loans / people >= 1' })).toEqual(['Marby'])
    const points = tableOf(
      { n: [1, 2, 3] },
      [
        [0.5, 0.5],
        [5, 5],
        [2.5, 0.5],
      ].map((coordinates) => ({ type: 'Point', coordinates })),
    )
    expect(
      column(
        after(points, [['filter', { by: 'areas', datasetId: 'areas' }]], {
          areas: tableOf({ a: [1, 2] }, [square(0, 0), square(2, 0)]),
        }),
        'n',
      ),
    ).toEqual([1, 3])
  })

  it('takes the shapes of the rows along', () => {
    const prepared = after(tableOf({ n: [1, 2, 3] }, [square(0, 0), square(1, 0), square(5, 5)]), [
      ['filter', { conditions: [is('n', 'is', '3')] }],
    ])
    expect(featureAt(prepared.dataset.geometry, 5.5, 5.5)).toBe(0)
    expect(featureAt(prepared.dataset.geometry, 0.5, 0.5)).toBe(-1)
  })

  it('says what keeps it from being carried out and leaves the rows as they were', () => {
    const lost = after(towns, [['filter', { conditions: [is('gone', 'is', '1')] }]])
    expect([problemOf(lost), lost.dataset.rowCount]).toEqual([
      'The field “gone” is gone. Choose another one.',
      4,
    ])
    expect(problemOf(after(towns, [['filter', { conditions: [is('people', 'is', 'many')] }]]))).toBe(
      '‘many’ is not a number.',
    )
    expect(problemOf(after(towns, [['filter', { by: 'formula', formula: 'people >' }]]))).toContain(
      'Unexpected end of expression',
    )
  })
})
