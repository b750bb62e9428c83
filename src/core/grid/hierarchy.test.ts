import { describe, expect, it } from 'vitest'
import { seededRandom } from '../../../demo/lindmere/random'
import { geometryFromShapes } from '@/core/geo/shapes'
import { createProjection } from '@/core/projection/projection'
import { costsDown, costsFor, hierarchyOf } from './hierarchy'
import { costsFrom, nearestPlace, networkOf, type Network } from './network'
import { drain } from './steps'

const plane = {
  id: 'lambert-azimuthal-equal-area' as const,
  centre: [0, 50] as [number, number],
  parallels: [0, 0] as [number, number],
}
const { invert } = createProjection(plane)

/** A town plan: streets between neighbours of a net, some missing, so that it falls into parts. */
function streets(size: number, share: number): Network {
  const random = seededRandom(size)
  const at = Array.from({ length: size * size }, (_, i) => [
    (i % size) * 1000 + 700 * random(),
    Math.floor(i / size) * 1000 + 700 * random(),
  ])
  const paths: number[][][] = []
  for (let i = 0; i < size * size; i++) {
    if (i % size < size - 1 && random() < share) paths.push([at[i], at[i + 1]])
    if (i + size < size * size && random() < share) paths.push([at[i], at[i + size]])
  }
  const shapes = paths.map((path): GeoJSON.Geometry => ({
    type: 'LineString',
    coordinates: path.map(([x, y]) => invert(x, y) ?? [0, 0]),
  }))
  const network = networkOf(geometryFromShapes(shapes), plane, { toleranceM: 1, paces: null })
  if (!network) throw new Error('There is a network.')
  return network
}

/** A star: one junction with very many ways out, which is never worth taking out, and rungs between these. */
function star(points: number): Network {
  const around = Array.from({ length: points }, (_, i) => {
    const angle = (2 * Math.PI * i) / points
    return [9000 * Math.cos(angle), 9000 * Math.sin(angle)]
  })
  const spokes = around.map((place, i) => [[0, 0], place, around[(i * 7 + 3) % points]])
  const shapes = spokes.map((path): GeoJSON.Geometry => ({
    type: 'LineString',
    coordinates: path.map(([x, y]) => invert(x, y) ?? [0, 0]),
  }))
  const network = networkOf(geometryFromShapes(shapes), plane, { toleranceM: 1, paces: null })
  if (!network) throw new Error('There is a network.')
  return network
}

describe('a hierarchy of a network', () => {
  it.each([
    ['a town', () => streets(16, 0.85)],
    ['a town in parts', () => streets(14, 0.5)],
    ['a star', () => star(90)],
  ])('gives the costs of plain searches from every chain of %s', (_, make) => {
    const network = make()
    const hierarchy = drain(hierarchyOf(network))
    for (let chain = 0; chain < network.from.length; chain += 7) {
      const source = { chain, along: network.cost[chain] * 0.3 }
      const [plain, down] = [costsFrom(network, source), costsDown(hierarchy, network, source)]
      const off = Array.from(plain, (cost, junction) =>
        cost === down[junction] ? 0 : Math.abs(down[junction] - cost),
      )
      expect(Math.max(...off)).toBeLessThan(1e-6)
    }
  })

  it('is made in pieces, told as it goes on', () => {
    const told: number[] = []
    const steps = hierarchyOf(streets(40, 0.9))
    for (let step = steps.next(); !step.done; step = steps.next()) told.push(step.value)
    expect(told.length).toBeGreaterThan(3)
    expect([...told].sort((a, b) => a - b)).toEqual(told)
  })

  it('is used for many places, plain searches for few, with the same costs', () => {
    const network = streets(12, 0.9)
    const source = nearestPlace(network, 3000, 4000)
    const [few, many] = [1, 5000].map((places) => drain(costsFor(network, places))(source))
    few.forEach((cost, junction) => expect(many[junction]).toBeCloseTo(cost, 6))
  })

  it('is not needed for what lies near: a search up to a cost finds all that costs less', () => {
    const network = streets(16, 0.9)
    const source = nearestPlace(network, 8000, 8000)
    const [all, near] = [costsFrom(network, source), costsFrom(network, source, 2500)]
    const within = [...all.keys()].filter((junction) => all[junction] <= 2500)
    expect(within.length).toBeGreaterThan(5)
    for (const junction of within) expect(near[junction]).toBe(all[junction])
    expect(near.every((cost, junction) => cost > 2500 || cost === all[junction])).toBe(true)
  })
})
