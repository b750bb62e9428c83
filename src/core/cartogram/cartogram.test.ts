import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { makePlanet, smallPlanet } from '../../../demo/planet/planet'
import { featureCount, type Areas } from '@/core/geo/geometry'
import { projectGeometry } from '@/core/geo/projected'
import { square } from '@/core/geo/geo-testing'
import { geometryFromShapes } from '@/core/geo/shapes'
import { drain } from '@/core/grid/steps'
import { createProjection } from '@/core/projection/projection'
import { leastCost } from './assign'
import { makeCartogram } from './make'
import { planeAreas } from './plane'
import { relaxed, type Body } from './relax'
import { cartogramForms, isTiled } from './spec'

const near = (a: number, b: number, share: number) =>
  expect(Math.abs(a - b)).toBeLessThan(share * Math.abs(b))

/** A board of `n` by `n` fields of one degree, which share their borders, and an island. */
function board(n: number): Areas {
  const fields = Array.from({ length: n * n }, (_, i) => square(10 + (i % n), 40 + Math.floor(i / n)))
  return geometryFromShapes([...fields, square(13 + n, 41)]) as Areas
}

const plane = createProjection({
  id: 'lambert-azimuthal-equal-area',
  centre: [12, 42],
  parallels: [0, 0],
})
const values = (count: number): Float64Array =>
  Float64Array.from({ length: count }, (_, i) => 1 + ((i * 7) % 11))

describe('what is pushed apart', () => {
  const bodies = fc.array(
    fc.tuple(
      fc.integer({ min: 0, max: 400 }),
      fc.integer({ min: 0, max: 400 }),
      fc.integer({ min: 1, max: 40 }),
    ),
    { minLength: 2, maxLength: 40 },
  )
  for (const body of ['circles', 'squares'] as Body[])
    it(`${body} do not overlap in the end, though they begin on one place, and come to the same twice`, () => {
      fc.assert(
        fc.property(bodies, fc.boolean(), (given, together) => {
          const places = Float64Array.from(given.flatMap(([x, y]) => (together ? [0, 0] : [x, y])))
          const sizes = Float64Array.from(given, ([, , size]) => size)
          const links = given.slice(1).map((_, i) => ({ a: i, b: i + 1, pullA: 0.5, pullB: 0.5, gap: 0 }))
          const at = drain(relaxed(places, sizes, links, body))
          for (let i = 0; i < given.length; i++)
            for (let j = 0; j < i; j++) {
              const [dx, dy] = [Math.abs(at[2 * i] - at[2 * j]), Math.abs(at[2 * i + 1] - at[2 * j + 1])]
              const far = body === 'circles' ? Math.hypot(dx, dy) : Math.max(dx, dy)
              expect(far).toBeGreaterThan((sizes[i] + sizes[j]) * (1 - 2e-3))
            }
          expect(drain(relaxed(places, sizes, links, body))).toEqual(at)
        }),
        { numRuns: 40 },
      )
    })

  it('stays where nothing is in its way and nothing draws it', () => {
    const places = Float64Array.of(0, 0, 100, 0, 0, 100)
    const at = drain(relaxed(places, Float64Array.of(10, 10, 10), [], 'circles'))
    for (let i = 0; i < 6; i++) expect(Math.abs(at[i] - places[i])).toBeLessThan(0.02)
  })
})

describe('the least cost in all', () => {
  it('is that of the best of all orders', () => {
    const orders = (list: number[]): number[][] =>
      list.length
        ? list.flatMap((one) => orders(list.filter((n) => n !== one)).map((rest) => [one, ...rest]))
        : [[]]
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 4 }),
        fc.array(fc.nat(50), { minLength: 20, maxLength: 20 }),
        (n, list) => {
          const cost = Float64Array.from({ length: n * 5 }, (_, i) => list[i])
          const columns = drain(leastCost(cost, n, 5))
          const sum = (order: ArrayLike<number>) =>
            Array.from({ length: n }, (_, row) => cost[row * 5 + order[row]]).reduce((a, b) => a + b, 0)
          expect(new Set(columns).size).toBe(n)
          expect(sum(columns)).toBe(Math.min(...orders([0, 1, 2, 3, 4]).map(sum)))
        },
      ),
    )
  })
})

describe('a cartogram', () => {
  const areas = board(5)
  const sizes = values(26)
  sizes[3] = NaN
  sizes[4] = 0
  const m2 = 1e9

  it('knows who borders on whom; an island goes with the land that is nearest to it', () => {
    const { links, areas: ground } = planeAreas(areas, plane)
    expect(links.filter(({ gap }) => gap === 0)).toHaveLength(2 * 5 * 4)
    expect(links.at(-1)).toMatchObject({ a: 25, b: 9, pullB: 0 })
    // A degree by a degree at 40° north, km².
    near(ground[0] / 1e6, 9370, 0.01)
  })

  for (const form of cartogramForms.filter((one) => one !== 'continuous'))
    it(`of ${form} gives each area exactly what it is worth, and nothing overlaps`, () => {
      const made = drain(makeCartogram(areas, sizes, { form, m2 }, plane))
      const again = planeAreas(made.geometry as Areas, plane)
      expect(featureCount(made.geometry)).toBe(26)
      expect(made.without).toBe(isTiled(form) ? 0 : 2)
      for (let f = 0; f < 26; f++) {
        const wanted = isTiled(form) ? m2 : m2 * sizes[f]
        if (!(wanted > 0)) expect(again.areas[f]).toBe(0)
        else near(again.areas[f], wanted, 1e-4)
      }
      if (form === 'own shapes') {
        const ground = planeAreas(areas, plane)
        for (let f = 0; f < 26; f++)
          if (sizes[f] > 0) expect(Math.abs(again.centres[2 * f] - ground.centres[2 * f])).toBeLessThan(20)
        expect(made.judged.shiftM).toBe(0)
      } else {
        const reach = (f: number) => Math.sqrt(again.areas[f] / (form === 'squares' ? 4 : Math.PI))
        for (let a = 0; a < 26; a++)
          for (let b = 0; b < a; b++) {
            if (!again.areas[a] || !again.areas[b]) continue
            const [dx, dy] = [0, 1].map((k) => Math.abs(again.centres[2 * a + k] - again.centres[2 * b + k]))
            const far = form === 'squares' ? Math.max(dx, dy) : Math.hypot(dx, dy)
            const apart = isTiled(form) ? 1.7 * reach(a) : reach(a) + reach(b)
            expect(far).toBeGreaterThan(apart * 0.998)
          }
        expect(made.judged.touching / made.judged.pairs).toBeGreaterThan(form === 'squares' ? 0.35 : 0.5)
      }
      expect(drain(makeCartogram(areas, sizes, { form, m2 }, plane)).geometry).toEqual(made.geometry)
    })

  it('of a board of equal fields leaves all neighbours beside each other', () => {
    const made = drain(
      makeCartogram(areas, new Float64Array(26).fill(1), { form: 'square tiles', m2: 8e9 }, plane),
    )
    expect(made.judged).toMatchObject({ pairs: 40, touching: 40 })
  })

  it('tells its progress, and stops where nobody goes on', () => {
    const steps = makeCartogram(areas, sizes, { form: 'circles', m2 }, plane)
    const seen = [steps.next(), steps.next(), steps.next()].map(({ value }) => value as number)
    expect(seen.every((share, i) => share >= 0 && share < 1 && (i === 0 || share >= seen[i - 1]))).toBe(true)
    expect(steps.return(undefined as never).done).toBe(true)
  })

  it('of more areas than there are tiles for has none, and says so', () => {
    const many = board(32)
    const made = drain(makeCartogram(many, values(1025), { form: 'hexagon tiles', m2 }, plane))
    expect(made.tooMany).toBe(1025)
    expect(made.geometry.kind).toBe('none')
  })
})

describe('a cartogram of a planet', () => {
  const states = geometryFromShapes(
    makePlanet({ ...smallPlanet, cities: 1 }).states.map(({ geometry }) => geometry),
  )
  const sizes = values(featureCount(states))

  for (const id of ['robinson', 'orthographic'] as const)
    it(`lies on the map in ${id}; what the map does not show is counted`, () => {
      const projection = createProjection({ id, centre: [20, 0], parallels: [0, 0] })
      for (const form of ['own shapes', 'continuous', 'circles', 'hexagon tiles'] as const) {
        const made = drain(makeCartogram(states as Areas, sizes, { form, m2: 2e11 }, projection))
        if (made.geometry.kind !== 'areas') throw new Error('There are areas.')
        const { coords } = (projectGeometry(made.geometry, projection) as Areas).arcs
        expect(coords.length).toBeGreaterThan(1000)
        expect(coords.every(Number.isFinite)).toBe(true)
        const shown = planeAreas(states as Areas, projection).areas.filter((m2) => m2 > 0).length
        expect(made.unplaced).toBe(featureCount(states) - shown)
        if (form !== 'continuous') continue
        // Figures are those of the shapes as they are on the map, drawn in or not.
        const again = planeAreas(made.geometry, projection).areas
        const worst = Math.max(
          ...Array.from(sizes, (size, f) => (again[f] > 0 ? Math.abs(again[f] / (size * 2e11) - 1) : 0)),
        )
        near(made.fit!.worst, worst, 0.02)
        expect(made.fit!.of).toBe(shown)
        expect(made.bend).not.toBe(null)
      }
    })
})
