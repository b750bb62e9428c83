import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { aggregateColumn, aggregateOps, groupRows, proposeOp } from './aggregate'
import { numberColumn, numbersOf, textColumn } from './column'
import type { Dataset } from './dataset'

describe('figures of groups', () => {
  it('sums of groups add up to the sum, counts to the count, and means lie between the extremes', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.constantFrom('a', 'b', 'c', null),
            fc.option(fc.integer({ min: -50, max: 50 }), { nil: null }),
          ),
          { minLength: 1, maxLength: 40 },
        ),
        (rows) => {
          const dataset: Dataset = {
            rowCount: rows.length,
            geometry: { kind: 'none' },
            fields: [
              { key: 'g', column: textColumn(rows.map(([g]) => g)) },
              { key: 'n', column: numberColumn(rows.map(([, n]) => n)) },
            ],
          }
          const { groups, first } = groupRows(dataset, ['g'])
          const of = (op: (typeof aggregateOps)[number]) =>
            numbersOf(aggregateColumn(dataset, groups, first.length, { field: 'n', op, weight: null }))
          const there = rows.filter(([g, n]) => g !== null && n !== null).map(([, n]) => n as number)
          const total = (values: Float64Array) => values.reduce((a, b) => a + (Number.isNaN(b) ? 0 : b), 0)
          expect(total(of('sum'))).toBe(there.reduce((a, b) => a + b, 0))
          expect(total(of('count'))).toBe(there.length)
          const [low, mean, high] = [of('minimum'), of('mean'), of('maximum')]
          mean.forEach(
            (m, i) => !Number.isNaN(m) && expect(m >= low[i] - 1e-9 && m <= high[i] + 1e-9).toBe(true),
          )
          expect(new Set([...groups].filter((g) => g >= 0)).size).toBe(first.length)
        },
      ),
    )
  })

  it('the most frequent value wins, the earlier one of two equals', () => {
    const dataset: Dataset = {
      rowCount: 5,
      geometry: { kind: 'none' },
      fields: [{ key: 'w', column: textColumn(['x', 'y', 'y', 'x', null]) }],
    }
    const column = aggregateColumn(dataset, Int32Array.of(0, 0, 0, 0, 1), 2, {
      field: 'w',
      op: 'most frequent',
      weight: null,
    })
    expect(column).toEqual(textColumn(['x', null]))
  })

  it('are proposed by what a field measures', () => {
    const meta = (role: 'total' | 'rate' | 'category' | 'date') => ({ label: '', unit: '', role })
    expect([
      proposeOp(meta('total'), numberColumn([1])),
      proposeOp(meta('rate'), numberColumn([1])),
      proposeOp(meta('category'), textColumn(['a'])),
      proposeOp(meta('date'), numberColumn([2025])),
    ]).toEqual(['sum', 'mean', 'most frequent', 'first'])
  })
})
