import { geoAzimuthalEqualAreaRaw, geoConicEqualAreaRaw, geoRotation } from 'd3-geo'
import geographiclib from 'geographiclib-geodesic'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { adviseEqualArea } from './adviser'
import { authalicLatitude, authalicLatitudeFast, authalicRadius, geodeticLatitude } from './authalic'
import { projections, type ProjectionSpec } from './catalogue'
import { geodesicMetres, groundPerProjected } from './ground'
import { createProjection } from './projection'

const radians = (deg: number) => (deg * Math.PI) / 180
const specs: ProjectionSpec[] = [
  { id: 'albers-equal-area', centre: [-28, 49], parallels: [47, 51] },
  { id: 'lambert-azimuthal-equal-area', centre: [-28, 49], parallels: [0, 0] },
  { id: 'cylindrical-equal-area', centre: [-28, 0], parallels: [30, 0] },
  { id: 'equal-earth', centre: [-28, 0], parallels: [0, 0] },
]

describe('worked examples of Snyder (1987), appendix A', () => {
  it('Albers, sphere: 35° N, 75° W with parallels 29.5° and 45.5° from 23° N, 96° W', () => {
    const raw = geoConicEqualAreaRaw(radians(29.5), radians(45.5))
    const [x, y] = raw(radians(-75 + 96), radians(35))
    const [, y0] = raw(0, radians(23))
    expect(x).toBeCloseTo(0.295272, 6)
    expect(y - y0).toBeCloseTo(0.2416774, 6)
  })

  it('Lambert azimuthal equal-area, sphere of radius 3: 20° S, 100° E from 40° N, 100° W', () => {
    const [lon, lat] = geoRotation([100, -40])([100, -20])
    const [x, y] = (geoAzimuthalEqualAreaRaw as unknown as (l: number, p: number) => [number, number])(
      radians(lon),
      radians(lat),
    )
    expect(3 * x).toBeCloseTo(-4.2339303, 6)
    expect(3 * y).toBeCloseTo(4.0257775, 6)
  })

  it('cylindrical equal-area, sphere: 35° N, 80° E with parallel 30° from 75° W', () => {
    const raw = projections['cylindrical-equal-area'].raw([radians(30), 0])
    const [x, y] = raw(radians(80 + 75), radians(35))
    expect(x).toBeCloseTo(2.3428242, 6)
    expect(y).toBeCloseTo(0.662309, 6)
  })

  it('authalic latitude: the series and the closed form agree, and the sphere has the ellipsoid’s area', () => {
    for (let lat = -90; lat <= 90; lat += 5) {
      // Near the poles the arcsine of the closed form is good to 3e-8 only.
      expect(authalicLatitudeFast(radians(lat))).toBeCloseTo(
        authalicLatitude(radians(lat)),
        Math.abs(lat) > 89 ? 7 : 8,
      )
      expect(geodeticLatitude(authalicLatitude(radians(lat)))).toBeCloseTo(
        radians(lat),
        Math.abs(lat) > 89 ? 7 : 8,
      )
    }
    // Moritz (2000), Geodetic Reference System 1980: radius of the sphere of equal surface 6,371,007.2 m.
    expect(authalicRadius).toBeCloseTo(6371007.18, 1)
  })
})

describe('every projection of the catalogue', () => {
  for (const spec of specs) {
    it(`${spec.id} goes there and back`, () => {
      const projection = createProjection(spec)
      fc.assert(
        fc.property(
          fc.double({ min: -100, max: 40, noNaN: true }),
          fc.double({ min: -40, max: 80, noNaN: true }),
          (lon, lat) => {
            const [x, y] = projection.project(lon, lat)
            const back = projection.invert(x, y)
            expect(back?.[0]).toBeCloseTo(lon, 6)
            expect(back?.[1]).toBeCloseTo(lat, 6)
          },
        ),
      )
    })

    it(`${spec.id} keeps areas true to the ellipsoid`, () => {
      const projection = createProjection(spec)
      for (const [lon, lat] of [
        [-28, 49],
        [-35, 43],
        [-12, 58],
      ]) {
        const d = 0.05
        const corners: [number, number][] = [
          [lon - d, lat - d],
          [lon + d, lat - d],
          [lon + d, lat + d],
          [lon - d, lat + d],
        ]
        const ring = corners.flatMap(([a, b], i) => {
          const [c, e] = corners[(i + 1) % 4]
          return Array.from({ length: 40 }, (_, k): [number, number] => [
            a + ((c - a) * k) / 40,
            b + ((e - b) * k) / 40,
          ])
        })
        const onPaper = Math.abs(
          ring.reduce((sum, [a, b], i) => {
            const [x0, y0] = projection.project(a, b)
            const [x1, y1] = projection.project(...ring[(i + 1) % ring.length])
            return sum + (x0 * y1 - x1 * y0) / 2
          }, 0),
        )
        const geodesic = geographiclib.Geodesic.WGS84.Polygon(false)
        for (const [a, b] of ring) geodesic.AddPoint(b, a)
        expect(onPaper / Math.abs(geodesic.Compute(false, true).area ?? 0)).toBeCloseTo(1, 5)
      }
    })
  }

  it('says null for a place off the map of the world', () => {
    expect(createProjection(specs[1]).invert(3e7, 0)).toBeNull()
  })
})

describe('lengths on the ground', () => {
  it('a projected metre is measured sideways along the geodesic', () => {
    for (const spec of specs) {
      const projection = createProjection(spec)
      const [x, y] = projection.project(-28, 52)
      const [a, b] = [projection.invert(x - 5000, y), projection.invert(x + 5000, y)]
      if (!a || !b) throw new Error('The place lies on the map.')
      expect(groundPerProjected(projection, [-28, 52])).toBeCloseTo(geodesicMetres(a, b) / 10_000, 5)
    }
  })

  it('one degree of latitude at 45° is 111.13 km', () => {
    expect(geodesicMetres([0, 44.5], [0, 45.5]) / 1000).toBeCloseTo(111.132, 2)
  })
})

describe('the adviser', () => {
  it('follows Snyder’s guideline by extent, latitude and shape', () => {
    expect(adviseEqualArea([-180, -60, 180, 80]).id).toBe('equal-earth')
    expect(adviseEqualArea([-32, 46, -24, 52])).toMatchObject({
      id: 'lambert-azimuthal-equal-area',
      centre: [-28, 49],
    })
    expect(adviseEqualArea([-10, 44, 20, 50])).toEqual({
      id: 'albers-equal-area',
      centre: [5, 47],
      parallels: [45, 49],
    })
    expect(adviseEqualArea([90, -8, 140, 6]).id).toBe('cylindrical-equal-area')
    expect(adviseEqualArea([-40, 70, 40, 88]).id).toBe('lambert-azimuthal-equal-area')
    expect(Math.abs(adviseEqualArea([170, -20, 190, -10]).centre[0])).toBe(180)
  })
})
