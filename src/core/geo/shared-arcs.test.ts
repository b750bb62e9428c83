import fc from 'fast-check'
import { topology } from 'topojson-server'
import type { FeatureCollection, Position } from 'geojson'
import type { GeometryObject } from 'topojson-specification'
import { describe, expect, it } from 'vitest'
import { geometryFromTopology } from './from-topology'
import { arcNeighbours, type Areas, type Lines } from './geometry'
import { geometryFromShapes, polygonsOf, ringPositions } from './shapes'

/** What a library for topologies makes of the same shapes. */
function expected(shapes: (GeoJSON.Geometry | null)[]): Areas | Lines {
  const features = shapes.map((geometry) => ({ type: 'Feature', properties: {}, geometry }))
  const built = topology({ all: { type: 'FeatureCollection', features } as FeatureCollection })
  return geometryFromTopology(built, built.objects.all as GeometryObject) as Areas | Lines
}

/** Every edge of the arcs, whichever way it runs, and how often it stands there. */
function edgesOf({ arcs: { coords, starts } }: Areas | Lines): string[] {
  const edges: string[] = []
  for (let a = 0; a + 1 < starts.length; a++)
    for (let v = starts[a]; v + 1 < starts[a + 1]; v++)
      edges.push(
        [`${coords[2 * v]} ${coords[2 * v + 1]}`, `${coords[2 * v + 2]} ${coords[2 * v + 3]}`]
          .sort()
          .join(', '),
      )
  return edges.sort()
}

const asAreas = (shapes: (GeoJSON.Geometry | null)[]) => geometryFromShapes(shapes) as Areas
const polygon = (...coordinates: Position[][]): GeoJSON.Geometry => ({ type: 'Polygon', coordinates })
const box = (west: number, south: number, east: number, north: number): Position[] => [
  [west, south],
  [east, south],
  [east, north],
  [west, north],
  [west, south],
]

/** Rectangles that fill a board, some left out, with vertices wherever lines meet. */
const boards = fc
  .record({
    columns: fc.integer({ min: 1, max: 6 }),
    rows: fc.integer({ min: 1, max: 6 }),
    left: fc.array(fc.integer({ min: 0, max: 35 }), { maxLength: 12 }),
    turned: fc.array(fc.boolean(), { minLength: 36, maxLength: 36 }),
    begin: fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 36, maxLength: 36 }),
  })
  .map(({ columns, rows, left, turned, begin }) =>
    Array.from({ length: columns * rows }, (_, i): GeoJSON.Geometry | null => {
      if (left.includes(i)) return null
      const [x, y] = [i % columns, Math.floor(i / columns)]
      const open = box(x, y, x + 1, y + 1).slice(0, 4)
      const ring = [...open.slice(begin[i]), ...open.slice(0, begin[i])]
      if (turned[i]) ring.reverse()
      return polygon([...ring, ring[0]])
    }),
  )

describe('arcs that areas share', () => {
  it('are those that a library for topologies finds, each edge once', () => {
    fc.assert(
      fc.property(boards, (shapes) => {
        if (shapes.every((shape) => shape === null)) return
        const [own, other] = [asAreas(shapes), expected(shapes) as Areas]
        expect(edgesOf(own)).toEqual(edgesOf(other))
        expect(new Set(edgesOf(own)).size).toBe(edgesOf(own).length)
        expect(own.arcs.starts.length).toBe(other.arcs.starts.length)
        expect([...arcNeighbours(own)].filter((f) => f >= 0).length).toBe(
          [...arcNeighbours(other)].filter((f) => f >= 0).length,
        )
        for (let f = 0; f < shapes.length; f++) expect(polygonsOf(own, f)).toEqual(polygonsOf(other, f))
      }),
    )
  })

  it('are shared by a hole and the island in it, wherever either begins and whichever way it runs', () => {
    const hole = box(2, 2, 4, 4)
    const island = [hole[2], hole[3], hole[0], hole[1], hole[2]]
    for (const inside of [island, [...island].reverse()]) {
      const areas = asAreas([polygon(box(0, 0, 9, 9), hole), polygon(inside)])
      expect(areas.arcs.starts.length - 1).toBe(2)
      expect(new Set(arcNeighbours(areas))).toEqual(new Set([0, -1, 1]))
      expect(polygonsOf(areas, 1)[0][0]).toHaveLength(5)
    }
  })

  it('are shared by copies, and by rings that touch in a point', () => {
    const twice = asAreas([polygon(box(0, 0, 1, 1)), polygon(box(0, 0, 1, 1))])
    expect(twice.arcs.starts.length - 1).toBe(1)
    const touching = asAreas([polygon(box(0, 0, 1, 1)), polygon(box(1, 1, 2, 2))])
    expect(edgesOf(touching)).toEqual(edgesOf(expected([polygon(box(0, 0, 1, 1)), polygon(box(1, 1, 2, 2))])))
    expect(polygonsOf(touching, 1)[0][0]).toHaveLength(5)
    // Zero has two signs.
    const signs = asAreas([polygon(box(-1, 0, 0, 1)), polygon(box(-0, -0, 1, 1))])
    expect(signs.arcs.starts.length - 1).toBe(3)
  })
})

describe('arcs that lines share', () => {
  it('are cut where paths meet, and each edge stands once', () => {
    const place = fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 }))
    const path = fc.array(place, { minLength: 2, maxLength: 9 })
    fc.assert(
      fc.property(fc.array(path, { minLength: 1, maxLength: 6 }), (paths) => {
        const clean = paths
          .map((one) => one.filter((p, i) => i === 0 || p[0] !== one[i - 1][0] || p[1] !== one[i - 1][1]))
          .filter((one) => one.length > 1)
        if (!clean.length) return
        const shapes = clean.map((coordinates): GeoJSON.Geometry => ({ type: 'LineString', coordinates }))
        const own = geometryFromShapes(shapes) as Lines
        clean.forEach((one, r) => expect(ringPositions(own, r)).toEqual(one))
        const other = expected(shapes) as Lines
        expect(new Set(edgesOf(own))).toEqual(new Set(edgesOf(other)))
      }),
    )
  })
})
