import { describe, expect, it } from 'vitest'
import { createProjection } from '@/core/projection/projection'
import { eachVertex, featureCount, type Geometry } from './geometry'
import { groundAreas, groundLengths } from './measure'
import { memoryInUse } from '@/core/memory/memory'
import { generalise } from './generalise'
import { featureOutline } from './outlines'
import { projectGeometry } from './projected'
import { geometryFromShapes, shapeOf } from './shapes'
import { takeFeatures } from './take-features'
import geographiclib from 'geographiclib-geodesic'

const box = (west: number, south: number, east: number, north: number): GeoJSON.Geometry => ({
  type: 'Polygon',
  coordinates: [
    [
      [west, south],
      [east, south],
      [east, north],
      [west, north],
      [west, south],
    ],
  ],
})
const world = createProjection({ id: 'equal-earth', centre: [0, 0], parallels: [0, 0] })
const local = createProjection({ id: 'lambert-azimuthal-equal-area', centre: [-28, 49], parallels: [0, 0] })

/** Square metres on paper of every feature. */
function paperAreas(geometry: Geometry): number[] {
  if (geometry.kind !== 'areas') throw new Error('Areas stay areas.')
  return Array.from({ length: featureCount(geometry) }, (_, f) => {
    let sum = 0
    for (
      let r = geometry.polygonStarts[geometry.featureStarts[f]];
      r < geometry.polygonStarts[geometry.featureStarts[f + 1]];
      r++
    ) {
      let [px, py] = [NaN, NaN]
      eachVertex(geometry, r, (v) => {
        const [x, y] = [geometry.arcs.coords[2 * v], geometry.arcs.coords[2 * v + 1]]
        if (!Number.isNaN(px)) sum += (px * y - x * py) / 2
        px = x
        py = y
      })
    }
    return Math.abs(sum)
  })
}

describe('projecting', () => {
  it('is done once for each projection and kept', () => {
    const areas = geometryFromShapes([box(-29, 48, -27, 50)])
    expect(projectGeometry(areas, local)).toBe(projectGeometry(areas, local))
    expect(projectGeometry(areas, local)).not.toBe(projectGeometry(areas, world))
  })

  it('is shared by the features that a filter leaves, with thinning and outlines', () => {
    const whole = geometryFromShapes([box(-30, 48, -29, 50), box(-29, 48, -28, 50), box(-28, 48, -27, 50)])
    const some = takeFeatures(whole, [2, 0])
    const fewer = takeFeatures(some, [1])
    const projected = [whole, some, fewer].map((geometry) =>
      generalise(projectGeometry(geometry, local), 1000),
    )
    const arcs = projected.map((geometry) => geometry.kind === 'areas' && geometry.arcs)
    expect(arcs[1]).toBe(arcs[0])
    expect(arcs[2]).toBe(arcs[0])
    const to = { mmPerMetre: 1 / 5000, dx: 0, dy: 0 }
    const window = { x: -1e4, y: -1e4, width: 2e4, height: 2e4 }
    const outlines = [
      featureOutline(projected[0], [0], to, window),
      featureOutline(projected[2], [0], to, window),
    ]
    expect(outlines[1].outline).toEqual(outlines[0].outline)
    const coords = outlines.map(({ outline }) => outline.kind === 'rings' && outline.coords)
    expect(coords[1]).toBe(coords[0])
    expect(shapeOf(fewer, 0)).toEqual(shapeOf(whole, 0))
  })

  it('of some features of torn areas gives the same as projecting them by themselves', () => {
    const whole = geometryFromShapes([box(170, 10, 190, 20), box(-20, 40, -10, 50), box(178, -20, 182, 5)])
    const bare = geometryFromShapes([box(178, -20, 182, 5)])
    expect(paperAreas(projectGeometry(takeFeatures(whole, [2]), world))[0]).toBeCloseTo(
      paperAreas(projectGeometry(bare, world))[0],
      0,
    )
  })

  it('keeps several projections at once, and many tolerances in bounded room', () => {
    const areas = geometryFromShapes([box(-29, 48, -27, 50)])
    const centred = (lon: number) => createProjection({ ...local.spec, centre: [lon, 49] })
    const first = projectGeometry(areas, centred(-28))
    for (let lon = -27; lon < -15; lon++) projectGeometry(areas, centred(lon))
    expect(projectGeometry(areas, centred(-28))).toBe(first)
    for (let n = 0; n < 500; n++) generalise(first, 1.3 ** (n % 40) + n)
    for (const { bytes, maxBytes } of memoryInUse()) expect(bytes).toBeLessThanOrEqual(maxBytes)
  })

  it('bends long straight edges: a parallel becomes an arc of many pieces', () => {
    const areas = geometryFromShapes([box(-38, 42, -18, 56)])
    const projected = projectGeometry(areas, local)
    expect(projected.kind === 'areas' && projected.arcs.coords.length / 2).toBeGreaterThan(100)
  })

  it('cuts areas where the world map is torn, and loses no ground', () => {
    const areas = geometryFromShapes([box(170, -20, 190, -5), box(10, 40, 30, 55)])
    const projected = projectGeometry(areas, world)
    if (projected.kind !== 'areas') throw new Error('Areas stay areas.')
    expect(projected.polygonStarts[projected.featureStarts[1]]).toBeGreaterThan(1)
    const ground = groundAreas(areas)
    // Edges along parallels are arcs on the map and geodesics on the ground; over twenty degrees they differ
    // a little.
    paperAreas(projected).forEach((area, f) => expect(area / ground[f]).toBeCloseTo(1, 1))
    for (let i = 0; i < projected.arcs.coords.length; i += 2)
      expect(Math.abs(projected.arcs.coords[i])).toBeLessThan(1.8e7)
  })

  it('takes points and lines along', () => {
    const points = projectGeometry(geometryFromShapes([{ type: 'Point', coordinates: [-28, 49] }]), local)
    expect(points.kind === 'points' && Math.hypot(points.coords[0], points.coords[1])).toBeLessThan(0.01)
    const lines = projectGeometry(
      geometryFromShapes([
        {
          type: 'LineString',
          coordinates: [
            [-28, 49],
            [-27, 49],
          ],
        },
      ]),
      local,
    )
    expect(lines.kind).toBe('lines')
    expect(projectGeometry({ kind: 'none' }, local)).toEqual({ kind: 'none' })
  })
})

describe('measuring the ground', () => {
  const { WGS84 } = geographiclib.Geodesic
  it('agrees with geographiclib to 1e-8 along the straight edges of RFC 7946, holes taken off', () => {
    const holed: GeoJSON.Geometry = {
      type: 'Polygon',
      coordinates: [
        [
          [-30, 47],
          [-26, 47],
          [-26, 51],
          [-30, 51],
          [-30, 47],
        ],
        [
          [-29, 48],
          [-29, 50],
          [-27, 50],
          [-27, 48],
          [-29, 48],
        ],
      ],
    }
    const areaOf = (ring: number[][]) => {
      const polygon = WGS84.Polygon(false)
      // Geodesics between places as near as this follow the straight edge.
      ring.slice(1).forEach(([lon, lat], i) => {
        for (let k = 1; k <= 2000; k++)
          polygon.AddPoint(
            ring[i][1] + ((lat - ring[i][1]) * k) / 2000,
            ring[i][0] + ((lon - ring[i][0]) * k) / 2000,
          )
      })
      return Math.abs(polygon.Compute(false, true).area ?? 0)
    }
    const [area] = groundAreas(geometryFromShapes([holed]))
    expect(area / (areaOf(holed.coordinates[0]) - areaOf(holed.coordinates[1]))).toBeCloseTo(1, 8)
    const line: GeoJSON.Geometry = {
      type: 'LineString',
      coordinates: [
        [-30, 47],
        [-26, 51],
        [-20, 51],
      ],
    }
    const [length] = groundLengths(geometryFromShapes([line]))
    expect(
      length / ((WGS84.Inverse(47, -30, 51, -26).s12 ?? 0) + (WGS84.Inverse(51, -26, 51, -20).s12 ?? 0)),
    ).toBeCloseTo(1, 6)
  })

  it('the zone within a degree of the equator has 2π a² (1 − e²) times its integral', () => {
    // Between two parallels (Snyder 1987, equation 3-12), by many thin rings.
    const [a, e2] = [6378.137, 0.00669437999014]
    let sum = 0
    for (let i = 0; i < 20_000; i++) {
      const phi = (((i + 0.5) / 20_000) * Math.PI) / 180
      sum += (Math.cos(phi) / (1 - e2 * Math.sin(phi) ** 2) ** 2) * (Math.PI / 180 / 20_000)
    }
    const expected = a * a * (1 - e2) * sum * (Math.PI / 180)
    expect(groundAreas(geometryFromShapes([box(0, 0, 1, 1)]))[0] / 1e6 / expected).toBeCloseTo(1, 9)
  })
})

describe('shapes', () => {
  const shapes: (GeoJSON.Geometry | null)[] = [
    box(0, 0, 2, 2),
    null,
    {
      type: 'MultiPolygon',
      coordinates: [
        [
          [
            [2, 0],
            [4, 0],
            [4, 2],
            [2, 2],
            [2, 0],
          ],
        ],
        [
          [
            [8, 8],
            [9, 8],
            [9, 9],
            [8, 9],
            [8, 8],
          ],
        ],
      ],
    },
  ]
  it('come out of the store with as many parts as they went in', () => {
    const geometry = geometryFromShapes(shapes)
    expect([0, 1, 2].map((f) => shapeOf(geometry, f)?.type ?? null)).toEqual([
      'Polygon',
      null,
      'MultiPolygon',
    ])
    expect(groundAreas(geometryFromShapes([0, 1, 2].map((f) => shapeOf(geometry, f))))).toEqual(
      groundAreas(geometry),
    )
  })

  it('are taken by rows, in any order and more than once', () => {
    const geometry = geometryFromShapes(shapes)
    const taken = takeFeatures(geometry, [2, 0, 0])
    const [a, b, c] = groundAreas(geometry)
    expect(b).toBe(0)
    expect([...groundAreas(taken)]).toEqual([c, a, a])
  })
})
