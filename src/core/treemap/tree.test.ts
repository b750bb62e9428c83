import { describe, expect, it } from 'vitest'
import { numberColumn, textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { allParts, leavesOf, namesOfLevel, partAt, treeOf, type Level } from './tree'

const dataset: Dataset = {
  rowCount: 7,
  geometry: { kind: 'none' },
  fields: [
    { key: 'group', column: textColumn(['b', 'a', 'b', 'a', null, 'c', 'a']) },
    { key: 'thing', column: textColumn(['b1', 'a1', 'b2', 'a2', 'x', 'c1', 'a1']) },
    { key: 'loans', column: numberColumn([1, 5, 2, 7, 4, null, 3]) },
  ],
}
const named = (levels: Level[]) => {
  const { whole, left } = treeOf(dataset, levels, 'loans')
  return {
    parts: whole.map(({ of, value, parts }) => [of.name, value, parts.map((part) => part.of.name)]),
    left,
  }
}

describe('rows as parts of parts', () => {
  it('are summed by the values of each level, in the order in which they stand', () => {
    const levels: Level[] = [
      { field: 'group', order: 'given', names: [] },
      { field: 'thing', order: 'given', names: [] },
    ]
    expect(named(levels)).toEqual({
      parts: [
        ['b', 3, ['b1', 'b2']],
        ['a', 15, ['a1', 'a2']],
        ['not said', 4, ['x']],
      ],
      left: 1,
    })
  })

  it('or the largest first, each level by itself', () => {
    const levels: Level[] = [
      { field: 'group', order: 'size', names: [] },
      { field: 'thing', order: 'size', names: [] },
    ]
    expect(named(levels).parts).toEqual([
      ['a', 15, ['a1', 'a2']],
      ['not said', 4, ['x']],
      ['b', 3, ['b2', 'b1']],
    ])
    const { whole } = treeOf(dataset, levels, 'loans')
    expect(allParts(whole).map(({ of }) => of.path.join('/'))).toEqual([
      'a',
      'a/a1',
      'a/a2',
      'not said',
      'not said/x',
      'b',
      'b/b2',
      'b/b1',
    ])
    expect(partAt(whole, ['a', 'a1'])?.of.rows).toEqual([1, 6])
    expect(partAt(whole, ['a', 'b1'])).toBe(undefined)
    expect(leavesOf(whole).map(({ value }) => value)).toEqual([8, 7, 4, 2, 1])
  })

  it('or by hand, those that nobody named at the end as they stand', () => {
    const levels: Level[] = [
      { field: 'group', order: 'hand', names: ['not said', 'gone', 'a'] },
      { field: 'thing', order: 'hand', names: ['a2', 'b2'] },
    ]
    expect(named(levels).parts).toEqual([
      ['not said', 4, ['x']],
      ['a', 15, ['a2', 'a1']],
      ['b', 3, ['b2', 'b1']],
    ])
    const { whole } = treeOf(dataset, levels, 'loans')
    expect(namesOfLevel(whole, 0)).toEqual(['not said', 'a', 'b'])
    expect(namesOfLevel(whole, 1)).toEqual(['x', 'a2', 'a1', 'b2', 'b1'])
  })

  it('are none where there are no values', () => {
    expect(treeOf(dataset, [{ field: 'group', order: 'given', names: [] }], 'gone')).toEqual({
      whole: [],
      left: 7,
    })
  })
})
