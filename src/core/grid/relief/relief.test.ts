import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { aspectDeg, gradientsOf, slopeDeg, type GroundSteps } from './gradient'
import { lit, shader } from './shade'

const [columns, rows] = [9, 7]
const radians = Math.PI / 180
/** Heights by a formula of metres to the east and north, where cells lie askew on the ground. */
const field = (steps: [number, number, number, number], z: (east: number, north: number) => number) => {
  const [e1, n1, e2, n2] = steps
  const values = Float64Array.from({ length: columns * rows }, (_, i) => {
    const [c, r] = [i % columns, Math.floor(i / columns)]
    return z(c * e1 + r * e2, c * n1 + r * n2)
  })
  const ground: GroundSteps = (_c, _r, out) => out.set(steps)
  return { heights: { values, columns, rows }, ground }
}
const near = (a: number, b: number, within = 1e-6) => expect(Math.abs(a - b)).toBeLessThan(within)

describe('gradients', () => {
  const slope = fc.double({ min: -2, max: 2, noNaN: true })
  it('of a plane are those of the plane, however cells are turned, stretched or skewed on the ground', () => {
    const turn = fc.double({ min: 0, max: 360, noNaN: true })
    const side = fc.double({ min: 5, max: 500, noNaN: true })
    fc.assert(
      fc.property(
        fc.tuple(slope, slope, turn, side, side, fc.double({ min: -0.4, max: 0.4, noNaN: true })),
        ([a, b, deg, w, h, skew]) => {
          const [cos, sin] = [Math.cos(deg * radians), Math.sin(deg * radians)]
          // Down on the page is where the turned south lies; to the right is skewed against it.
          const [de, dn] = [-sin * h, -cos * h]
          const [re, rn] = [cos * w + skew * sin * w, -sin * w + skew * cos * w]
          const { heights, ground } = field([re, rn, de, dn], (east, north) => 100 + a * east + b * north)
          const { right, up } = gradientsOf(heights, ground)
          for (let i = 0; i < right.length; i++) {
            near(up[i], a * sin + b * cos, 1e-5)
            near(right[i], a * cos - b * sin, 1e-5)
            near(slopeDeg(right[i], up[i]), Math.atan(Math.hypot(a, b)) / radians, 1e-3)
          }
        },
      ),
      { numRuns: 60 },
    )
  })

  it('of a bowl are right to a millionth inside, and a missing neighbour does no harm', () => {
    const { heights, ground } = field([10, 0, 0, -10], (x, y) => 1e-3 * (x * x + 0.5 * x * y - 2 * y * y))
    const { right, up } = gradientsOf(heights, ground)
    for (let r = 1; r < rows - 1; r++)
      for (let c = 1; c < columns - 1; c++) {
        const [x, y] = [10 * c, -10 * r]
        near(right[r * columns + c], 1e-3 * (2 * x + 0.5 * y))
        near(up[r * columns + c], 1e-3 * (0.5 * x - 4 * y))
      }
    const plane = field([10, 0, 0, -10], (x) => 0.5 * x)
    plane.heights.values[3 * columns + 4] = NaN
    const beside = gradientsOf(plane.heights, plane.ground)
    expect(beside.right[3 * columns + 4]).toBeNaN()
    near(beside.right[3 * columns + 3], 0.5)
    near(beside.up[2 * columns + 4], 0)
  })

  it('face the way in which they go down', () => {
    expect(aspectDeg(0, -1)).toBe(0)
    expect(aspectDeg(-1, 0)).toBe(90)
    expect(aspectDeg(0, 1)).toBe(180)
    expect(aspectDeg(1, 0)).toBe(270)
    expect(aspectDeg(0, 0)).toBeNaN()
    near(slopeDeg(1, 0), 45)
  })
})

describe('light on slopes', () => {
  it('falls as the published formula has it', () => {
    const slope = fc.double({ min: -3, max: 3, noNaN: true })
    const angle = fc.double({ min: 0, max: 360, noNaN: true })
    fc.assert(
      fc.property(
        slope,
        slope,
        angle,
        fc.double({ min: 1, max: 90, noNaN: true }),
        (right, up, azimuth, altitude) => {
          const [s, a] = [slopeDeg(right, up) * radians, (aspectDeg(right, up) || 0) * radians]
          const zenith = (90 - altitude) * radians
          const wanted =
            Math.cos(zenith) * Math.cos(s) + Math.sin(zenith) * Math.sin(s) * Math.cos(azimuth * radians - a)
          near(lit(right, up, azimuth, altitude), wanted, 1e-9)
        },
      ),
    )
  })

  it('is that of level ground where it is level, whatever the lights, and never beyond black and white', () => {
    const lights = [225, 270, 315, 360].map((azimuthDeg) => ({ azimuthDeg, weight: 1 }))
    for (const some of [lights, lights.slice(2, 3)]) {
      const tone = shader({ lights: some, altitudeDeg: 45, exaggeration: 4, softness: 0.2 })
      near(tone(0, 0), 0)
      expect(tone(NaN, 0)).toBeNaN()
      fc.assert(
        fc.property(
          fc.double({ min: -50, max: 50, noNaN: true }),
          fc.double({ min: -50, max: 50, noNaN: true }),
          (right, up) => {
            expect(Math.abs(tone(right, up))).toBeLessThanOrEqual(1)
          },
        ),
      )
    }
    const one = shader({
      lights: [{ azimuthDeg: 315, weight: 1 }],
      altitudeDeg: 45,
      exaggeration: 1,
      softness: 0,
    })
    // A slope that faces the north-west is lighter than level ground, one that faces the south-east is darker.
    expect(one(0.3, -0.3)).toBeGreaterThan(0)
    expect(one(-0.3, 0.3)).toBeLessThan(0)
  })

  it('of several is mixed by how they graze a slope (Mark 1992)', () => {
    const azimuths = [225, 270, 315, 360]
    const tone = shader({
      lights: azimuths.map((azimuthDeg) => ({ azimuthDeg, weight: 1 })),
      altitudeDeg: 30,
      exaggeration: 1,
      softness: 0,
    })
    const [right, up] = [0.2, 0.1]
    const weights = azimuths.map((azimuth) => Math.sin((aspectDeg(right, up) - azimuth) * radians) ** 2)
    const light = azimuths.reduce(
      (sum, azimuth, k) => sum + weights[k] * Math.max(0, lit(right, up, azimuth, 30)),
      0,
    )
    // Four directions 45° apart have weights that add up to two.
    near(
      weights.reduce((a, b) => a + b, 0),
      2,
      1e-9,
    )
    const level = Math.sin(30 * radians)
    const value = light / 2
    near(tone(right, up), value < level ? (value - level) / level : (value - level) / (1 - level), 1e-9)
  })
})
