import { describe, expect, it } from 'vitest'
import { projectionIds, projections, type ProjectionSpec } from './catalogue'
import { equatorialRadius } from './authalic'
import { fromDegrees } from './reference'
import { onSphere } from './on-sphere'
import { createProjection } from './projection'

type Example = [spec: ProjectionSpec, lon: number, lat: number, radius: number, x: number, y: number]
const spec = (
  id: ProjectionSpec['id'],
  centre: [number, number],
  parallels: [number, number] = [0, 0],
): ProjectionSpec => ({ id, centre, parallels })

/** Numerical examples for the sphere in Snyder (1987), appendix A. */
const examples: Example[] = [
  [spec('mercator', [-180, 0]), -75, 35, 1, 1.8325957, 0.6528366],
  [spec('transverse-mercator', [-75, 0]), -73.5, 40.5, 1, 0.0199077, 0.7070276],
  [spec('cylindrical-equal-area', [-75, 0], [30, 0]), 80, 35, 1, 2.3428242, 0.662309],
  [spec('albers-equal-area', [-96, 23], [29.5, 45.5]), -75, 35, 1, 0.295272, 0.2416774],
  [spec('lambert-conformal-conic', [-96, 23], [33, 45]), -75, 35, 1, 0.2966785, 0.2462112],
  [spec('equidistant-conic', [-96, 23], [29.5, 45.5]), -75, 35, 1, 0.2952057, 0.2424021],
  [spec('lambert-azimuthal-equal-area', [-100, 40]), 100, -20, 3, -4.2339303, 4.0257775],
  [spec('azimuthal-equidistant', [-100, 40]), 100, -20, 3, -5.8311398, 5.5444634],
  [spec('orthographic', [-100, 40]), -110, 30, 1, -0.1503837, -0.1651911],
  [spec('gnomonic', [-100, 40]), -110, 30, 1, -0.1542826, -0.1694739],
  [spec('sinusoidal', [-90, 0]), -75, -50, 1, 0.1682814, -0.8726646],
  [spec('mollweide', [-90, 0]), -75, -50, 1, 0.1788845, -0.9208758],
]

describe('worked examples of Snyder (1987), appendix A', () => {
  for (const [of, lon, lat, radius, x, y] of examples)
    it(`${projections[of.id].label}`, () => {
      const place = onSphere(of, lon, lat, radius)
      expect(place.x).toBeCloseTo(x, 6)
      expect(place.y).toBeCloseTo(y, 6)
    })
})

it('the polyconic is the formula of Snyder (1987), equations 18-2 to 18-4, worked by hand', () => {
  const { x, y } = onSphere(spec('polyconic', [-96, 30]), -75, 40)
  const e = 21 * (Math.PI / 180) * Math.sin((40 * Math.PI) / 180)
  const cot = 1 / Math.tan((40 * Math.PI) / 180)
  expect(x).toBeCloseTo(cot * Math.sin(e), 9)
  expect(y).toBeCloseTo((10 * Math.PI) / 180 + cot * (1 - Math.cos(e)), 9)
})

describe('every projection of the catalogue', () => {
  const at = (id: ProjectionSpec['id']): ProjectionSpec =>
    spec(
      id,
      [10, projections[id].turnsToCentre ? 40 : 0],
      (
        [
          [0, 0],
          [30, 0],
          [35, 50],
        ] as [number, number][]
      )[projections[id].parallels],
    )

  for (const id of projectionIds)
    it(`${id} goes there and back on the ellipsoid`, () => {
      const projection = createProjection(at(id))
      for (const [lon, lat] of [
        [10, 40],
        [14, 44],
        [2, 33],
        [25, 51],
        [-8, 61],
      ] as const) {
        const [x, y] = projection.project(lon, lat)
        const back = projection.invert(x, y)
        expect(back?.[0], `${lon} ${lat}`).toBeCloseTo(lon, 5)
        expect(back?.[1], `${lon} ${lat}`).toBeCloseTo(lat, 5)
      }
    })

  /** Scale along the meridian and along the parallel, and the angle between them, by small differences. */
  const distortion = (id: ProjectionSpec['id'], lon: number, lat: number) => {
    const projection = createProjection(at(id))
    const d = 1e-4
    const phi = (lat * Math.PI) / 180
    const e2 = 0.0066943799901413165
    const w = Math.sqrt(1 - e2 * Math.sin(phi) ** 2)
    const [meridian, parallel] = [
      (equatorialRadius * (1 - e2)) / w ** 3,
      (equatorialRadius * Math.cos(phi)) / w,
    ]
    const step = (a: [number, number], b: [number, number]) => [b[0] - a[0], b[1] - a[1]]
    const v = step(projection.project(lon, lat - d), projection.project(lon, lat + d)).map(
      (m) => m / (2 * d * (Math.PI / 180) * meridian),
    )
    const u = step(projection.project(lon - d, lat), projection.project(lon + d, lat)).map(
      (m) => m / (2 * d * (Math.PI / 180) * parallel),
    )
    return {
      h: Math.hypot(v[0], v[1]),
      k: Math.hypot(u[0], u[1]),
      area: Math.abs(u[0] * v[1] - u[1] * v[0]),
      dot: u[0] * v[0] + u[1] * v[1],
    }
  }

  it('keeps on the ellipsoid what it is said to keep', () => {
    for (const id of projectionIds)
      for (const [lon, lat] of [
        [14, 44],
        [2, 33],
        [25, 51],
      ] as const) {
        const { h, k, area, dot } = distortion(id, lon, lat)
        if (projections[id].property === 'equal-area') expect(area, `${id} area`).toBeCloseTo(1, 4)
        if (projections[id].property === 'conformal') {
          expect(h / k, `${id} shape`).toBeCloseTo(1, 4)
          expect(dot / (h * k), `${id} angle`).toBeCloseTo(0, 4)
        }
        if (id === 'equidistant-conic' || id === 'equidistant-cylindrical')
          expect(h, `${id} along the meridian`).toBeCloseTo(1, 4)
      }
  })

  it('is the ellipsoidal Mercator to a millimetre', () => {
    const reference = fromDegrees('+proj=merc +datum=WGS84 +lon_0=10')
    const projection = createProjection(spec('mercator', [10, 0]))
    for (const [lon, lat] of [
      [14, 44],
      [-60, -33],
      [120, 71],
    ] as const) {
      const [x, y] = projection.project(lon, lat)
      expect(x).toBeCloseTo(reference(lon, lat)[0], 3)
      expect(-y).toBeCloseTo(reference(lon, lat)[1], 3)
    }
  })

  it('has nothing beyond its horizon', () => {
    expect(createProjection(spec('orthographic', [10, 40])).project(-170, -40)[0]).toBeNaN()
    expect(createProjection(spec('gnomonic', [10, 40])).project(10, -30)[0]).toBeNaN()
  })
})
