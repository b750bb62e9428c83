import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { featureAt } from '@/core/geo/feature-at'
import { toMetres } from '@/core/geo/paper'
import { geometryFromShapes } from '@/core/geo/shapes'
import { createProjection } from '@/core/projection/projection'
import { featuresInView } from './features-in-view'
import { paperTransform, viewProjection } from './view'

const window = { x: 10, y: 20, width: 100, height: 60 }
const { folio, datasets } = openDemo()
const map = folio.maps.find(({ id }) => id === 'loans')!

/** A view on the equator in which a degree is ten millimetres. */
const flat = (() => {
  const projection = createProjection({ id: 'equidistant-cylindrical', centre: [0, 0], parallels: [0, 0] })
  const view = { centre: [0, 0] as [number, number], scaleDenominator: 11_132_000 }
  return { projection, to: paperTransform(projection, view, window), window }
})()
const polygon = (...ring: [number, number][]) => ({
  type: 'Polygon' as const,
  coordinates: [[...ring, ring[0]]],
})

describe('the features that are seen', () => {
  it('are those of which something lies in the window, not those that only its box brings near', () => {
    const shapes = [
      // Around all of the window.
      polygon([-20, -20], [20, -20], [20, 20], [-20, 20]),
      // A corner of it.
      polygon([4, 2], [12, 2], [12, 12], [4, 12]),
      // Across it without a corner inside.
      polygon([-20, -1], [20, -1], [20, 1], [-20, 1]),
      // An angle whose box covers the window, and which passes by it.
      polygon([-9, -9], [9, -9], [9, -8.5], [-8.5, -8.5], [-8.5, 9], [-9, 9]),
      // Far away.
      polygon([30, 30], [31, 30], [31, 31], [30, 31]),
      // Touching the edge from outside.
      polygon([5, -3], [9, -3], [9, 3], [5, 3]),
      // The window lies in its hole.
      {
        type: 'Polygon' as const,
        coordinates: [
          ...polygon([-30, -30], [30, -30], [30, 30], [-30, 30]).coordinates,
          ...polygon([-9, -9], [-9, 9], [9, 9], [9, -9]).coordinates,
        ],
      },
    ]
    expect(featuresInView(geometryFromShapes(shapes), flat)).toEqual([0, 1, 2])
  })

  it('are those within the ellipse of a round window', () => {
    const corner = polygon([4, 2], [12, 2], [12, 12], [4, 12])
    const side = polygon([4, -1], [12, -1], [12, 1], [4, 1])
    const around = polygon([-20, -20], [20, -20], [20, 20], [-20, 20])
    const shapes = geometryFromShapes([corner, side, around])
    expect(featuresInView(shapes, flat)).toEqual([0, 1, 2])
    expect(featuresInView(shapes, { ...flat, round: true })).toEqual([1, 2])
    const points = [
      [4.9, 2.9],
      [4.9, 0],
    ].map((coordinates) => ({ type: 'Point' as const, coordinates }))
    expect(featuresInView(geometryFromShapes(points), { ...flat, round: true })).toEqual([1])
  })

  it('are lines that run through, and points inside', () => {
    const lines = [
      [
        [-20, -20],
        [20, 20],
      ],
      [
        [-20, 4],
        [20, 40],
      ],
      [
        [1, 1],
        [2, 2],
      ],
    ].map((coordinates) => ({ type: 'LineString' as const, coordinates }))
    expect(featuresInView(geometryFromShapes(lines), flat)).toEqual([0, 2])
    const points = [
      [0, 0],
      [4.9, 2.9],
      [5.1, 0],
      [0, 3.1],
    ].map((coordinates) => ({ type: 'Point' as const, coordinates }))
    expect(featuresInView(geometryFromShapes(points), flat)).toEqual([0, 1])
  })

  it('hold every feature that is met under a grid of places, and none of which nothing is met', () => {
    const { geometry } = datasets.get('districts')!.dataset
    const view = { centre: [-28.6, 49.9] as [number, number], scaleDenominator: 900_000, turnDeg: 27 }
    const projection = viewProjection(map, view)
    const to = paperTransform(projection, view, window)
    const met = new Set<number>()
    const n = 240
    for (let i = 0; i <= n; i++)
      for (let j = 0; j <= n; j++) {
        const paper = toMetres(to, window.x + (window.width * i) / n, window.y + (window.height * j) / n)
        const place = projection.invert(...paper)
        if (place) met.add(featureAt(geometry, ...place))
      }
    met.delete(-1)
    const seen = featuresInView(geometry, { projection, to, window })
    expect(met.size).toBeGreaterThan(8)
    for (const feature of met) expect(seen).toContain(feature)
    // A sliver may lie between the places of the grid; more than a few would be too many.
    expect(seen.length - met.size).toBeLessThanOrEqual(2)
  })
})
