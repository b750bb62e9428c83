import { describe, expect, it } from 'vitest'
import { arcNeighbours, type Areas } from '@/core/geo/geometry'
import { square, tableOf, after, column, problemOf, towns } from './step-testing'

describe('stack', () => {
  it('takes fields that were matched by hand, and keeps apart what was said to be', () => {
    const more = tableOf({ n: [2], inhabitants: [9], b: ['y'] }, [square(1, 0)])
    const prepared = after(
      tableOf({ n: [1], people: [8], b: ['x'] }, [square(0, 0)]),
      [['stack', { datasetId: 'more', fields: { people: 'inhabitants', b: '' } }]],
      { more },
    )
    expect(prepared.dataset.fields.map((f) => [f.key, column(prepared, f.key)])).toEqual([
      ['n', [1, 2]],
      ['people', [8, 9]],
      ['b', ['x', null]],
      ['b_2', [null, 'y']],
    ])
  })

  it('puts rows below rows, matching fields by name, and refuses another sort of shapes', () => {
    const prepared = after(
      tableOf({ n: [1], a: ['x'] }, [square(0, 0)]),
      [['stack', { datasetId: 'more' }]],
      { more: tableOf({ n: [2], b: ['y'] }, [square(1, 0)]) },
    )
    expect([column(prepared, 'n'), column(prepared, 'a'), column(prepared, 'b')]).toEqual([
      [1, 2],
      ['x', null],
      [null, 'y'],
    ])
    expect(
      [...arcNeighbours(prepared.dataset.geometry as Areas)].filter((s, i) => i % 2 && s >= 0),
    ).toHaveLength(1)
    expect(
      problemOf(
        after(towns, [['stack', { datasetId: 'more' }]], { more: tableOf({ n: [2] }, [square(1, 0)]) }),
      ),
    ).toContain('Only datasets of one sort')
  })
})
