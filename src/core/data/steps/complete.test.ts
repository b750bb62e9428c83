import { describe, expect, it } from 'vitest'
import { after, column, problemOf, square, tableOf } from './step-testing'

// Four squares in a row and one apart: 1 | – | 5 | –      –
const row = tableOf(
  { rate: [1, null, 5, null, null], before: [9, 8, null, 7, null], name: ['a', null, 'c', 'd', null] },
  [square(0, 0), square(1, 0), square(2, 0), square(3, 0), square(9, 0)],
)

describe('complete', () => {
  it('fills what is missing with the mean of neighbours that came with a value, and marks it', () => {
    const prepared = after(row, [['complete', { field: 'rate', by: 'neighbours' }]])
    expect(column(prepared, 'rate')).toEqual([1, 3, 5, 5, null])
    expect(column(prepared, 'rate_where_from')).toEqual([
      'as it came',
      'mean of its neighbours',
      'as it came',
      'mean of its neighbours',
      null,
    ])
    expect(prepared.reports[0]).toMatchObject({
      note: '2 of 3 missing values were filled in.',
      remark: '1 is still missing.',
    })
  })

  it('does not pass on values that were themselves filled in', () => {
    const gap = tableOf({ v: [4, null, null] }, [square(0, 0), square(1, 0), square(2, 0)])
    expect(column(after(gap, [['complete', { field: 'v', by: 'neighbours' }]]), 'v')).toEqual([4, 4, null])
  })

  it('takes values from another field, words as well', () => {
    const numbers = after(row, [['complete', { field: 'rate', by: 'field', other: 'before' }]])
    expect(column(numbers, 'rate')).toEqual([1, 8, 5, 7, null])
    expect(column(numbers, 'rate_where_from')?.[1]).toBe('from Before')
    const words = after(row, [['complete', { field: 'name', by: 'field', other: 'before' }]])
    expect(column(words, 'name')).toEqual(['a', '8', 'c', 'd', null])
  })

  it('says what it cannot do, and that means of totals mislead', () => {
    const bad = (settings: object, of = row) => problemOf(after(of, [['complete', settings]]))
    expect(bad({ field: 'name', by: 'neighbours' })).toContain('Words have no mean')
    expect(bad({ field: 'rate', by: 'field', other: 'name' })).toContain('holds words')
    expect(bad({ field: 'gone', by: 'field' })).toContain('“gone” is gone')
    expect(bad({ by: 'neighbours' }, tableOf({ v: [1, null] }))).toContain('Only areas have neighbours')
    const people = tableOf({ population: [10, null] }, [square(0, 0), square(1, 0)])
    const { reports } = after(people, [['complete', { field: 'population', by: 'neighbours' }]])
    expect(reports[0].remark).toContain('suits rates and shares')
    const whole = after(row, [['complete', { field: 'before', by: 'field', other: 'rate' }]])
    expect(whole.reports[0].note).toBe('1 of 2 missing values were filled in.')
  })
})
