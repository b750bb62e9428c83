import fc from 'fast-check'
import { topology } from 'topojson-server'
import type { FeatureCollection, Geometry as Shape } from 'geojson'
import type { GeometryObject } from 'topojson-specification'
import { describe, expect, it } from 'vitest'
import { trace } from '@/core/scene/outline'
import { featureAt } from './feature-at'
import { geometryFromTopology } from './from-topology'
import { generalise } from './generalise'
import { arcNeighbours, featureCount, type Areas, type Geometry, type Lines } from './geometry'
import { extentOf } from './extent'
import { ringShape } from './sphere/rings'
import { borderOutline, featureOutline } from './outlines'

function geometryOf(...shapes: (Shape | null)[]): Geometry {
  const collection = {
    type: 'FeatureCollection',
    features: shapes.map((geometry) => ({ type: 'Feature', properties: {}, geometry })),
  } as FeatureCollection
  const built = topology({ all: collection })
  return geometryFromTopology(built, built.objects.all as GeometryObject)
}

function areasOf(...shapes: (Shape | null)[]): Areas {
  const geometry = geometryOf(...shapes)
  if (geometry.kind !== 'areas') throw new Error(`These are ${geometry.kind}.`)
  return geometry
}

const square = (x: number, y: number, size: number): [number, number][] => [
  [x, y],
  [x + size, y],
  [x + size, y + size],
  [x, y + size],
  [x, y],
]
const polygon = (...rings: [number, number][][]): Shape => ({ type: 'Polygon', coordinates: rings })
// Two squares side by side, the right one with a hole, and a lone one.
const left = polygon(square(0, 0, 10))
const right = polygon(square(10, 0, 10), square(13, 3, 4))
const lone = polygon(square(40, 40, 2))
const areas = areasOf(left, right, lone)

const everywhere = { x: -1e6, y: -1e6, width: 2e6, height: 2e6 }
const asIs = { mmPerMetre: 1, dx: 0, dy: 0 }

function segments(outline: Parameters<typeof trace>[0]): string[] {
  const out: string[] = []
  let [px, py] = [0, 0]
  const to = (x: number, y: number) => {
    out.push([[px, py].join(), [x, y].join()].sort().join(' '))
    ;[px, py] = [x, y]
  }
  trace(outline, {
    moveTo: (x, y) => void ([px, py] = [x, y]),
    lineTo: to,
    bezierCurveTo: () => undefined,
    closePath: () => undefined,
  })
  return out
}

describe('the geometry store', () => {
  it('keeps a shared border as one arc with both neighbours', () => {
    const sides = arcNeighbours(areas)
    const pairs = Array.from({ length: sides.length / 2 }, (_, a) => [sides[2 * a], sides[2 * a + 1]].join())
    expect(pairs.filter((pair) => pair === '0,1' || pair === '1,0')).toHaveLength(1)
  })

  it('turns outer rings anticlockwise and holes clockwise, however they came', () => {
    const reversed = areasOf(polygon([...square(0, 0, 10)].reverse(), square(2, 2, 3)))
    expect(ringShape(reversed, 0).area).toBeCloseTo(200, 9)
    expect(ringShape(reversed, 1).area).toBeCloseTo(-18, 9)
  })

  it('holds features without a shape, lines and points', () => {
    expect(featureCount(areasOf(left, null))).toBe(2)
    expect(
      geometryOf(
        {
          type: 'MultiPoint',
          coordinates: [
            [1, 2],
            [3, 4],
          ],
        },
        { type: 'Point', coordinates: [5, 6] },
      ),
    ).toMatchObject({ kind: 'points', featureStarts: Uint32Array.of(0, 2, 3) })
    expect(
      geometryOf({
        type: 'LineString',
        coordinates: [
          [0, 0],
          [1, 1],
        ],
      }).kind,
    ).toBe('lines')
    expect(() => geometryOf(left, { type: 'Point', coordinates: [0, 0] })).toThrow('mixes areas and points')
  })

  it('has an extent that does not run round the world at the antimeridian', () => {
    expect(extentOf([areas])).toEqual([0, 0, 42, 42])
    expect(
      extentOf([
        geometryOf({
          type: 'MultiPoint',
          coordinates: [
            [178, -17],
            [-179, -16],
          ],
        }),
      ]),
    ).toEqual([178, -17, 181, -16])
    expect(
      extentOf([
        geometryOf({
          type: 'MultiPoint',
          coordinates: [
            [-32.0243, 46.1],
            [-23.7461, 51.8],
          ],
        }),
      ]),
    ).toEqual([-32.0243, 46.1, -23.7461, 51.8])
    expect(extentOf([{ kind: 'none' }])).toBeNull()
  })
})

describe('finding the area under a place', () => {
  it('sees inside, outside and holes', () => {
    expect(featureAt(areas, 5, 5)).toBe(0)
    expect(featureAt(areas, 11, 5)).toBe(1)
    expect(featureAt(areas, 15, 5)).toBe(-1)
    expect(featureAt(areas, 41, 41)).toBe(2)
    expect(featureAt(areas, -5, 5)).toBe(-1)
    expect(featureAt({ kind: 'none' }, 0, 0)).toBe(-1)
  })
})

describe('borders', () => {
  it('between areas are drawn once, coasts apart from them, and both together are all', () => {
    const [between, outer, all] = (['between', 'outer', 'all'] as const).map((which) =>
      segments(borderOutline(areas, which, asIs, { window: everywhere })),
    )
    expect(between).toEqual(['10,0 10,10'])
    expect(outer).toHaveLength(3 + 3 + 4 + 4)
    expect([...between, ...outer].sort()).toEqual([...all].sort())
    expect(new Set(all).size).toBe(all.length)
  })

  it('wholly outside the window are left out', () => {
    expect(
      segments(borderOutline(areas, 'outer', asIs, { window: { x: 39, y: 39, width: 5, height: 5 } })),
    ).toHaveLength(4)
  })
})

describe('outlines of features', () => {
  it('are placed on paper, with the subpaths of each feature', () => {
    const { outline, offsets, kept } = featureOutline(
      areas,
      [1, 2],
      { mmPerMetre: 2, dx: 100, dy: 0 },
      everywhere,
    )
    expect([...offsets]).toEqual([0, 2, 3])
    expect(kept).toEqual([1, 2])
    expect(segments(outline)).toContain('120,0 120,20')
  })

  it('share their vertices, whichever features are chosen and wherever they lie', () => {
    const a = featureOutline(areas, [0], asIs, everywhere).outline
    const b = featureOutline(areas, [2, 1], { mmPerMetre: 3, dx: 1, dy: 1 }, everywhere).outline
    expect(a.kind === 'rings' && b.kind === 'rings' && a.coords === b.coords).toBe(true)
  })

  it('outside the window are left out', () => {
    expect(featureOutline(areas, [0, 1, 2], asIs, { x: 0, y: 0, width: 5, height: 5 }).kept).toEqual([0])
    expect(featureOutline(areas, [0, 1, 2], asIs, { x: 30, y: 0, width: 5, height: 5 }).kept).toEqual([])
  })
})

describe('generalising', () => {
  const wavy = Array.from({ length: 101 }, (_, i): [number, number] => [10 + Math.sin(i) * 0.3, i / 10])
  const pair = areasOf(
    polygon([[0, 0], ...wavy, [0, 10], [0, 0]]),
    polygon([...wavy, [20, 10], [20, 0], wavy[0]]),
  )

  it('drops what cannot be seen and keeps shared borders shared', () => {
    const thin = generalise(pair, 1)
    if (thin.kind !== 'areas') throw new Error('Areas stay areas.')
    expect(thin.arcs.coords.length).toBeLessThan(pair.arcs.coords.length / 2)
    expect(segments(borderOutline(thin, 'between', asIs, { window: everywhere })).length).toBeGreaterThan(0)
    for (const f of [0, 1]) {
      const own = segments(featureOutline(thin, [f], asIs, everywhere).outline)
      for (const border of segments(borderOutline(thin, 'between', asIs, { window: everywhere })))
        expect(own).toContain(border)
    }
  })

  it('leaves no vertex nearer to the last than the tolerance, ends of arcs aside', () => {
    const { arcs } = generalise(pair, 1) as Areas
    for (let arc = 0; arc + 1 < arcs.starts.length; arc++)
      for (let v = arcs.starts[arc] + 1; v < arcs.starts[arc + 1] - 1; v++)
        expect(
          Math.hypot(
            arcs.coords[2 * v] - arcs.coords[2 * v - 2],
            arcs.coords[2 * v + 1] - arcs.coords[2 * v - 1],
          ),
        ).toBeGreaterThanOrEqual(0.7)
  })

  it('keeps every vertex within the tolerance of what is left, and the ends of each arc', () => {
    const wiggle = fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 3, maxLength: 60 })
    fc.assert(
      fc.property(wiggle, fc.double({ min: 0.2, max: 4, noNaN: true }), (heights, tolerance) => {
        const coords = Float64Array.from(heights.flatMap((y, x) => [x, y]))
        const line: Lines = {
          kind: 'lines',
          arcs: { coords, starts: Uint32Array.of(0, heights.length) },
          refs: Int32Array.of(0),
          ringStarts: Uint32Array.of(0, 1),
          featureStarts: Uint32Array.of(0, 1),
        }
        const { arcs } = generalise(line, tolerance) as Lines
        expect([...arcs.coords.slice(0, 2)]).toEqual([0, heights[0]])
        expect([...arcs.coords.slice(-2)]).toEqual([heights.length - 1, heights[heights.length - 1]])
        for (const [x, y] of heights.map((y, x) => [x, y]))
          expect(distanceTo(arcs.coords, x, y)).toBeLessThanOrEqual(1.5 * tolerance + 1e-9)
      }),
    )
  })

  it('hands the last result on while the tolerance is about the same', () => {
    expect(generalise(pair, 1.02)).toBe(generalise(pair, 1.1))
    expect(generalise(pair, 0)).toBe(pair)
  })
})

/** How far a place is from a line, given by its vertices. */
function distanceTo(coords: Float64Array, x: number, y: number): number {
  let least = Infinity
  for (let i = 0; i + 3 < coords.length; i += 2) {
    const [ax, ay, bx, by] = coords.subarray(i, i + 4)
    const length = (bx - ax) ** 2 + (by - ay) ** 2
    const along = length ? ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length : 0
    const share = Math.min(1, Math.max(0, along))
    least = Math.min(least, Math.hypot(x - ax - share * (bx - ax), y - ay - share * (by - ay)))
  }
  return least
}
