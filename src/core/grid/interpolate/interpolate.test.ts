import { describe, expect, it } from 'vitest'
import { drain } from '../steps'
import type { Lattice } from '../grid'
import { pycnophylactic } from '../pycnophylactic'
import { fadingAt, potentialOver } from '../potential'
import { inverseDistance } from './inverse-distance'
import {
  empiricalVariogram,
  fittedVariogram,
  kriging,
  krigingWeights,
  semivariance,
  type Variogram,
} from './kriging'
import { factored } from './linear-system'
import { naturalNeighbours } from './natural-neighbours'
import { cleanSamples, withoutOne, type Samples } from './samples'
import { thinPlate } from './thin-plate'

let seed = 11
const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647
const samplesBy = (n: number, of: (x: number, y: number) => number): Samples => {
  const places = Float64Array.from({ length: 2 * n }, () => random() * 100_000)
  return { places, values: Float64Array.from({ length: n }, (_, i) => of(places[2 * i], places[2 * i + 1])) }
}
const plane = (x: number, y: number) => 5 + x / 1000 - y / 700
const sloped = samplesBy(80, plane)
const bumpy = samplesBy(60, (x, y) => Math.sin(x / 20_000) + Math.cos(y / 15_000))
const inside: [number, number][] = [
  [50_000, 50_000],
  [31_234, 62_345],
  [71_000, 33_333],
  [44_444, 55_555],
]

describe('every method', () => {
  const ways = {
    'inverse distance': inverseDistance(bumpy, { power: 2, nearest: 12 }),
    'natural neighbours': naturalNeighbours(bumpy),
    spline: thinPlate(bumpy, { smoothing: 0 })!,
    kriging: kriging(bumpy, { model: 'spherical', nugget: 0, sill: 1, range: 40_000 }, { nearest: 12 }),
  }
  for (const [name, way] of Object.entries(ways))
    it(`by ${name} goes through its samples`, () => {
      for (const i of [0, 7, 33, 59])
        expect(way.at(bumpy.places[2 * i], bumpy.places[2 * i + 1])).toBeCloseTo(bumpy.values[i], 6)
    })
})

describe('inverse distance', () => {
  it('is Shepard’s mean', () => {
    const samples = { places: Float64Array.of(0, 0, 3, 0), values: Float64Array.of(10, 40) }
    // Distances 1 and 2: weights 1 and 1/4.
    expect(inverseDistance(samples, { power: 2, nearest: 8 }).at(1, 0)).toBeCloseTo((10 + 40 / 4) / 1.25, 12)
    expect(inverseDistance(samples, { power: 1, nearest: 8 }).at(1, 0)).toBeCloseTo((10 + 40 / 2) / 1.5, 12)
  })
})

describe('natural neighbours', () => {
  it('reproduce a plane exactly', () => {
    const way = naturalNeighbours(sloped)
    for (let k = 0; k < 400; k++) {
      const [x, y] = [20_000 + random() * 60_000, 20_000 + random() * 60_000]
      expect(way.at(x, y)).toBeCloseTo(plane(x, y), 6)
    }
  })

  it('have no value outside of the samples, and one on the side of a triangle', () => {
    const square = {
      places: Float64Array.of(0, 0, 10, 0, 10, 10, 0, 10),
      values: Float64Array.of(0, 10, 20, 10),
    }
    const way = naturalNeighbours(square)
    expect(way.at(-1, 5)).toBeNaN()
    expect(way.at(5, 5)).toBeCloseTo(10, 4)
    expect(way.at(3, 3)).toBeCloseTo(6, 4)
  })

  it('agree with areas taken from Voronoi cells, counted on a fine grid', () => {
    const samples = {
      places: Float64Array.of(0, 0, 40, 5, 20, 35, 55, 40, -5, 45, 30, 70),
      values: new Float64Array(6),
    }
    const [x, y] = [24, 28]
    const taken = new Float64Array(6)
    let all = 0
    for (let px = -60; px < 120; px += 0.25)
      for (let py = -60; py < 130; py += 0.25) {
        let [best, least] = [-1, Infinity]
        for (let i = 0; i < 6; i++) {
          const d = (samples.places[2 * i] - px) ** 2 + (samples.places[2 * i + 1] - py) ** 2
          if (d < least) [best, least] = [i, d]
        }
        if ((px - x) ** 2 + (py - y) ** 2 < least) {
          taken[best]++
          all++
        }
      }
    for (let i = 0; i < 6; i++) {
      const one = { ...samples, values: Float64Array.from({ length: 6 }, (_, k) => Number(k === i)) }
      expect(naturalNeighbours(one).at(x, y)).toBeCloseTo(taken[i] / all, 2)
    }
  })
})

describe('the spline', () => {
  it('keeps planes, and with smoothing goes between samples that disagree', () => {
    const way = thinPlate(sloped, { smoothing: 0 })
    for (const [x, y] of inside) expect(way?.at(x, y)).toBeCloseTo(plane(x, y), 6)
    const noisy = { ...sloped, values: sloped.values.map((value, i) => value + (i % 2 ? 5 : -5)) }
    const stiff = thinPlate(noisy, { smoothing: 1 })
    for (const [x, y] of inside) expect(Math.abs((stiff?.at(x, y) ?? NaN) - plane(x, y))).toBeLessThan(2.5)
  })

  it('is refused where samples are too few or lie on one line', () => {
    expect(
      thinPlate({ places: Float64Array.of(0, 0, 1, 1), values: Float64Array.of(1, 2) }, { smoothing: 0 }),
    ).toBeNull()
    const line = { places: Float64Array.of(0, 0, 1, 1, 2, 2, 3, 3), values: Float64Array.of(1, 2, 3, 4) }
    expect(thinPlate(line, { smoothing: 0 })).toBeNull()
  })
})

describe('kriging', () => {
  const variogram: Variogram = { model: 'exponential', nugget: 0, sill: 10, range: 10 }

  it('has the weights of its equations, worked by hand for two samples and a place between', () => {
    // γ(1) and γ(2), γ(3): 10 (1 − e^(−0.3 d)).
    const g = (d: number) => 10 * (1 - Math.exp(-0.3 * d))
    const samples = { places: Float64Array.of(0, 0, 3, 0), values: Float64Array.of(4, 10) }
    // λ₁ − λ₂ = (γ₂ − γ₁) ∕ γ₁₂ with λ₁ + λ₂ = 1; the multiplier is (γ₁ + γ₂ − γ₁₂) ∕ 2.
    const difference = (g(2) - g(1)) / g(3)
    const weights = [(1 + difference) / 2, (1 - difference) / 2]
    const found = krigingWeights(samples, variogram, [0, 1], [1, 0])
    expect([...(found?.weights ?? [])]).toEqual([
      expect.closeTo(weights[0], 9),
      expect.closeTo(weights[1], 9),
    ])
    const multiplier = (g(1) + g(2) - g(3)) / 2
    expect(found?.variance).toBeCloseTo(weights[0] * g(1) + weights[1] * g(2) + multiplier, 9)
  })

  it('has weights that add up to one, and no error at a sample without a nugget', () => {
    const indices = [...bumpy.values.keys()].slice(0, 12)
    const found = krigingWeights(bumpy, { ...variogram, range: 30_000 }, indices, [40_000, 45_000])
    expect(found?.weights.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9)
    const way = kriging(bumpy, { ...variogram, range: 30_000 }, { nearest: 12 })
    expect(way.errorAt?.(bumpy.places[0], bumpy.places[1])).toBeCloseTo(0, 4)
    expect(way.errorAt?.(bumpy.places[0] + 3000, bumpy.places[1])).toBeGreaterThan(0.1)
  })

  it('finds the variogram again that bins were made from', () => {
    for (const model of ['spherical', 'exponential', 'gaussian'] as const) {
      const truth: Variogram = { model, nugget: 1, sill: 4, range: 32_000 }
      const bins = Array.from({ length: 15 }, (_, i) => {
        const distance = (i + 0.5) * 3000
        return { distance, value: semivariance(truth, distance), pairs: 100 }
      })
      const fitted = fittedVariogram(bins, model)
      expect(fitted.nugget).toBeCloseTo(1, 0)
      expect(fitted.nugget + fitted.sill).toBeCloseTo(5, 0)
      expect(Math.abs(fitted.range / truth.range - 1)).toBeLessThan(0.06)
    }
  })

  it('has an empirical variogram of half the mean squared differences', () => {
    const samples = { places: Float64Array.of(0, 0, 1, 0, 10, 0), values: Float64Array.of(1, 3, 9) }
    const [first] = empiricalVariogram(samples)
    // Only one pair lies closer than half of the greatest distance.
    expect(first).toMatchObject({ distance: 1, value: 2, pairs: 1 })
  })
})

describe('samples', () => {
  it('on one place are merged to their mean, those without a value left out, each counted', () => {
    const { samples, left, merged } = cleanSamples(
      Float64Array.of(0, 0, 0, 0, 5, 5, NaN, 1, 2, 2),
      Float64Array.of(1, 3, 7, 8, NaN),
    )
    expect([...samples.values]).toEqual([2, 7])
    expect([left, merged]).toEqual([2, 1])
    expect([...withoutOne(samples, 0).values]).toEqual([7])
  })

  it('give linear equations that are solved, or refused where they depend on each other', () => {
    const solve = factored(Float64Array.of(0, 2, 1, 3, 1, -1, 1, 0, 4), 3)
    const x = solve?.(Float64Array.of(7, 2, 13))
    expect([...(x ?? [])].map((n) => Math.round(n * 1e9) / 1e9)).toEqual([1, 2, 3])
    expect(factored(Float64Array.of(1, 2, 2, 4), 2)).toBeNull()
  })
})

const lattice: Lattice = {
  plane: { id: 'lambert-azimuthal-equal-area', centre: [0, 50], parallels: [0, 0] },
  x0: 0,
  y0: 0,
  cell: 1000,
  columns: 60,
  rows: 40,
}

describe('pycnophylactic interpolation', () => {
  const areaOf = Int32Array.from({ length: 2400 }, (_, i) => {
    const [c, r] = [i % 60, Math.floor(i / 60)]
    if (r < 2) return -1
    if (c < 20) return 0
    return r < 20 ? 1 : 2
  })
  const totals = Float64Array.of(1000, 50, 9000, 77)
  const { grid, lost } = drain(pycnophylactic(lattice, areaOf, totals))

  it('keeps the total of every area to a millionth, and names those without a cell', () => {
    const sums = new Float64Array(4)
    areaOf.forEach((f, i) => f >= 0 && (sums[f] += grid.values[i]))
    for (const f of [0, 1, 2]) expect(Math.abs(sums[f] / totals[f] - 1)).toBeLessThan(1e-6)
    expect(lost).toEqual([3])
  })

  it('is smooth over borders, and nowhere under zero', () => {
    const at = (c: number, r: number) => grid.values[r * 60 + c]
    const flat =
      totals[2] / areaOf.filter((f) => f === 2).length - totals[0] / areaOf.filter((f) => f === 0).length
    expect(Math.abs(at(20, 30) - at(19, 30))).toBeLessThan(Math.abs(flat) / 3)
    expect(grid.values.every((value) => Number.isNaN(value) || value >= 0)).toBe(true)
    expect(at(5, 0)).toBeNaN()
  })
})

describe('a potential', () => {
  it('counts a place wholly at no distance and half at the span, whatever the fading', () => {
    for (const reach of ['exponential', 'power', 'gaussian'] as const)
      for (const exponent of [0.7, 1, 2]) {
        expect(fadingAt({ reach, span: 20, exponent }, 0)).toBe(1)
        expect(fadingAt({ reach, span: 20, exponent }, 20)).toBeCloseTo(0.5, 12)
        expect(fadingAt({ reach, span: 20, exponent }, 90)).toBeLessThan(0.3)
      }
  })

  for (const [reach, exponent] of [
    ['exponential', 2],
    ['exponential', 2.5],
    ['exponential', 4],
    ['power', 2],
    ['power', 4],
    ['gaussian', 2],
  ] as const)
    it(`by ${reach} fading with exponent ${exponent} is the plain double sum to half a percent`, () => {
      const n = 4000
      const places = Float64Array.from({ length: 2 * n }, (_, i) => random() * (i % 2 ? 40_000 : 60_000))
      const weights = Float64Array.from({ length: n }, () => random() ** 4 * 1000)
      const fading = { reach, span: 6000, exponent }
      const grid = drain(potentialOver(lattice, { places, weights }, fading))
      let worst = 0
      for (let at = 0; at < 2400; at += 37) {
        const [x, y] = [((at % 60) + 0.5) * 1000, (Math.floor(at / 60) + 0.5) * 1000]
        let sum = 0
        for (let i = 0; i < n; i++)
          sum += weights[i] * fadingAt(fading, Math.hypot(places[2 * i] - x, places[2 * i + 1] - y))
        worst = Math.max(worst, Math.abs(grid.values[at] / sum - 1))
      }
      expect(worst).toBeLessThan(0.005)
    })

  it('leaves out places without a weight or a place', () => {
    const grid = drain(
      potentialOver(
        lattice,
        { places: Float64Array.of(500, 500, NaN, NaN, 9000, 9000), weights: Float64Array.of(2, 5, 0) },
        { reach: 'gaussian', span: 1000, exponent: 2 },
      ),
    )
    expect(grid.values[0]).toBeCloseTo(2, 6)
  })
})
