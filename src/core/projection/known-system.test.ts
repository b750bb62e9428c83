import { execFileSync } from 'node:child_process'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectionIds, type ProjectionId } from './catalogue'
import { albersParallels, conformalParallel, knownSystem } from './known-system'
import { createProjection } from './projection'

const degreesOnly =
  'GEOGCS["WGS 84",DATUM["WGS_1984",SPHEROID["WGS 84",6378137,298.257223563]],PRIMEM["Greenwich",0],' +
  'UNIT["degree",0.0174532925199433],AXIS["Longitude",EAST],AXIS["Latitude",NORTH]]'

/** Places as another program projects them by what we write of a system. */
const elsewhere = (wkt: string, places: [number, number][]): [number, number][] =>
  execFileSync('gdaltransform', ['-s_srs', degreesOnly, '-t_srs', wkt, '-output_xy'], {
    input: places.map((place) => place.join(' ')).join('\n'),
  })
    .toString()
    .trim()
    .split('\n')
    .map((line) => line.split(' ').map(Number) as [number, number])

/** How far the best affine picture of places is from values at them, at worst. */
function worst(places: [number, number][], values: number[]): number {
  const n = places.length
  const mean = (of: (i: number) => number) => places.reduce((sum, _, i) => sum + of(i), 0) / n
  const [mx, my, mv] = [mean((i) => places[i][0]), mean((i) => places[i][1]), mean((i) => values[i])]
  const at = (i: number) => [places[i][0] - mx, places[i][1] - my, values[i] - mv]
  const product = (p: number, q: number) => mean((i) => at(i)[p] * at(i)[q])
  const size = product(0, 0) * product(1, 1) - product(0, 1) ** 2
  const a = (product(0, 2) * product(1, 1) - product(1, 2) * product(0, 1)) / size
  const b = (product(1, 2) * product(0, 0) - product(0, 2) * product(0, 1)) / size
  return Math.max(...places.map((_, i) => Math.abs(a * at(i)[0] + b * at(i)[1] - at(i)[2])))
}

const grid = (west: number, south: number, step: number): [number, number][] =>
  Array.from({ length: 81 }, (_, i) => [west + (i % 9) * step, south + Math.floor(i / 9) * step])

/** Projections that have no name elsewhere. */
const nameless: ProjectionId[] = projectionIds.filter((id) =>
  /interrupted|oblique|orthographic|gnomonic/.test(id),
)

describe('projections in the names of other programs', () => {
  const named = projectionIds.filter((id) => !nameless.includes(id))
  const spec = (id: ProjectionId) => ({
    id,
    centre: [-29, 49] as [number, number],
    parallels: [46, 52] as [number, number],
  })

  for (const id of named)
    it(`${id} is there what it is here, scale and origin apart, or as far off as it is known to be`, () => {
      const system = knownSystem(spec(id))
      if (system?.named.by !== 'wkt') throw new Error('It has no name.')
      const { project } = createProjection(spec(id))
      const places = grid(-37, 45, 2).map(([lon, lat]): [number, number] => [lon, 45 + (lat - 45) / 2])
      const there = elsewhere(system.named.wkt, places)
      const here = places.map((place) => project(...place))
      const off = Math.max(
        worst(
          there,
          here.map(([x]) => x),
        ),
        worst(
          there,
          here.map(([, y]) => y),
        ),
      )
      if (system.project === null) expect(off).toBeLessThan(0.01)
      else {
        // What we reckon them to be off by is what they are off by.
        const reckoned = places.map((place) => system.project!(...place))
        const ours = Math.max(
          worst(
            reckoned,
            here.map(([x]) => x),
          ),
          worst(
            reckoned,
            here.map(([, y]) => y),
          ),
        )
        expect(Math.abs(ours - off)).toBeLessThan(1)
        expect(off).toBeLessThan(400)
      }
    })

  it('has no name for interrupted and oblique ones', () => {
    for (const id of nameless) expect(knownSystem(spec(id))).toBeNull()
  })

  it('names a reference system by its number, and none without', () => {
    const proj4 = '+proj=utm +zone=26 +datum=WGS84 +units=m'
    const system = { name: 'UTM 26', proj4 }
    expect(knownSystem({ ...spec('mercator'), system: { ...system, code: 'EPSG:32626' } })?.named).toEqual({
      by: 'epsg',
      code: 32626,
      inDegrees: false,
    })
    expect(knownSystem({ ...spec('mercator'), system: { ...system, code: 'own' } })).toBeNull()
    const by = (proj4: string) =>
      knownSystem({ ...spec('mercator'), system: { name: '', code: 'EPSG:1', proj4 } })?.named ?? null
    expect(by('+proj=longlat +datum=WGS84')).toMatchObject({ inDegrees: true })
    expect(by('+proj=tmerc +ellps=GRS80 +towgs84=0,0,0,0,0,0,0')).toMatchObject({ inDegrees: false })
    // Its own degrees lie elsewhere on the ground.
    expect(by('+proj=tmerc +ellps=bessel +towgs84=598.1,73.7,418.2,0.202,0.045,-2.455,6.7')).toBeNull()
    expect(by('+proj=utm +zone=33 +ellps=intl')).toBeNull()
  })
})

describe('cones of the ellipsoid', () => {
  it('have parallels near those of the sphere, whichever these are', () => {
    const parallel = fc.double({ min: 8, max: 80, noNaN: true })
    fc.assert(
      fc.property(parallel, parallel, fc.boolean(), (a, b, south) => {
        fc.pre(Math.abs(a - b) > 10)
        const sign = south ? -1 : 1
        const given: [number, number] = [sign * Math.min(a, b), sign * Math.max(a, b)]
        const found = [...albersParallels(given)].sort((p, q) => sign * (p - q))
        found.forEach((one, i) => expect(Math.abs(one - given[i])).toBeLessThan(0.8))
        const touching = conformalParallel(given)
        expect(sign * touching).toBeGreaterThan(Math.min(a, b) - 0.3)
        expect(sign * touching).toBeLessThan(Math.max(a, b) + 0.3)
      }),
      { numRuns: 60 },
    )
  })

  it('touch the globe where both parallels are one', () => {
    expect(conformalParallel([50, 50])).toBeCloseTo(49.81, 1)
    const [one, other] = albersParallels([50, 50])
    // On the ellipsoid the same cone cuts the globe a little, evenly about where it touches the sphere.
    expect((one + other) / 2).toBeCloseTo(50, 0)
  })
})
