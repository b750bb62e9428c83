import { describe, expect, it } from 'vitest'
import type { Points } from '@/core/geo/geometry'
import { distanceError } from '@/core/grid/distances'
import { latticeOver } from '@/core/grid/grid'
import { distanceWords } from './distance-words'

const over = (...places: [number, number][]) => {
  const points: Points = {
    kind: 'points',
    coords: Float64Array.from(places.flat()),
    featureStarts: Uint32Array.from({ length: places.length + 1 }, (_, i) => i),
  }
  const lattice = latticeOver([points], { cell: 1000, most: 10_000 })
  if (!lattice) throw new Error('There are places.')
  return lattice
}

describe('distances in the plane of a grid', () => {
  it('are those on the ground for a country, and nothing is said', () => {
    const country = over([-32, 46], [-24, 52])
    expect(distanceError(country)).toBeLessThan(0.005)
    expect(distanceWords(country)).toBe('')
  })

  it('are off by the cosine of half the angle, and one over it, for what lies 40 degrees from the middle', () => {
    const wide = over([-40, 0], [40, 0], [0, -40], [0, 40])
    // A lattice goes on to its corners, which lie farther out.
    const corner = 2 * Math.asin(Math.sin((40 * Math.PI) / 360) * Math.SQRT2)
    expect(distanceError(wide)).toBeCloseTo(1 / Math.cos(corner / 2) - 1, 1)
    expect(distanceWords(wide)).toMatch(/wrong by up to \d+ % somewhere\.$/)
  })

  it('of a whole globe are wrong by much, and end at the edge of the map', () => {
    const globe = over([-170, -60], [170, 70], [0, 0])
    expect(distanceError(globe)).toBeGreaterThan(0.3)
    expect(distanceWords(globe)).toMatch(/none leads over the edge of the world map/)
  })
})
