import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectGeometry } from '@/core/geo/projected'
import type { Lines } from '@/core/geo/geometry'
import { bentPlace, bentProjection, straightPlace } from './bend'
import { createProjection, type Bend } from './projection'

/** A board of 8 by 6 cells of 10 km, whose inner corners are moved a little each. */
function board(): Bend {
  const [columns, rows, cell] = [8, 6, 10_000]
  const corners = Float64Array.from({ length: 2 * (columns + 1) * (rows + 1) }, (_, i) => {
    const [c, r] = [(i >> 1) % (columns + 1), Math.floor((i >> 1) / (columns + 1))]
    const inner = c > 0 && r > 0 && c < columns && r < rows
    const off = inner ? 0.3 * Math.sin(3 * c + 5 * r + i) : 0
    return (i % 2 ? r - 3 : c - 4) * cell + off * cell
  })
  return { x0: -40_000, y0: -30_000, cell, columns, rows, corners }
}

const bend = board()
const straight = createProjection({
  id: 'lambert-azimuthal-equal-area',
  centre: [12, 42],
  parallels: [0, 0],
})
const place = fc.tuple(
  fc.double({ min: -39_000, max: 39_000, noNaN: true }),
  fc.double({ min: -29_000, max: 29_000, noNaN: true }),
)

describe('a plane that is bent', () => {
  it('gives every place back, and moves corners where they have gone', () => {
    fc.assert(
      fc.property(place, ([x, y]) => {
        const [bx, by] = bentPlace(bend, x, y)
        const back = straightPlace(bend, bx, by)!
        expect(Math.hypot(back[0] - x, back[1] - y)).toBeLessThan(1e-3)
      }),
    )
    expect(bentPlace(bend, 0, 0)).toEqual([bend.corners[2 * (3 * 9 + 4)], bend.corners[2 * (3 * 9 + 4) + 1]])
  })
  it('goes on beyond its board as at its edge', () => {
    expect(bentPlace(bend, 100_000, 5000)).toEqual([100_000, 5000])
    expect(straightPlace(bend, 100_000, 5000)).toBeNull()
  })

  const bent = bentProjection(straight, bend)
  it('makes a projection that bends what it projects, and another one for a map that is turned', () => {
    fc.assert(
      fc.property(place, ([x, y]) => {
        const [lon, lat] = straight.invert(x, y)!
        const at = bent.project(lon, lat)
        expect(Math.hypot(at[0] - bentPlace(bend, x, y)[0], at[1] - bentPlace(bend, x, y)[1])).toBeLessThan(
          1e-3,
        )
        const back = bent.invert(...at)!
        expect(Math.hypot(back[0] - lon, back[1] - lat)).toBeLessThan(1e-6)
        // What is turned first and bent then lies where it would lie if it were bent first and turned then.
        const turned = bentProjection(createProjection({ ...straight.spec, turnDeg: 30 }), bend, 30)
        const [tx, ty] = turned.project(lon, lat)
        const angle = Math.PI / 6
        expect(tx).toBeCloseTo(at[0] * Math.cos(angle) - at[1] * Math.sin(angle), 3)
        expect(ty).toBeCloseTo(at[0] * Math.sin(angle) + at[1] * Math.cos(angle), 3)
      }),
      { numRuns: 40 },
    )
    expect(bentProjection(straight, bend)).toBe(bent)
    expect(bent.spec).not.toEqual(straight.spec)
  })
  it('bends long edges between their ends', () => {
    const ends = [straight.invert(-35_000, 3000)!, straight.invert(35_000, 3000)!]
    const line: Lines = {
      kind: 'lines',
      arcs: { coords: Float64Array.from(ends.flat()), starts: Uint32Array.of(0, 2) },
      refs: Int32Array.of(0),
      ringStarts: Uint32Array.of(0, 1),
      featureStarts: Uint32Array.of(0, 1),
    }
    const projected = projectGeometry(line, bent) as Lines
    expect(projected.arcs.coords.length / 2).toBeGreaterThan(14)
    const ys = [...projected.arcs.coords].filter((_, i) => i % 2)
    expect(Math.max(...ys) - Math.min(...ys)).toBeGreaterThan(2000)
    expect(projectGeometry(line, bent)).toBe(projected)
    expect((projectGeometry(line, straight) as Lines).arcs.coords.length / 2).toBeLessThan(14)
  })
})
