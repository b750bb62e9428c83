import fc from 'fast-check'
import type { Position } from 'geojson'
import { describe, expect, it } from 'vitest'
import { edgesCross } from '@/core/geo/edges-cross'
import { selfCrossings } from './self-crossings'

/** Every pair of edges that are no neighbours, looked at. */
function byAllPairs(ring: Position[]): number {
  const path = Float64Array.from(ring.flatMap(([x, y]) => [x, y]))
  const n = ring.length - 1
  let count = 0
  for (let i = 0; i < n; i++)
    for (let j = i + 2; j < n; j++) if (!(i === 0 && j === n - 1) && edgesCross(path, i, j)) count++
  return count
}

const closed = (places: Position[]): Position[] => [...places, places[0]]

describe('crossings of a ring with itself', () => {
  it('are as many as there are among all pairs of edges, in walks and in knots', () => {
    const step = fc.tuple(
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: -1, max: 1, noNaN: true }),
    )
    fc.assert(
      fc.property(
        fc.array(step, { minLength: 4, maxLength: 160 }),
        fc.double({ min: 0, max: 0.4 }),
        (steps, drift) => {
          let at: Position = [0, 0]
          const walk = closed(steps.map(([x, y]) => (at = [at[0] + 0.2 * x + drift, at[1] + 0.2 * y])))
          expect(selfCrossings(walk, Infinity).count).toBe(byAllPairs(walk))
          const knot = closed(steps.map(([x, y]): Position => [x, y]))
          expect(selfCrossings(knot, Infinity).count).toBe(byAllPairs(knot))
        },
      ),
    )
  })

  it('are counted up to what is asked for, with a place at which one is', () => {
    const zigzag = Array.from({ length: 100 }, (_, i): Position => [i, i % 2 ? 1 : -1])
    const ring = closed([...zigzag, [100, 0], [-1, 0.01]])
    const { count, places } = selfCrossings(ring, 10)
    expect(count).toBeGreaterThanOrEqual(10)
    expect(count).toBeLessThan(30)
    expect(places[0][1]).toBeCloseTo(0, 1)
    expect(selfCrossings(closed(zigzag), 10).count).toBe(
      byAllPairs(closed(zigzag)) > 10 ? 10 : byAllPairs(closed(zigzag)),
    )
  })
})
