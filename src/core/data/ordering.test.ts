import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { numberColumn, textColumn } from './column'
import type { Dataset } from './dataset'
import { decimalsOf, findRows, sortRows } from './ordering'
import { movedColumn, plainLayout, shownColumns } from './table-layout'

const libraries: Dataset = {
  rowCount: 5,
  geometry: { kind: 'none' },
  fields: [
    { key: 'name', column: textColumn(['Quay 10', 'Quay 2', null, 'Mill', 'Quay 2']) },
    { key: 'visits', column: numberColumn([30, 20, 20, null, 10]) },
  ],
}

describe('the order of rows', () => {
  it('follows several fields; missing values come last either way', () => {
    expect([
      ...sortRows(libraries, [
        { key: 'visits', down: false },
        { key: 'name', down: false },
      ]),
    ]).toEqual([4, 1, 2, 0, 3])
    expect([...sortRows(libraries, [{ key: 'visits', down: true }])]).toEqual([0, 1, 2, 4, 3])
    expect([
      ...sortRows(libraries, [
        { key: 'name', down: false },
        { key: 'visits', down: false },
      ]),
    ]).toEqual([3, 4, 1, 0, 2])
    expect([...sortRows(libraries, [{ key: 'gone', down: false }])]).toEqual([0, 1, 2, 3, 4])
  })

  it('holds every row once, and puts no larger value before a smaller one', () => {
    fc.assert(
      fc.property(fc.array(fc.option(fc.integer({ min: -9, max: 9 }))), (values) => {
        const dataset: Dataset = {
          rowCount: values.length,
          geometry: { kind: 'none' },
          fields: [{ key: 'v', column: numberColumn(values) }],
        }
        const rows = sortRows(dataset, [{ key: 'v', down: false }])
        expect([...rows].sort((a, b) => a - b)).toEqual([...values.keys()])
        const there = [...rows].map((row) => values[row]).filter((v) => v !== null)
        expect(there).toEqual([...there].sort((a, b) => a - b))
        expect([...rows].slice(there.length).every((row) => values[row] === null)).toBe(true)
      }),
    )
  })

  it('finds words and numbers in any field', () => {
    const all = sortRows(libraries, [])
    expect([...findRows(all, libraries, 'quay 2')]).toEqual([1, 4])
    expect([...findRows(all, libraries, '30')]).toEqual([0])
    expect([...findRows(all, libraries, '  ')]).toEqual([0, 1, 2, 3, 4])
  })

  it('shows as many decimals as the numbers have, up to three', () => {
    expect(
      [[1, 2], [1.5, 2], [0.1 + 0.2], [1 / 3], [1e9 + 0.25, null]].map((v) => decimalsOf(numberColumn(v))),
    ).toEqual([0, 1, 1, 3, 2])
  })
})

describe('the layout of columns', () => {
  it('keeps hidden ones away and pinned ones first; what it does not name follows', () => {
    const layout = { ...plainLayout(), order: ['d', 'gone', 'b'], hidden: ['c'], pinned: ['a'] }
    expect(shownColumns(layout, ['a', 'b', 'c', 'd', 'e'])).toEqual({ pinned: ['a'], rest: ['d', 'b', 'e'] })
  })

  it('moves a column to the place of another', () => {
    expect(movedColumn(plainLayout(), ['a', 'b', 'c', 'd'], 'd', 'b')).toEqual(['a', 'd', 'b', 'c'])
    expect(movedColumn(plainLayout(), ['a', 'b', 'c', 'd'], 'a', 'c')).toEqual(['b', 'c', 'a', 'd'])
    expect(movedColumn(plainLayout(), ['a', 'b'], 'a', 'gone')).toEqual(['a', 'b'])
  })
})
