import { describe, expect, it } from 'vitest'
import { entryOf, keepsAreas, projections, type ProjectionSpec } from './catalogue'
import { indicatrixAt } from './distortion'
import { createProjection } from './projection'
import { fromDegrees } from './reference'

const laea = '+proj=laea +lat_0=52 +lon_0=10 +x_0=4321000 +y_0=3210000 +ellps=GRS80 +units=m +no_defs'
const utm = '+proj=utm +zone=26 +datum=WGS84 +units=m +no_defs'
const feet =
  '+proj=lcc +lat_1=33 +lat_2=45 +lat_0=39 +lon_0=-96 +x_0=0 +y_0=0 +datum=NAD83 +units=us-ft +no_defs'
const spec = (
  proj4: string,
  centre: [number, number],
  more: Partial<ProjectionSpec> = {},
): ProjectionSpec => ({
  id: 'mercator',
  centre,
  parallels: [0, 0],
  system: { code: 'EPSG:1', name: 'A system', proj4 },
  ...more,
})

describe('a reference system as a projection', () => {
  it('gives its own coordinates in metres, and takes them back', () => {
    for (const [definition, lon0, unit] of [
      [laea, 10, 1],
      [utm, -27, 1],
      [feet, -96, 1200 / 3937],
    ] as const) {
      const projection = createProjection(spec(definition, [lon0, 0]))
      for (const [dlon, lat] of [
        [0, 40],
        [3, 50],
        [-2.5, 47.3],
      ]) {
        const [x, y] = projection.project(lon0 + dlon, lat)
        const [ex, ey] = fromDegrees(definition)(lon0 + dlon, lat)
        expect(x).toBeCloseTo(ex * unit, 3)
        expect(y).toBeCloseTo(-ey * unit, 3)
        const back = projection.invert(x, y)
        expect(back?.[0]).toBeCloseTo(lon0 + dlon, 7)
        expect(back?.[1]).toBeCloseTo(lat, 7)
      }
    }
  })

  it('is known by its formula: what it keeps, and its name', () => {
    expect(entryOf(spec(laea, [10, 0]))).toMatchObject({
      label: 'A system',
      property: 'equal-area',
      family: 'azimuthal',
    })
    expect(keepsAreas(spec(utm, [-27, 0]))).toBe(false)
    expect(keepsAreas(spec(laea, [10, 0]))).toBe(true)
    expect(entryOf({ ...spec(laea, [10, 0]), system: undefined })).toBe(projections.mercator)
  })
})

describe('a turned map', () => {
  it('has the same distances, and east points down after a quarter turn clockwise', () => {
    const plain: ProjectionSpec = { id: 'lambert-azimuthal-equal-area', centre: [-28, 49], parallels: [0, 0] }
    const [north, turned] = [createProjection(plain), createProjection({ ...plain, turnDeg: 90 })]
    const [x, y] = turned.project(-27, 49)
    expect(Math.abs(x)).toBeLessThan(Math.abs(y) / 20)
    expect(y).toBeGreaterThan(0)
    expect(Math.hypot(x, y)).toBeCloseTo(Math.hypot(...north.project(-27, 49)), 6)
    const back = turned.invert(x, y)
    expect(back?.[0]).toBeCloseTo(-27, 8)
  })
})

describe('the indicatrix of Tissot', () => {
  const at = (id: ProjectionSpec['id'], lon: number, lat: number, more: Partial<ProjectionSpec> = {}) => {
    const ellipse = indicatrixAt(
      createProjection({ id, centre: [0, 0], parallels: [29.5, 45.5], ...more }),
      lon,
      lat,
    )
    if (!ellipse) throw new Error('There is one here.')
    return ellipse
  }
  it('is a circle where angles are true, and of one area where areas are', () => {
    for (const [lon, lat] of [
      [0, 10],
      [30, 45],
      [-50, -60],
    ]) {
      const mercator = at('mercator', lon, lat)
      expect(mercator.a / mercator.b).toBeCloseTo(1, 5)
      expect(mercator.angularDeg).toBeLessThan(0.01)
      expect(at('mollweide', lon, lat).areaScale).toBeCloseTo(1, 4)
    }
  })
  it('has the scale that the formula gives: 1 ∕ cos φ on the sphere for Mercator', () => {
    // On the ellipsoid k = 1 ∕ ((1 − e²) sin²…)½ ∕ cos φ (Snyder 1987, equation 7-8).
    const e2 = 0.00669437999
    for (const lat of [0, 30, 60]) {
      const phi = (lat * Math.PI) / 180
      expect(at('mercator', 12, lat).a).toBeCloseTo(Math.sqrt(1 - e2 * Math.sin(phi) ** 2) / Math.cos(phi), 5)
    }
  })
  it('is nearly a circle of its own size along the standard parallels of Albers, and of true area everywhere', () => {
    const on = at('albers-equal-area', -75, 29.5, { centre: [-96, 23] })
    // The formula of the sphere at authalic latitudes keeps areas exactly and lengths to a thousandth.
    expect(Math.abs(on.a - 1)).toBeLessThan(0.001)
    expect(Math.abs(on.b - 1)).toBeLessThan(0.001)
    const north = at('albers-equal-area', -75, 50, { centre: [-96, 23] })
    expect(north.a * north.b).toBeCloseTo(1, 5)
    expect(north.angularDeg).toBeGreaterThan(0.5)
  })
  it('is not there off the map', () => {
    expect(
      indicatrixAt(createProjection({ id: 'orthographic', centre: [0, 0], parallels: [0, 0] }), 170, 0),
    ).toBeNull()
  })
})
