import { describe, expect, it } from 'vitest'
import { blurred } from './blur'
import type { Grid } from './grid'
import { drain } from './steps'

const plane = {
  id: 'equal-earth' as const,
  centre: [0, 0] as [number, number],
  parallels: [0, 0] as [number, number],
}
const size = 101
const gridOf = (of: (column: number, row: number) => number): Grid => ({
  plane,
  x0: 0,
  y0: 0,
  cell: 50,
  columns: size,
  rows: size,
  values: Float64Array.from({ length: size * size }, (_, i) => of(i % size, Math.floor(i / size))),
})
const smooth = (grid: Grid, sigmaM: number) => drain(blurred(grid, sigmaM)).values

describe('blurring a surface', () => {
  it('makes a Gaussian of one cell, with its sum and variance', () => {
    const middle = (size - 1) / 2
    const values = smooth(
      gridOf((c, r) => (c === middle && r === middle ? 1 : 0)),
      6.3 * 50,
    )
    let [sum, variance, worst] = [0, 0, 0]
    const peak = 1 / (2 * Math.PI * 6.3 ** 2)
    values.forEach((value, i) => {
      const [dx, dy] = [(i % size) - middle, Math.floor(i / size) - middle]
      sum += value
      variance += value * dx * dx
      worst = Math.max(worst, Math.abs(value - peak * Math.exp(-(dx * dx + dy * dy) / (2 * 6.3 ** 2))))
    })
    expect(sum).toBeCloseTo(1, 9)
    expect(Math.sqrt(variance)).toBeCloseTo(6.3, 1)
    expect(worst / peak).toBeLessThan(0.08)
  })

  it('leaves even ground as it is, up to the edge and beside what has no value', () => {
    const holed = gridOf((c, r) => (c > 40 && c < 60 && r < 30 ? NaN : 7))
    const values = smooth(holed, 400)
    values.forEach((value, i) => {
      if (Number.isNaN(holed.values[i])) expect(value).toBeNaN()
      else expect(value).toBeCloseTo(7, 9)
    })
  })

  it('keeps a slope in the middle, and takes the small for the large', () => {
    const slope = smooth(
      gridOf((c) => 3 * c),
      200,
    )
    expect(slope[50 * size + 50]).toBeCloseTo(150, 6)
    const noisy = smooth(
      gridOf((c, r) => ((c + r) % 2 ? 1 : -1)),
      200,
    )
    expect(Math.max(...noisy.map(Math.abs))).toBeLessThan(0.02)
  })

  it('of nothing is nothing, and by nothing changes nothing', () => {
    expect(
      smooth(
        gridOf(() => NaN),
        300,
      ).every(Number.isNaN),
    ).toBe(true)
    const grid = gridOf((c, r) => c * r)
    expect(smooth(grid, 0)).toEqual(grid.values)
  })
})
