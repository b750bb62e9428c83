import { describe, expect, it } from 'vitest'
import { textColumn } from '../column'
import { telling } from './correct'
import { square, tableOf, after, column } from './step-testing'

describe('an area drawn by hand', () => {
  it('keeps the points and areas that lie in it; nothing is drawn yet: all', () => {
    const ring = [
      [-0.5, -0.5],
      [1.5, -0.5],
      [1.5, 1.5],
      [-0.5, 1.5],
    ]
    const points = tableOf(
      { n: [1, 2, 3] },
      [
        [0, 0],
        [5, 5],
        [1, 1],
      ].map((coordinates) => ({ type: 'Point', coordinates })),
    )
    expect(column(after(points, [['filter', { by: 'drawn', ring }]]), 'n')).toEqual([1, 3])
    expect(column(after(points, [['filter', { by: 'drawn' }]]), 'n')).toEqual([1, 2, 3])
    expect(
      column(
        after(tableOf({ n: [1, 2] }, [square(0, 0), square(4, 4)]), [['filter', { by: 'drawn', ring }]]),
        'n',
      ),
    ).toEqual([1])
  })
})

describe('corrections by hand', () => {
  const libraries = tableOf({ code: ['A', 'B', 'C'], visits: [1, 2, 3], kind: ['small', null, 'large'] })
  const edit = (row: string, field: string, value: string | null) => ({ row, field, value })

  it('set single cells by the code of their row, and leave everything else as it was', () => {
    const prepared = after(libraries, [
      [
        'correct',
        {
          key: 'code',
          edits: [edit('B', 'visits', '7.5'), edit('C', 'visits', null), edit('B', 'kind', 'branch')],
        },
      ],
    ])
    expect([column(prepared, 'visits'), column(prepared, 'kind')]).toEqual([
      [1, 7.5, null],
      ['small', 'branch', 'large'],
    ])
    expect(column(after(libraries, []), 'visits')).toEqual([1, 2, 3])
    expect(prepared.dataset.fields[0]).toBe(libraries.fields[0])
  })

  it('find their rows after the source was sorted otherwise, and say which they no longer find', () => {
    const newer = tableOf({ code: ['C', 'A'], visits: [30, 10] })
    const prepared = after(newer, [
      [
        'correct',
        { key: 'code', edits: [edit('A', 'visits', '11'), edit('B', 'visits', '7'), edit('A', 'gone', 'x')] },
      ],
    ])
    expect(column(prepared, 'visits')).toEqual([30, 11])
    expect(prepared.reports[0]).toMatchObject({
      problem: null,
      remark: '2 of 3 no longer fit: visits of B, gone of A',
    })
  })

  it('go by row number where no field tells the rows apart; words turn numbers into text', () => {
    expect(
      after(tableOf({ n: [1, 1] }), [['correct', { edits: [edit('2', 'n', 'many')] }]]).dataset.fields[0]
        .column,
    ).toEqual(textColumn(['1', 'many']))
    expect(
      telling(libraries, (key) => ({ label: key, unit: '', role: key === 'code' ? 'code' : 'total' })),
    ).toBe('code')
    expect(telling(tableOf({ code: ['A', 'A'] }), () => ({ label: '', unit: '', role: 'code' }))).toBe('')
  })
})
