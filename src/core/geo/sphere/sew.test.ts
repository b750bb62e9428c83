import { describe, expect, it } from 'vitest'
import type { Geometry as Shape, Position } from 'geojson'
import { createProjection } from '@/core/projection/projection'
import { extentOf } from '../extent'
import { featureAt } from '../feature-at'
import type { Areas } from '../geometry'
import { groundAreas, surfaceOfGlobe } from '../measure'
import { projectGeometry } from '../projected'
import { geometryFromShapes } from '../shapes'
import { flatPolygons, flatShapeOf } from './flat'

const polygon = (...rings: Position[][]): Shape => ({ type: 'Polygon', coordinates: rings })
const box = (west: number, south: number, east: number, north: number): Position[] => [
  [west, south],
  [east, south],
  [east, north],
  [west, north],
  [west, south],
]
const store = (...shapes: Shape[]) => geometryFromShapes(shapes) as Areas
const share = (shape: Shape) => groundAreas(store(shape))[0] / surfaceOfGlobe
/** The share of the globe between two parallels, on a sphere; the ellipsoid is near. */
const zone = (south: number, north: number) =>
  (Math.sin((north * Math.PI) / 180) - Math.sin((south * Math.PI) / 180)) / 2

describe('shapes on the globe', () => {
  it('are sewn where a file cuts them at the date line, so that no border is left there', () => {
    const cut: Shape = {
      type: 'MultiPolygon',
      coordinates: [[box(170, 0, 180, 10)], [box(-180, 0, -170, 10)]],
    }
    const areas = store(cut)
    expect(areas.polygonStarts.length - 1).toBe(1)
    expect([...areas.arcs.coords].filter((v, i) => i % 2 === 0 && Math.abs(v) === 180)).not.toContain(-180)
    expect(share(cut)).toBeCloseTo(share(polygon(box(170, 0, 190, 10))), 12)
    expect(extentOf([areas])).toEqual([170, 0, 190, 10])
    expect([-175, 175, 165, -165].map((lon) => featureAt(areas, lon, 5))).toEqual([0, 0, -1, -1])
    // And cut again on their way out.
    expect(flatPolygons(areas, 0)).toHaveLength(2)
    expect(share(flatShapeOf(areas, 0) as Shape)).toBeCloseTo(share(cut), 12)
  })

  it('round a pole are the cap that the file closes along it, or the smaller one', () => {
    const coast = [-180, -90, 0, 90, 180].map((lon): Position => [lon, -70])
    const closed = polygon([...coast, [180, -90], [-180, -90], [-180, -70]])
    expect(share(closed)).toBeCloseTo(zone(-90, -70), 3)
    // The rest of the world is as good a shape.
    const rest = polygon([...coast, [180, 90], [-180, 90], [-180, -70]])
    expect(share(rest)).toBeCloseTo(zone(-70, 90), 3)
    expect(share(closed) + share(rest)).toBeCloseTo(1, 12)
    const uncut = polygon([0, 45, 90, 135, 180, -135, -90, -45, 0].map((lon): Position => [lon, 65]))
    expect(share(uncut)).toBeCloseTo(zone(65, 90), 3)
    expect([90, 66, 60, -90].map((lat) => featureAt(store(uncut), 12, lat))).toEqual([0, 0, -1, -1])
    expect([-90, -71, -69, 90].map((lat) => featureAt(store(closed), 12, lat))).toEqual([0, 0, -1, -1])
  })

  it('may be bands round the globe, the whole of it, or all but a hole', () => {
    const band = polygon(box(-180, -85, 180, 85))
    expect(share(band)).toBeCloseTo(zone(-85, 85), 3)
    const frame = polygon(box(-180, -90, 180, 90))
    expect(share(frame)).toBeCloseTo(1, 12)
    const sea = polygon(box(-180, -90, 180, 90), box(10, 10, 40, 40))
    expect(share(sea)).toBeCloseTo(1 - share(polygon(box(10, 10, 40, 40))), 12)
    expect([90, 20, -90].map((lat) => featureAt(store(sea), 20, lat))).toEqual([0, -1, 0])
    for (const id of ['equal-earth', 'lambert-azimuthal-equal-area', 'interrupted-homolosine'] as const)
      for (const shape of [band, frame, sea]) {
        const drawn = projectGeometry(
          store(shape),
          createProjection({ id, centre: [20, 0], parallels: [0, 0] }),
        ) as Areas
        let sum = 0
        for (let r = 0; r + 1 < drawn.ringStarts.length; r++)
          for (let k = drawn.ringStarts[r]; k < drawn.ringStarts[r + 1]; k++) {
            const [ref, { coords, starts }] = [drawn.refs[k], drawn.arcs]
            const arc = ref < 0 ? ~ref : ref
            for (let v = starts[arc]; v + 1 < starts[arc + 1]; v++)
              sum -=
                ((ref < 0 ? -1 : 1) *
                  (coords[2 * v] * coords[2 * v + 3] - coords[2 * v + 2] * coords[2 * v + 1])) /
                2
          }
        expect(sum / groundAreas(store(shape))[0], `${id}`).toBeCloseTo(1, 5)
      }
  })

  it('with long edges run along the map, not round the back of it', () => {
    expect(share(polygon(box(-120, -10, 120, 10)))).toBeCloseTo((240 / 360) * zone(-10, 10), 2)
    // A step of nearly a whole turn is one over the date line.
    expect(share(polygon(box(178, -10, -178, 10)))).toBeCloseTo((4 / 360) * zone(-10, 10), 4)
  })

  it('in longitudes up to 360 are sewn at Greenwich', () => {
    const cut: Shape = { type: 'MultiPolygon', coordinates: [[box(350, 0, 360, 10)], [box(0, 0, 10, 10)]] }
    expect(store(cut).polygonStarts.length - 1).toBe(1)
    expect(extentOf([store(cut)])).toEqual([-10, 0, 10, 10])
  })

  it('keep a border along the date line that is no cut', () => {
    const areas = store(polygon(box(170, 0, 180, 10)), polygon(box(-180, 0, -170, 10)))
    expect([175, -175].map((lon) => featureAt(areas, lon, 5))).toEqual([0, 1])
    const sides = new Set(areas.arcs.coords.filter((_, i) => i % 2 === 0))
    expect(sides.has(180)).toBe(true)
    expect(groundAreas(areas)[0]).toBeCloseTo(groundAreas(areas)[1], 0)
  })
})
