import { geoArea, geoContains } from 'd3-geo'
import type { Geometry as Shape, MultiPolygon } from 'geojson'
import { describe, expect, it } from 'vitest'
import { extentOf } from '@/core/geo/extent'
import { featureAt } from '@/core/geo/feature-at'
import { eachVertex, featureCount, ringRange, type Areas } from '@/core/geo/geometry'
import { groundAreas, surfaceOfGlobe } from '@/core/geo/measure'
import { mergeGeometry } from '@/core/geo/merge'
import { borderOutline } from '@/core/geo/outlines'
import { areaOfPoints } from '@/core/geo/points-in-areas'
import { projectGeometry } from '@/core/geo/projected'
import { insidePoints } from '@/core/geo/reshape'
import { geometryFromShapes, shapeOf } from '@/core/geo/shapes'
import { cutFeatures, flatShapeOf } from '@/core/geo/sphere/flat'
import { projectionIds, projections, type ProjectionSpec } from '@/core/projection/catalogue'
import { createProjection, type Projection } from '@/core/projection/projection'
import { makePlanet, smallPlanet } from './planet'

const planet = makePlanet(smallPlanet)
const shapes = planet.states.map(({ geometry }) => geometry)
const states = geometryFromShapes(shapes) as Areas
const ground = groundAreas(states)
const land = ground.reduce((a, b) => a + b, 0)

const reversed = ({ coordinates }: MultiPolygon): MultiPolygon => ({
  type: 'MultiPolygon',
  coordinates: coordinates.map((rings) => rings.map((ring) => [...ring].reverse())),
})

/** Ten thousand places spread evenly over the globe. */
const places = Array.from({ length: 10_000 }, (_, i): [number, number] => [
  ((i * 137.50776405 + 0.31) % 360) - 180,
  (Math.asin(1 - (2 * i + 1) / 10_000) * 180) / Math.PI,
])

/** Square metres on paper, positive where the inside lies on the left; y runs down. */
function paperArea(areas: Areas, f: number): number {
  const { coords } = areas.arcs
  let sum = 0
  const [from, to] = ringRange(areas, f)
  for (let r = from; r < to; r++) {
    let [px, py] = [NaN, NaN]
    eachVertex(areas, r, (v) => {
      const [x, y] = [coords[2 * v], coords[2 * v + 1]]
      if (!Number.isNaN(px)) sum -= (px * y - x * py) / 2
      px = x
      py = y
    })
  }
  return sum
}

describe('the planet', () => {
  it('is as hard as it says', () => {
    expect(planet.states).toHaveLength(220)
    expect(new Set(planet.states.map(({ properties }) => properties.code)).size).toBe(220)
    expect(shapes.flatMap(({ coordinates }) => coordinates).length).toBeGreaterThan(3000)
    // Around the south pole; a band around that; more than half of a hemisphere.
    expect(featureAt(states, 0, -90)).toBe(0)
    expect(shapes[1].coordinates[0]).toHaveLength(2)
    expect(ground[2] / surfaceOfGlobe).toBeGreaterThan(0.25)
    // An enclave in an enclave, and a piece of the land around in that.
    const around = [
      [78, 30.5],
      [78, 27],
      [78, 22],
    ].map(([lon, lat]) => featureAt(states, lon, lat))
    expect(around).toEqual([3, 4, 2])
    expect(cutFeatures(states)).toBeGreaterThan(10)
    expect(new Set(planet.states.map(({ id }) => String(id).length))).toEqual(new Set([3]))
  })
})

describe('areas on the globe', () => {
  it('are the same however rings are wound, and wherever they are cut', () => {
    const cut = shapes.map((_, f) => flatShapeOf(states, f))
    const greenwich = cut.map((shape) => shape && turned(shape))
    for (const [name, given] of Object.entries({ clockwise: shapes.map(reversed), cut, greenwich })) {
      const measured = groundAreas(geometryFromShapes(given))
      measured.forEach((size, f) => expect(Math.abs(size / ground[f] - 1), `${name} ${f}`).toBeLessThan(1e-9))
    }
    // A file that is cut lies within the map, with no edge longer than half of it but along the poles.
    for (const shape of cut)
      for (const ring of many(shape).coordinates.flat())
        ring.forEach(([lon, lat], i) => {
          expect(Math.abs(lon)).toBeLessThanOrEqual(180)
          if (i > 0 && Math.abs(lat) < 90) expect(Math.abs(lon - ring[i - 1][0])).toBeLessThanOrEqual(180)
        })
  })

  it('agree with d3-geo about size and inside', () => {
    const clockwise = shapes.map(reversed)
    clockwise.forEach((shape, f) => {
      // d3-geo knows a sphere only: within the flattening of the ellipsoid.
      expect(Math.abs((ground[f] / surfaceOfGlobe) * 4 * Math.PI) / geoArea(shape)).toBeCloseTo(1, 1)
    })
    for (let i = 0; i < places.length; i += 40) {
      const found = featureAt(states, ...places[i])
      expect(found, String(places[i])).toBe(clockwise.findIndex((shape) => geoContains(shape, places[i])))
    }
  })

  it('lose no ground and gain none when they are merged', () => {
    const whole = mergeGeometry(states, new Int32Array(220), 1)
    expect(groundAreas(whole)[0] / land).toBeCloseTo(1, 12)
    const five = mergeGeometry(
      states,
      Int32Array.from({ length: 220 }, (_, f) => f % 5),
      5,
    )
    expect(groundAreas(five).reduce((a, b) => a + b, 0) / land).toBeCloseTo(1, 12)
    for (let i = 0; i < places.length; i += 10) {
      const at = featureAt(states, ...places[i])
      expect(featureAt(five, ...places[i])).toBe(at < 0 ? -1 : at % 5)
    }
  })

  it('have a point inside each of them', () => {
    expect([...areaOfPoints(states, insidePoints(states))]).toEqual([...planet.states.keys()])
  })

  it('have as extent the smallest interval of longitudes', () => {
    // The twins lie on both sides of the date line; the islands that belong to them are left out.
    const twins = shapes[5].coordinates.slice(0, 2).map((coordinates): MultiPolygon => ({
      type: 'MultiPolygon',
      coordinates: [coordinates],
    }))
    const [west, , east] = extentOf([geometryFromShapes(twins)]) as number[]
    expect(west).toBeGreaterThan(160)
    expect(east).toBeLessThan(200)
    const polar = geometryFromShapes([shapeOf(states, 0)])
    expect(extentOf([polar])?.slice(0, 2)).toEqual([-180, -90])
    const [w, s, e, n] = extentOf([states]) as number[]
    expect([e - w, s, n]).toEqual([360, -90, 90])
    // As the middle of a map it cuts the fewest states, and none does with fewer.
    const cutsOf = (middle: number) => {
      const { frame } = createProjection({ id: 'equal-earth', centre: [middle, 0], parallels: [0, 0] })
      return shapes.filter((shape) =>
        shape.coordinates.flat().some((ring) => {
          const xs = ring.map(([lon, lat]) => frame.toFrame(lon, lat)[0])
          return xs.some((x, i) => i > 0 && Math.abs(x - xs[i - 1]) > 180)
        }),
      ).length
    }
    const fewest = cutsOf((w + e) / 2)
    for (let lon = -180; lon < 180; lon += 15) expect(cutsOf(lon)).toBeGreaterThanOrEqual(fewest)
  })
})

const many = (shape: Shape | null): MultiPolygon =>
  shape?.type === 'Polygon'
    ? { type: 'MultiPolygon', coordinates: [shape.coordinates] }
    : (shape as MultiPolygon)

/** The same shape in longitudes from 0 to 360, cut at Greenwich. */
const turned = (shape: Shape): MultiPolygon =>
  move(many(flatShapeOf(geometryFromShapes([move(many(shape), 180)]), 0)), 180)

const move = ({ coordinates }: MultiPolygon, by: number): MultiPolygon => ({
  type: 'MultiPolygon',
  coordinates: coordinates.map((rings) => rings.map((ring) => ring.map(([lon, lat]) => [lon + by, lat]))),
})

const centres: [number, number][] = [
  [0, 0],
  [152, 38],
  [-41, -62],
]

describe.each(projectionIds.map((id) => ({ id })))('the planet on the projection $id', ({ id }) => {
  it.each(centres)('about %f, %f', (lon, lat) => {
    const spec: ProjectionSpec = {
      id,
      centre: [lon, projections[id].turnsToCentre ? lat : 0],
      parallels: [20, 50],
      ...(projections[id].oblique ? { tiltDeg: 30 } : {}),
    }
    const projection = createProjection(spec)
    const drawn = projectGeometry(states, projection) as Areas
    const { coords } = drawn.arcs
    const [x0, y0, x1, y1] = boundsOf(projection.edge())
    const reach = Math.max(x1 - x0, y1 - y0)
    for (let i = 0; i < coords.length; i += 2) {
      const inside =
        coords[i] >= x0 - 1e-6 * reach &&
        coords[i] <= x1 + 1e-6 * reach &&
        coords[i + 1] >= y0 - 1e-6 * reach &&
        coords[i + 1] <= y1 + 1e-6 * reach
      if (!inside) expect.fail(`${coords[i]}, ${coords[i + 1]} lies outside the edge`)
    }
    // No filled ocean: nothing is turned inside out, and nothing is larger than it is.
    const sizes = Array.from({ length: featureCount(drawn) }, (_, f) => paperArea(drawn, f))
    expect(Math.min(...sizes)).toBeGreaterThanOrEqual(0)
    if (projections[id].property === 'equal-area') {
      expect(Math.abs(sizes.reduce((a, b) => a + b, 0) / land - 1)).toBeLessThan(1e-6)
      sizes.forEach((size, f) => expect(Math.abs(size / ground[f] - 1)).toBeLessThan(1e-4))
    }
    // Every place about the first middle, every tenth about the others.
    const looked = lon === 0 ? places : places.filter((_, i) => i % 10 === 0)
    expect(strangers(drawn, projection, looked)).toEqual([])
    // No line is drawn along a cut: borders are as many arcs as before, or pieces of them.
    const window = { x: -1e5, y: -1e5, width: 2e5, height: 2e5 }
    const lines = borderOutline(drawn, 'all', { mmPerMetre: 1e-4, dx: 0, dy: 0 }, { window })
    if (lines.kind === 'rings')
      for (const end of lines.ends)
        expect(end).toBeLessThanOrEqual(drawn.arcs.starts[drawn.cutFrom ?? drawn.arcs.starts.length - 1])
  })
})

function boundsOf(rings: number[][]): [number, number, number, number] {
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const ring of rings)
    for (let i = 0; i < ring.length; i += 2) {
      box[0] = Math.min(box[0], ring[i])
      box[1] = Math.min(box[1], ring[i + 1])
      box[2] = Math.max(box[2], ring[i])
      box[3] = Math.max(box[3], ring[i + 1])
    }
  return box
}

/** Places where another state is drawn than the one that is found there; those within metres of a border aside. */
function strangers(drawn: Areas, projection: Projection, looked: [number, number][]): string[] {
  const out: string[] = []
  const spots = looked.flatMap((place) => {
    const [x, y] = projection.project(...place)
    return Number.isFinite(x) ? [{ place, x, y, inside: new Set<number>() }] : []
  })
  const byX = [...spots].sort((a, b) => a.x - b.x)
  const xs = byX.map(({ x }) => x)
  const firstAbove = (x: number): number => {
    let [low, high] = [0, xs.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (xs[middle] < x) low = middle + 1
      else high = middle
    }
    return low
  }
  const { coords } = drawn.arcs
  for (let f = 0; f < featureCount(drawn); f++) {
    const [from, to] = ringRange(drawn, f)
    for (let r = from; r < to; r++) {
      let [px, py] = [NaN, NaN]
      eachVertex(drawn, r, (v) => {
        const [x, y] = [coords[2 * v], coords[2 * v + 1]]
        if (!Number.isNaN(px) && x !== px) {
          // Every spot above an edge changes sides.
          for (let i = firstAbove(Math.min(px, x)); i < xs.length && xs[i] < Math.max(px, x); i++)
            if (py + ((y - py) * (xs[i] - px)) / (x - px) < byX[i].y) {
              if (byX[i].inside.has(f)) byX[i].inside.delete(f)
              else byX[i].inside.add(f)
            }
        }
        px = x
        py = y
      })
    }
  }
  for (const { place, x, y, inside } of spots) {
    const there = projection.invert(x, y)
    const found = there ? featureAt(states, ...there) : NaN
    const drawnThere = inside.size ? [...inside].join() : '-1'
    if (String(found) === drawnThere) continue
    const near = [-3e-4, 0, 3e-4].flatMap((dx) =>
      [-3e-4, 0, 3e-4].map((dy) =>
        featureAt(
          states,
          place[0] + dx / Math.max(0.01, Math.cos((place[1] * Math.PI) / 180)),
          place[1] + dy,
        ),
      ),
    )
    if (new Set(near).size === 1) out.push(`${place.join(', ')}: ${drawnThere} is drawn, ${found} is found`)
  }
  return out
}
