import fc from 'fast-check'
import type { MultiPolygon, Position } from 'geojson'
import { describe, expect, it } from 'vitest'
import { featureAt } from '../feature-at'
import type { Areas } from '../geometry'
import { groundAreas } from '../measure'
import { differenceOf, intersectionOf, type Polygons } from '../polygon-clipping'
import { geometryFromShapes } from '../shapes'
import { wrapped } from './longitudes'
import { onSphere } from './sew'
import { surfaceInside } from './sine-integral'

/** A shape in longitudes that run on: rings of one polygon, the outer one first. */
type Drawn = Position[][]

const closed = (places: Position[]): Position[] => [...places, places[0]]
const round = (value: number, step: number): number => Math.round(value / step) * step

/** A ragged ring round a place; its radii are shares of `size` degrees. */
const ragged = ([lon, lat]: Position, size: number, radii: number[]): Position[] =>
  closed(
    radii.map((radius, k): Position => {
      const angle = (2 * Math.PI * k) / radii.length
      return [lon + size * radius * Math.cos(angle), lat + size * radius * Math.sin(angle)]
    }),
  )

/** Shapes over the date line, some with a hole on it. */
const shapes: fc.Arbitrary<Drawn> = fc
  .record({
    lon: fc.double({ min: 172, max: 188, noNaN: true }),
    lat: fc.double({ min: -60, max: 60, noNaN: true }),
    size: fc.double({ min: 0.5, max: 20, noNaN: true }),
    radii: fc.array(fc.double({ min: 0.4, max: 1, noNaN: true }), { minLength: 3, maxLength: 14 }),
    hole: fc.option(fc.double({ min: 0.05, max: 0.15, noNaN: true })),
  })
  .map(({ lon, lat, size, radii, hole }) => {
    const outer = ragged([lon, lat], size, radii)
    // A hole fits into what all radii leave in the middle, where there are enough of them.
    return hole && radii.length > 5 ? [outer, ragged([lon, lat], size * hole, [1, 1, 1, 1])] : [outer]
  })

const box = (west: number, east: number): Polygons => [
  [closed([[west, -90] as Position, [east, -90], [east, 90], [west, 90]])],
]
const shifted = (polygons: Polygons, by: number): Polygons =>
  polygons.map((rings) => rings.map((ring) => ring.map(([x, y]): Position => [x + by, y])))
/** A shape cut at a meridian, in longitudes from there on for a whole turn. */
const cutAt = (drawn: Drawn, line: number): Polygons => [
  ...intersectionOf([drawn], box(line - 360, line)),
  ...shifted(intersectionOf([drawn], box(line, line + 360)), -360),
]

/** A ring that steps over the date line and has both its names there, as topologies do that were put together. */
const withBothNames = (ring: Position[]): Position[] =>
  ring.flatMap(([x, y], i): Position[] => {
    const [x0, y0] = ring[Math.max(0, i - 1)]
    const here: Position = [wrapped(x), y]
    if (x > 180 === x0 > 180) return [here]
    const lat = y0 + ((180 - x0) / (x - x0)) * (y - y0)
    return x > 180 ? [[180, lat], [-180, lat], here] : [[-180, lat], [180, lat], here]
  })

const conventions: Record<string, (drawn: Drawn) => Polygons> = {
  'not cut, names from −180 to 180': (drawn) => [drawn.map((ring) => ring.map(([x, y]) => [wrapped(x), y]))],
  'not cut, longitudes running on': (drawn) => [drawn],
  'not cut, below −180': (drawn) => shifted([drawn], -360),
  'cut at the date line': (drawn) => cutAt(drawn, 180),
  'cut there, both sides called 180': (drawn) =>
    cutAt(drawn, 180).map((rings) => rings.map((ring) => ring.map(([x, y]) => [x === -180 ? 180 : x, y]))),
  'cut there, both sides called −180': (drawn) =>
    cutAt(drawn, 180).map((rings) => rings.map((ring) => ring.map(([x, y]) => [x === 180 ? -180 : x, y]))),
  'put together with both names of the line': (drawn) => [drawn.map(withBothNames)],
  'cut at another meridian, from −170 to 190': (drawn) => cutAt(drawn, 190).map((rings) => rings),
  'the other way round': (drawn) =>
    cutAt(drawn, 180).map((rings) => rings.map((ring) => [...ring].reverse())),
}

const inRing = (ring: Position[], x: number, y: number): boolean => {
  let inside = false
  for (let i = 1; i < ring.length; i++) {
    const [[ax, ay], [bx, by]] = [ring[i - 1], ring[i]]
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside
  }
  return inside
}
const holds = (drawn: Drawn, x: number, y: number): boolean =>
  drawn.filter((ring) => inRing(ring, x, y)).length % 2 === 1

function stored(polygons: Polygons): Areas {
  const shape: MultiPolygon = { type: 'MultiPolygon', coordinates: polygons }
  expect(onSphere(shape).refused).toBeUndefined()
  return geometryFromShapes([shape]) as Areas
}
const sizeOf = (drawn: Drawn): number =>
  drawn.reduce((sum, ring, r) => sum + (r ? -1 : 1) * Math.abs(surfaceInside(ring)), 0)

/** A raster of places over a shape, off its vertices and off the line. */
const raster = (drawn: Drawn): Position[] => {
  const [xs, ys] = [drawn[0].map(([x]) => x), drawn[0].map(([, y]) => y)]
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
  return Array.from({ length: 144 }, (_, k): Position => [
    x0 + (x1 - x0) * (((k % 12) + 0.5377) / 12) * 1.02,
    y0 + (y1 - y0) * ((Math.floor(k / 12) + 0.4811) / 12),
  ])
}

/** What is expected of a file: the same size, and the same places inside. */
function expectSame(drawn: Drawn, polygons: Polygons): void {
  const areas = stored(polygons)
  const size = sizeOf(drawn)
  expect(Math.abs(groundAreas(areas)[0] / size - 1)).toBeLessThan(1e-6)
  for (const [x, y] of raster(drawn))
    expect(featureAt(areas, wrapped(x), y) === 0, `${x} ${y}`).toBe(holds(drawn, x, y))
}

describe('areas over the date line are the same', () => {
  for (const [name, written] of Object.entries(conventions))
    it(`in files that are ${name}`, () => {
      fc.assert(
        fc.property(shapes, (drawn) => expectSame(drawn, written(drawn))),
        { numRuns: 60 },
      )
    })

  it('in files cut at Greenwich, with longitudes up to 360', () => {
    fc.assert(
      fc.property(shapes, (drawn) => {
        const moved = drawn.map((ring) => ring.map(([x, y]): Position => [x - 180, y]))
        const pieces = [
          ...intersectionOf([moved], box(0, 180)),
          ...shifted(intersectionOf([moved], box(-180, 0)), 360),
        ]
        expectSame(moved, pieces)
      }),
      { numRuns: 60 },
    )
  })

  it('in files of rounded figures, before cutting and after', () => {
    fc.assert(
      fc.property(shapes, fc.constantFrom(0.01, 1 / 128, 0.0036), (drawn, step) => {
        const coarse = drawn.map((ring) =>
          ring.map(([x, y]): Position => [180 + round(x - 180, step), round(y, step)]),
        )
        fc.pre(coarse.length === 1)
        for (const written of [
          conventions['cut at the date line'],
          conventions['not cut, longitudes running on'],
        ])
          expectSame(coarse, written(coarse))
        // Rounding what was cut moves every piece by itself; what comes out is as large as what the file says then.
        const after = conventions['cut at the date line'](drawn).map((rings) =>
          rings.map((ring) => ring.map(([x, y]): Position => [round(x + 180, step) - 180, round(y, step)])),
        )
        const said = after.reduce((sum, rings) => sum + sizeOf(rings), 0)
        fc.pre(after.flat().every((ring) => Math.abs(surfaceInside(ring)) > 1))
        expect(Math.abs(groundAreas(stored(after))[0] / said - 1)).toBeLessThan(1e-6)
      }),
      { numRuns: 60 },
    )
  })

  it('where a ring has ten places and a step of a whole turn within a few kilometres', () => {
    const ring: Position[] = [
      ...[
        [180, 21.5],
        [179.986, 21.48],
        [179.986, 21.46],
        [-180, 21.4],
        [-179.94, 21.35],
      ],
      ...[
        [-179.9, 21.34],
        [-179.93, 21.44],
        [-180, 21.5],
        [180, 21.5],
      ],
    ]
    const size = groundAreas(stored([[ring]]))[0]
    const plain = Math.abs(surfaceInside(ring.map(([x, y]): Position => [x < 0 ? x + 360 : x, y])))
    expect(size / plain).toBeCloseTo(1, 9)
    expect(size).toBeLessThan(2e8)
  })

  it('where islands of three places lie on the line, and pieces touch it at one place', () => {
    const island: Position[] = closed([
      [179.99, 10],
      [180, 10.01],
      [180.01, 10],
    ])
    for (const written of Object.values(conventions)) expectSame([island], written([island]))
    const touching: Polygons = [
      [
        closed([
          [179, 0],
          [180, 0.5],
          [179, 1],
        ]),
      ],
      [
        closed([
          [-179, 0],
          [-179, 1],
          [-180, 0.5],
        ]),
      ],
    ]
    const size = touching.reduce((sum, rings) => sum + sizeOf(rings), 0)
    expect(groundAreas(stored(touching))[0] / size).toBeCloseTo(1, 9)
  })

  it('where a ring on the line has collapsed: it does not become the whole globe', () => {
    const flat: Position[] = closed([
      [180, 20],
      [180, 20.1],
      [180, 20.05],
    ])
    expect(groundAreas(stored([[flat]]))[0] ?? 0).toBe(0)
    const both: Position[] = closed([
      [180, 20],
      [-180, 20],
      [180, 20.1],
    ])
    expect(groundAreas(stored([[both]]))[0] ?? 0).toBe(0)
  })
})

/** A coast round the south pole: latitudes at as many longitudes from −180 to 180. */
const coasts = fc.array(fc.double({ min: -85, max: -62, noNaN: true }), { minLength: 4, maxLength: 30 })
const coastOf = (lats: number[]): Position[] =>
  [...lats, lats[0]].map((lat, k): Position => [-180 + (360 * k) / lats.length, lat])

const closings: Record<string, (coast: Position[]) => Position[]> = {
  'at the pole': (coast) => [...coast, [180, -90], [-180, -90], coast[0]],
  'short of the pole': (coast) => [...coast, [180, -89.9999], [-180, -89.9999], coast[0]],
  'by a run of vertices': (coast) => [
    ...coast,
    ...Array.from({ length: 13 }, (_, k): Position => [180 - 30 * k, -90]),
    coast[0],
  ],
  'not at all': (coast) => [...coast, coast[0]],
  'only by name': (coast) => [...coast.slice(0, -1), coast[0]],
}

describe('areas round a pole are the same', () => {
  for (const [name, close] of Object.entries(closings))
    for (const north of [false, true])
      for (const turned of [false, true])
        it(`where they are closed ${name}, ${north ? 'north' : 'south'}${turned ? ', the other way round' : ''}`, () => {
          fc.assert(
            fc.property(coasts, (lats) => {
              // A last step of less is one along the map.
              fc.pre(name !== 'only by name' || lats.length > 7)
              const coast = coastOf(lats)
              const flip = ([x, y]: Position): Position => (north ? [x, -y] : [x, y])
              const drawn = close(coast).map(flip)
              const areas = stored([[turned ? [...drawn].reverse() : drawn]])
              const cap = Math.abs(
                surfaceInside([...coast, [180, -90], [90, -90], [0, -90], [-90, -90], [-180, -90], coast[0]]),
              )
              expect(Math.abs(groundAreas(areas)[0] / cap - 1)).toBeLessThan(1e-6)
              const pole = north ? 90 : -90
              expect(featureAt(areas, 12, pole * 0.99)).toBe(0)
              expect(featureAt(areas, 12, -pole * 0.99)).toBe(-1)
              expect(featureAt(areas, 12, pole * 0.6)).toBe(-1)
            }),
            { numRuns: 40 },
          )
        })
})

describe('areas that would change their size by being put together', () => {
  it('are never so: what is refused is as large as in the file', () => {
    fc.assert(
      fc.property(shapes, shapes, (a, b) => {
        // Pieces that lie over each other are no areas that anybody drew; their sizes stay all the same.
        const pieces = [...cutAt(a, 180), ...cutAt(b, 180)]
        const said = pieces.reduce((sum, rings) => sum + sizeOf(rings), 0)
        const { shape } = onSphere({ type: 'MultiPolygon', coordinates: pieces })
        const areas = geometryFromShapes([shape]) as Areas
        expect(Math.abs(groundAreas(areas)[0] / said - 1)).toBeLessThan(1e-6)
      }),
      { numRuns: 100 },
    )
  })

  it('are left as the file cuts them, and this is told', () => {
    // A rock of a metre, one side of which lies a few millimetres beside the line: a hundredth of its width.
    const [west, east] = [180 - 1e-5, 180 - 6e-8]
    const rock = closed([
      [west, 10],
      [east, 10],
      [east, 10.00001],
      [west, 10.00001],
    ])
    const { shape, refused } = onSphere({ type: 'Polygon', coordinates: [rock] })
    expect(refused).toBe(true)
    const said = Math.abs(surfaceInside(rock))
    expect(groundAreas(geometryFromShapes([shape]))[0] / said).toBeCloseTo(1, 6)
  })

  it('and an area apart from a hole in it stays with it', () => {
    const ground = differenceOf(
      [[ragged([180, 0], 10, [1, 1, 1, 1, 1, 1])]],
      [ragged([180, 0], 2, [1, 1, 1])],
    )
    expectSame(ground[0], cutAt(ground[0], 180))
  })
})
