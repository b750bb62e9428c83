import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { createCoverage, type Coverage } from './coverage'

const [columns, rows] = [7, 6]
type Place = [x: number, y: number]

function eachCell(coverage: Coverage, take: (row: number, column: number, part: number) => void): void {
  coverage.rows((row, from, to, steps) => {
    let sum = 0
    for (let c = from; c < to; c++) {
      sum += steps[c]
      take(row, c, Math.abs(sum))
    }
  })
}

function coveredBy(rings: Place[][]): Float64Array {
  const coverage = createCoverage(columns, rows)
  for (const ring of rings) ring.forEach(([x, y], i) => coverage.edge(x, y, ...ring[(i + 1) % ring.length]))
  const all = new Float64Array(columns * rows)
  eachCell(coverage, (row, c, part) => {
    all[row * columns + c] = part
  })
  return all
}

/** The part of a triangle within a cell, by cutting it at the four sides (Sutherland and Hodgman 1974). */
function cutToCell(triangle: Place[], column: number, row: number): number {
  const sides: [(p: Place) => number][] = [
    [([x]) => x - column],
    [([x]) => column + 1 - x],
    [([, y]) => y - row],
    [([, y]) => row + 1 - y],
  ]
  let ring = triangle
  for (const [inside] of sides)
    ring = ring.flatMap((a, i) => {
      const b = ring[(i + 1) % ring.length]
      const [da, db] = [inside(a), inside(b)]
      const t = da / (da - db)
      const cross: Place[] = da >= 0 !== db >= 0 ? [[a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])]] : []
      return da >= 0 ? [a, ...cross] : cross
    })
  return ring.reduce((sum, [x, y], i) => {
    const [x2, y2] = ring[(i + 1) % ring.length]
    return sum + (x * y2 - x2 * y) / 2
  }, 0)
}

describe('how much of each cell an area covers', () => {
  it('is whole where sides of an area lie exactly on borders of cells and of the grid', () => {
    for (const [x0, y0, x1, y1] of [
      [0, 0, columns, rows],
      [2, 1, columns, 4],
      [3, 2, 5, 4],
      [-2, -2, columns + 2, rows],
    ]) {
      const corners: Place[] = [
        [x0, y0],
        [x1, y0],
        [x1, y1],
        [x0, y1],
      ]
      for (const ring of [corners, [...corners].reverse()])
        coveredBy([ring]).forEach((part, i) => {
          const [row, column] = [Math.floor(i / columns), i % columns]
          const within = column >= x0 && column < x1 && row >= y0 && row < y1
          expect(part, `${column} ${row}`).toBeCloseTo(within ? 1 : 0, 12)
        })
    }
  })

  it('is exact, also where the area reaches beyond the grid', () => {
    const place = fc.tuple(
      fc.double({ min: -3, max: columns + 3, noNaN: true }),
      fc.double({ min: -3, max: rows + 3, noNaN: true }),
    )
    fc.assert(
      fc.property(fc.tuple(place, place, place), (triangle) => {
        const covered = coveredBy([triangle])
        for (let i = 0; i < covered.length; i++) {
          const wanted = cutToCell(triangle, i % columns, Math.floor(i / columns))
          expect(Math.abs(Math.abs(covered[i]) - Math.abs(wanted))).toBeLessThan(1e-9)
        }
      }),
      { numRuns: 300 },
    )
  })

  it('leaves holes out and is clean for the next area', () => {
    const coverage = createCoverage(columns, rows)
    const ring = (from: number, to: number, turned: boolean): void => {
      const places: Place[] = [
        [from, from],
        [to, from],
        [to, to],
        [from, to],
      ]
      if (turned) places.reverse()
      places.forEach(([x, y], i) => coverage.edge(x, y, ...places[(i + 1) % 4]))
    }
    const sum = (): number => {
      let all = 0
      eachCell(coverage, (_, _c, part) => {
        all += part
      })
      return all
    }
    ring(0.5, 5.5, false)
    ring(1.25, 3.75, true)
    expect(sum()).toBeCloseTo(25 - 6.25, 9)
    expect(sum()).toBe(0)
    ring(2, 3, false)
    expect(sum()).toBeCloseTo(1, 12)
  })
})
