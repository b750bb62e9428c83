import { describe, expect, it } from 'vitest'
import { seededRandom } from '../../../demo/lindmere/random'
import type { Grid } from './grid'
import { peaksOf } from './peaks'

const plane = {
  id: 'equal-earth' as const,
  centre: [0, 0] as [number, number],
  parallels: [0, 0] as [number, number],
}
const gridOf = (columns: number, rows: number, of: (x: number, y: number) => number): Grid => ({
  plane,
  x0: 0,
  y0: 0,
  cell: 10,
  columns,
  rows,
  values: Float64Array.from({ length: columns * rows }, (_, i) =>
    of(((i % columns) + 0.5) * 10, (Math.floor(i / columns) + 0.5) * 10),
  ),
})
const all = { least: null, within: null, most: 100, atLeast: 0 }

/** The prominence of a cell by what it says: the highest way to a higher cell, by flooding from above. */
function plainProminence({ values, columns, rows }: Grid, cell: number): number {
  const own = values[cell]
  for (const level of [...new Set(values)].sort((a, b) => b - a).filter((v) => v <= own)) {
    const seen = new Set([cell])
    const queue = [cell]
    while (queue.length) {
      const at = queue.pop() ?? 0
      for (const dy of [-1, 0, 1])
        for (const dx of [-1, 0, 1]) {
          const [c, r] = [(at % columns) + dx, Math.floor(at / columns) + dy]
          const next = r * columns + c
          if (c < 0 || r < 0 || c >= columns || r >= rows || seen.has(next) || values[next] < level) continue
          if (values[next] > own) return own - level
          seen.add(next)
          queue.push(next)
        }
    }
  }
  return own - Math.min(...values)
}

describe('peaks of a surface', () => {
  it('are found between the cells, with the height of the hill', () => {
    const hill = (x: number, y: number) => 80 - ((x - 152) ** 2 + (y - 97) ** 2) / 50
    const [peak, ...others] = peaksOf(gridOf(30, 20, hill), all)
    expect(others).toEqual([])
    expect(peak.x).toBeCloseTo(152, 6)
    expect(peak.y).toBeCloseTo(97, 6)
    expect(peak.value).toBeCloseTo(80, 6)
  })

  it('have the prominence of a plain flooding from above', () => {
    const random = seededRandom(5)
    const grid = gridOf(14, 12, () => Math.round(random() * 1e6))
    const peaks = peaksOf(grid, all)
    expect(peaks.length).toBeGreaterThan(8)
    const cells = Array.from(grid.values.keys())
    const plain = cells
      .filter((cell) => {
        const [c, r] = [cell % 14, Math.floor(cell / 14)]
        return c > 0 && r > 0 && c < 13 && r < 11
      })
      .map((cell) => plainProminence(grid, cell))
      .filter((height) => height > 0)
    expect(peaks.map(({ prominence }) => prominence).sort((a, b) => a - b)).toEqual(
      plain.sort((a, b) => a - b),
    )
  })

  it('are chosen by prominence, not by height: a knob beside the highest is none of the first two', () => {
    const tops = [
      [100, 100, 60],
      [120, 100, 58],
      [300, 100, 30],
    ]
    const grid = gridOf(40, 20, (x, y) =>
      Math.max(...tops.map(([px, py, h]) => h * Math.exp(-(((x - px) / 30) ** 2 + ((y - py) / 30) ** 2)))),
    )
    const two = peaksOf(grid, { ...all, most: 2 })
    expect(two.map(({ x }) => Math.round(x / 100))).toEqual([1, 3])
    expect(two[0].value).toBeGreaterThan(two[1].value)
    expect(peaksOf(grid, { ...all, atLeast: 0.6 })).toHaveLength(1)
  })

  it('keep within what counts, and are none at the edge, on flat ground or where nothing is', () => {
    const slope = gridOf(12, 10, (x) => x)
    expect(peaksOf(slope, all)).toEqual([])
    expect(
      peaksOf(
        gridOf(8, 8, () => 3),
        all,
      ),
    ).toEqual([])
    expect(
      peaksOf(
        gridOf(8, 8, () => NaN),
        all,
      ),
    ).toEqual([])
    const hill = gridOf(20, 20, (x, y) => 10 - Math.hypot(x - 105, y - 105) / 20)
    expect(peaksOf(hill, { ...all, within: new Uint8Array(400) })).toEqual([])
    expect(peaksOf(hill, { ...all, least: 11 })).toEqual([])
    expect(peaksOf(hill, all)).toHaveLength(1)
  })

  it('count once where the top is flat', () => {
    const table = gridOf(20, 20, (x, y) => Math.min(5, 10 - Math.hypot(x - 100, y - 100) / 10))
    expect(peaksOf(table, all)).toHaveLength(1)
  })
})
