import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { square, tableOf, after, column } from './step-testing'

describe('count points', () => {
  it('counts as a plain loop over all areas does, every point at most once', () => {
    const areas = tableOf({ n: [1, 2, 3] }, [square(0, 0, 2), square(2, 0, 2), square(0, 2, 3)])
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.double({ min: -1, max: 6, noNaN: true }), fc.double({ min: -1, max: 6, noNaN: true })),
          { minLength: 1, maxLength: 40 },
        ),
        (places) => {
          const points = tableOf(
            { books: places.map((_, i) => i) },
            places.map((coordinates) => ({ type: 'Point', coordinates })),
          )
          const prepared = after(
            areas,
            [
              [
                'count-points',
                {
                  datasetId: 'points',
                  label: 'Readers',
                  figures: [{ field: 'books', op: 'sum', weight: null }],
                },
              ],
            ],
            { points },
          )
          const inside = places.filter(([x, y]) =>
            [
              [0, 0, 2],
              [2, 0, 2],
              [0, 2, 3],
            ].some(([a, b, s]) => x > a && y > b && x < a + s && y < b + s),
          ).length
          const counted = (column(prepared, 'readers') as number[]).reduce((a, b) => a + b, 0)
          expect(counted).toBeGreaterThanOrEqual(inside)
          expect(counted).toBeLessThanOrEqual(places.length)
          if (counted === places.length)
            expect(
              (column(prepared, 'books_sum') as (number | null)[]).reduce((a: number, b) => a + (b ?? 0), 0),
            ).toBe((places.length * (places.length - 1)) / 2)
        },
      ),
      { numRuns: 60 },
    )
  })
})
