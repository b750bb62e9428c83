import { describe, expect, it } from 'vitest'
import { contours as d3Contours } from 'd3-contour'
import { bandsOf, isolinesOf } from './bands'
import { contoursOf, linesOf } from './contours'
import { combined, refined, statisticsOf, valueAt, type Grid } from './grid'
import { groundAreas } from '@/core/geo/measure'
import { geometryFromShapes } from '@/core/geo/shapes'

const plane = {
  id: 'lambert-azimuthal-equal-area' as const,
  centre: [0, 50] as [number, number],
  parallels: [0, 0] as [number, number],
}
const gridOf = (columns: number, rows: number, at: (c: number, r: number) => number): Grid => ({
  plane,
  x0: -columns * 500,
  y0: -rows * 500,
  cell: 1000,
  columns,
  rows,
  values: Float64Array.from({ length: columns * rows }, (_, i) => at(i % columns, Math.floor(i / columns))),
})

let seed = 3
const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647
/** Some hills and a hollow; rough enough for saddles. */
const hills = gridOf(40, 30, (c, r) => 10 * Math.sin(c / 4) * Math.cos(r / 3) + (random() - 0.5) * 6)
const levels = [-8, -4, -1, 0, 2.5, 5, 8]

type Segment = [number, number, number, number]
const segmentsOf = (places: Float64Array): Segment[] =>
  Array.from({ length: places.length / 2 - 1 }, (_, i) => [
    places[2 * i],
    places[2 * i + 1],
    places[2 * i + 2],
    places[2 * i + 3],
  ])
const side = ([ax, ay, bx, by]: Segment, px: number, py: number) =>
  (bx - ax) * (py - ay) - (by - ay) * (px - ax)
const cross = (a: Segment, b: Segment): boolean =>
  side(a, b[0], b[1]) * side(a, b[2], b[3]) < -1e-12 && side(b, a[0], a[1]) * side(b, a[2], a[3]) < -1e-12

/** Smooth, with saddles at 0 alone: the straight lines of a square and the surface in it agree. */
const smooth = gridOf(40, 30, (c, r) => 10 * Math.sin(c / 4) * Math.cos(r / 3))
const steep = levels.filter((level) => level !== 0)

describe('contours', () => {
  it('lie on their level, on the straight line between two middles', () => {
    for (const one of contoursOf(hills, levels))
      for (const { places, edge } of one.rings)
        for (let k = 0; k < edge.length; k++) {
          if (edge[k]) continue
          const [x, y] = [places[2 * k] - 0.5, places[2 * k + 1] - 0.5]
          expect(Number.isInteger(x) || Number.isInteger(y)).toBe(true)
          const value = valueAt(hills, hills.x0 + (x + 0.5) * 1000, hills.y0 + (y + 0.5) * 1000)
          expect(value).toBeCloseTo(one.level, 8)
        }
  })

  it('cross no other, of their level or of another', () => {
    const all = contoursOf(hills, levels).flatMap((one) => linesOf(one).flatMap(segmentsOf))
    // Lines meet only within a square of four middles.
    const bySquare = new Map<string, Segment[]>()
    for (const segment of all) {
      const key = `${Math.floor((segment[0] + segment[2]) / 2 - 0.5)} ${Math.floor((segment[1] + segment[3]) / 2 - 0.5)}`
      bySquare.set(key, [...(bySquare.get(key) ?? []), segment])
    }
    let looked = 0
    for (const own of bySquare.values())
      own.forEach((a, i) => own.slice(i + 1).forEach((b) => (looked++, expect(cross(a, b)).toBe(false))))
    expect(looked).toBeGreaterThan(100)
  })

  it('have what is higher on their right', () => {
    for (const one of contoursOf(smooth, steep))
      for (const line of linesOf(one)) {
        const [ax, ay, bx, by] = segmentsOf(line)[Math.floor(line.length / 4)]
        const length = Math.hypot(bx - ax, by - ay)
        if (length < 1e-6) continue
        const step = 1e-3
        const [mx, my] = [(ax + bx) / 2, (ay + by) / 2]
        const at = (sign: number) =>
          valueAt(
            smooth,
            smooth.x0 + (mx - (sign * step * (by - ay)) / length) * 1000,
            smooth.y0 + (my + (sign * step * (bx - ax)) / length) * 1000,
          )
        expect(at(1)).toBeGreaterThan(at(-1))
      }
  })

  it('enclose as much as those of d3-contour', () => {
    const areaOf = (rings: ArrayLike<number>[]) =>
      rings.reduce((sum, ring) => {
        let own = 0
        for (let i = 0; i + 3 < ring.length; i += 2) own += ring[i] * ring[i + 3] - ring[i + 2] * ring[i + 1]
        return sum + own / 2
      }, 0)
    // A ring of low values round about: both then close nothing along the edge.
    const island = gridOf(42, 32, (c, r) =>
      c === 0 || r === 0 || c === 41 || r === 31 ? -99 : smooth.values[(r - 1) * 40 + c - 1],
    )
    const theirs = d3Contours().size([42, 32])
    for (const one of contoursOf(
      island,
      levels.filter((level) => level !== 0),
    )) {
      const d3 = theirs.contour([...island.values], one.level).coordinates.flat()
      const own = areaOf(one.rings.map(({ places }) => places))
      expect(Math.abs(own)).toBeCloseTo(Math.abs(areaOf(d3.map((ring) => ring.flat()))), 6)
    }
  })

  it('run along missing cells only to close rings; lines leave that out', () => {
    const half = gridOf(10, 10, (c) => (c > 6 ? NaN : c))
    const [one] = contoursOf(half, [2.5])
    expect(one.rings).toHaveLength(1)
    const lines = linesOf(one)
    expect(lines).toHaveLength(1)
    for (const [x] of segmentsOf(lines[0]).slice(1, -1)) expect(x).toBeCloseTo(3, 9)
  })

  it('of a level that nothing or everything reaches are none, or the edge alone', () => {
    const flat = gridOf(6, 5, () => 4)
    const [low, same, high] = contoursOf(flat, [3, 4, 5])
    expect(high.rings).toHaveLength(0)
    for (const one of [low, same]) {
      expect(one.rings).toHaveLength(1)
      expect(linesOf(one)).toHaveLength(0)
    }
  })
})

describe('bands between levels', () => {
  const bands = bandsOf(hills, [-99, ...levels])

  it('cover the grid once: their ground adds up, and each has its share of it', () => {
    const geometry = geometryFromShapes(bands)
    const km2 = [...groundAreas(geometry)].map((area) => area / 1e6)
    // From the first middle to the last.
    expect(km2.reduce((a, b) => a + b, 0)).toBeCloseTo(39 * 29, 0)
    for (const area of km2) expect(area).toBeGreaterThan(0)
  })

  it('share their border with the next, as one arc', () => {
    const geometry = geometryFromShapes(bands)
    if (geometry.kind !== 'areas') throw new Error('Bands are areas.')
    const uses = new Map<number, number>()
    for (const ref of geometry.refs) {
      const arc = ref < 0 ? ~ref : ref
      uses.set(arc, (uses.get(arc) ?? 0) + 1)
    }
    expect(Math.max(...uses.values())).toBe(2)
    expect([...uses.values()].filter((n) => n === 2).length).toBeGreaterThan(20)
  })

  it('have holes where a hollow or a summit lies in them', () => {
    const ring = gridOf(21, 21, (c, r) => -Math.abs(Math.hypot(c - 10, r - 10) - 6))
    const [, high] = bandsOf(ring, [-99, -2])
    expect(high?.coordinates).toHaveLength(1)
    expect(high?.coordinates[0]).toHaveLength(2)
  })

  it('have lines with as many levels, null where there is none', () => {
    const lines = isolinesOf(hills, [0, 1000])
    expect(lines[0]?.coordinates.length).toBeGreaterThan(3)
    expect(lines[1]).toBeNull()
  })
})

describe('a grid', () => {
  it('drawn finer goes on through its values, keeps planes, and lets missing cells be', () => {
    const sloped = gridOf(8, 6, (c, r) => 3 * c - 2 * r)
    const fine = refined(sloped, 4)
    expect(fine.cell).toBe(250)
    // In the inside a plane stays one.
    for (const [x, y] of [
      [-600, 300],
      [1234, -567],
    ])
      expect(valueAt(fine, x, y)).toBeCloseTo(valueAt(sloped, x, y), 9)
    const odd = refined({ ...sloped, values: sloped.values.map((value, i) => (i === 20 ? NaN : value)) }, 3)
    expect(odd.values.filter(Number.isNaN).length).toBeLessThanOrEqual(9)
  })

  it('has figures of the cells with a value, and is reckoned with others cell by cell', () => {
    const grid = gridOf(3, 2, (c, r) => (c === 2 && r === 1 ? NaN : c + 10 * r))
    expect(statisticsOf(grid)).toMatchObject({ count: 5, missing: 1, min: 0, max: 11, mean: 4.8 })
    expect([...combined([grid, grid], (a, b) => a - b).values]).toEqual([0, 0, 0, 0, 0, NaN])
    expect(statisticsOf({ values: Float64Array.of(NaN) }).mean).toBeNaN()
  })
})
