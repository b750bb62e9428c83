import { describe, expect, it } from 'vitest'
import type { Lattice } from './grid'
import { cellKm2, integralOf } from './grid'
import { adapted, kernelDensity, kernels, pointCounts, silverman, type Kernel } from './kernel-density'
import { drain } from './steps'

const lattice: Lattice = {
  plane: { id: 'lambert-azimuthal-equal-area', centre: [0, 50], parallels: [0, 0] },
  x0: -50_000,
  y0: -40_000,
  cell: 1000,
  columns: 100,
  rows: 80,
}
const middle = (at: number): [number, number] => [
  lattice.x0 + ((at % lattice.columns) + 0.5) * lattice.cell,
  lattice.y0 + (Math.floor(at / lattice.columns) + 0.5) * lattice.cell,
]

let seed = 7
const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647
const scattered = (n: number, half = 20_000) =>
  Float64Array.from({ length: 2 * n }, () => (random() - 0.5) * 2 * half)

/** The kernel as a density, by its formula. */
const formula: Record<Kernel, (r: number, h: number) => number> = {
  quartic: (r, h) => (r < h ? (3 / (Math.PI * h * h)) * (1 - (r / h) ** 2) ** 2 : 0),
  epanechnikov: (r, h) => (r < h ? (2 / (Math.PI * h * h)) * (1 - (r / h) ** 2) : 0),
  gaussian: (r, h) => Math.exp(-0.5 * (r / h) ** 2) / (2 * Math.PI * h * h),
}

describe('a density', () => {
  for (const kernel of kernels)
    it(`by the ${kernel} kernel is the sum of the formula at every cell, to a thousandth of its peak`, () => {
      const places = scattered(60)
      const weights = Float64Array.from({ length: 60 }, (_, i) => 1 + (i % 5))
      const h = kernel === 'gaussian' ? 3000 : 11_000
      const { grid, lost } = drain(
        kernelDensity(lattice, { places, weights }, { kernel, bandwidth: h, mask: null }),
      )
      const direct = Float64Array.from(grid.values, (_, at) => {
        const [x, y] = middle(at)
        let sum = 0
        weights.forEach(
          (w, i) => (sum += w * formula[kernel](Math.hypot(places[2 * i] - x, places[2 * i + 1] - y), h)),
        )
        return sum * 1e6
      })
      const peak = Math.max(...direct)
      const worst = Math.max(...grid.values.map((value, at) => Math.abs(value - direct[at])))
      expect(worst / peak).toBeLessThan(1e-3)
      expect(lost).toBe(0)
      // All of it lies on the grid: its integral is the sum of the weights.
      const sum = weights.reduce((a, b) => a + b, 0)
      expect(Math.abs(integralOf(grid) / sum - 1)).toBeLessThan(1e-3)
    })

  it('of narrow and of wide kernels together is that of each', () => {
    const places = scattered(40)
    const bandwidth = Float64Array.from({ length: 40 }, (_, i) => (i % 2 ? 2500 : 14_000))
    const both = drain(
      kernelDensity(lattice, { places, weights: null }, { kernel: 'quartic', bandwidth, mask: null }),
    )
    const parts = [0, 1].map((odd) =>
      drain(
        kernelDensity(
          lattice,
          { places, weights: Float64Array.from({ length: 40 }, (_, i) => Number(i % 2 === odd)) },
          { kernel: 'quartic', bandwidth, mask: null },
        ),
      ),
    )
    const peak = Math.max(...both.grid.values)
    const worst = Math.max(
      ...both.grid.values.map((value, at) =>
        Math.abs(value - parts[0].grid.values[at] - parts[1].grid.values[at]),
      ),
    )
    expect(worst / peak).toBeLessThan(1e-9)
  })

  it('far from all places is nothing at all, not what rounding leaves', () => {
    const places = Float64Array.of(-30_000, -20_000, -29_000, -21_000)
    const { grid } = drain(
      kernelDensity(lattice, { places, weights: null }, { kernel: 'quartic', bandwidth: 9000, mask: null }),
    )
    expect(grid.values.filter((value) => value < 0)).toHaveLength(0)
    expect(grid.values[40 * 100 + 90]).toBe(0)
  })

  for (const kernel of kernels)
    it(`kept within a mask by the ${kernel} kernel loses nothing over its edge (Diggle 1985), places out of reach aside`, () => {
      const mask = new Uint8Array(8000)
      for (let at = 0; at < 8000; at++) if (at % 100 < 50) mask[at] = 1
      // One at the very edge, one inside, one far out.
      const places = Float64Array.of(-600, 0, -20_000, 5000, 45_000, 0)
      const weights = Float64Array.of(3, 4, 5)
      const bandwidth = kernel === 'gaussian' ? 3000 : 9000
      const { grid, lost } = drain(kernelDensity(lattice, { places, weights }, { kernel, bandwidth, mask }))
      let inside = 0
      grid.values.forEach((value, at) => mask[at] && (inside += value * cellKm2(lattice)))
      expect(inside).toBeCloseTo(7, 6)
      expect(lost).toBe(5)
    })
})

describe('the bandwidth by rule', () => {
  it('has the constants of Silverman’s equation 4.13, integrated here', () => {
    const places = scattered(500)
    const constant = (kernel: Kernel) => {
      let [alpha, beta] = [0, 0]
      const reach = kernel === 'gaussian' ? 8 : 1
      const n = 200_000
      for (let k = 0; k < n; k++) {
        const r = ((k + 0.5) / n) * reach
        const value = formula[kernel](r, 1)
        alpha += ((Math.PI * r ** 3 * value) / n) * reach
        beta += ((2 * Math.PI * r * value ** 2) / n) * reach
      }
      return ((2 * beta * 2 * Math.PI) / alpha ** 2) ** (1 / 6)
    }
    const xs = [...places].filter((_, i) => i % 2 === 0)
    const ys = [...places].filter((_, i) => i % 2 === 1)
    const variance = (list: number[]) => {
      const mean = list.reduce((a, b) => a + b, 0) / list.length
      return list.reduce((a, b) => a + (b - mean) ** 2, 0) / list.length
    }
    const sigma = Math.sqrt((variance(xs) + variance(ys)) / 2)
    for (const kernel of kernels)
      expect(silverman(places, null, kernel) / (constant(kernel) * sigma * 500 ** (-1 / 6))).toBeCloseTo(1, 6)
  })

  it('takes weights as so many points, and is not a number for one', () => {
    const places = scattered(50)
    const twice = Float64Array.from([...places, ...places])
    const weights = new Float64Array(50).fill(2)
    // Equal weights say nothing of how many there are; doubled points do.
    expect(silverman(places, weights, 'quartic')).toBeCloseTo(silverman(places, null, 'quartic'), 6)
    expect(silverman(twice, null, 'quartic')).toBeLessThan(silverman(places, null, 'quartic'))
    expect(silverman(places.slice(0, 2), null, 'quartic')).toBeNaN()
  })

  it('adapts: narrower where there are many, wider where there are few', () => {
    const [many, few, none] = adapted(1000, Float64Array.of(16, 1, 0), null)
    expect(many).toBeCloseTo(500, 6)
    expect(few).toBeCloseTo(2000, 6)
    expect(none).toBe(1000)
  })
})

it('counts the points within a distance of each cell', () => {
  const places = scattered(30)
  const { values } = pointCounts(lattice, places, 8000)
  for (const at of [0, 4050, 3999, 7000, 2525]) {
    const [x, y] = middle(at)
    let count = 0
    for (let i = 0; i < 30; i++) if (Math.hypot(places[2 * i] - x, places[2 * i + 1] - y) <= 8000) count++
    expect(values[at]).toBe(count)
  }
})

describe('narrow kernels and masks', () => {
  it('loses no place whose kernel is narrower than the cells: it stands in its own cell', () => {
    const places = scattered(2000)
    for (const kernel of kernels) {
      const { grid, lost } = drain(
        kernelDensity(lattice, { places, weights: null }, { kernel, bandwidth: 60, mask: null }),
      )
      expect(lost).toBe(0)
      expect(integralOf(grid), kernel).toBeCloseTo(2000, 6)
    }
  })

  it('takes no place into a mask that lies beyond the circle of its kernel, in the corner of its square', () => {
    const mask = new Uint8Array(lattice.columns * lattice.rows)
    const [column, row] = [60, 50]
    mask[row * lattice.columns + column] = 1
    const [x, y] = middle(row * lattice.columns + column)
    const h = 2000
    // 4.4 bandwidths off both ways: 6.2 along the diagonal, within the square of 4.6 and beyond the circle.
    const places = Float64Array.of(x - 4.4 * h, y - 4.4 * h)
    const { grid, lost } = drain(
      kernelDensity(lattice, { places, weights: null }, { kernel: 'gaussian', bandwidth: h, mask }),
    )
    expect(lost).toBe(1)
    expect(integralOf(grid)).toBe(0)
  })
})
