import { describe, expect, it } from 'vitest'
import { geometryFromShapes } from '@/core/geo/shapes'
import { geodesicMetres } from '@/core/projection/ground'
import { createProjection } from '@/core/projection/projection'
import { costsFrom, costTo, nearestPlace, networkOf, type Network } from './network'

const plane = {
  id: 'lambert-azimuthal-equal-area' as const,
  centre: [0, 50] as [number, number],
  parallels: [0, 0] as [number, number],
}
const { invert } = createProjection(plane)
const linesOf = (...paths: [number, number][][]) =>
  geometryFromShapes(
    paths.map((path) => ({
      type: 'LineString',
      coordinates: path.map(([x, y]) => invert(x, y) ?? [0, 0]),
    })),
  )
const built = (paths: [number, number][][], toleranceM = 1, paces: Float64Array | null = null): Network => {
  const network = networkOf(linesOf(...paths), plane, { toleranceM, paces })
  if (!network) throw new Error('There is a network.')
  return network
}
/** Metres along the ground from place to place of the plane. */
const ground = (...path: [number, number][]): number =>
  path.slice(1).reduce((sum, to, i) => {
    const [a, b] = [invert(...path[i]), invert(...to)]
    return a && b ? sum + geodesicMetres(a, b) : NaN
  }, 0)
const distance = (network: Network, a: [number, number], b: [number, number]): number => {
  const [from, to] = [nearestPlace(network, ...a), nearestPlace(network, ...b)]
  return costTo(network, costsFrom(network, from), from, to)
}

describe('a network of lines', () => {
  it('is joined where lines cross and where an end lies beside another line', () => {
    const network = built(
      [
        [
          [0, 0],
          [10_000, 0],
        ],
        [
          [5000, -4000],
          [5000, 3000],
        ],
        // Ends 20 m short of the first line.
        [
          [8000, 6000],
          [8000, 20],
        ],
      ],
      50,
    )
    expect(network.parts).toBe(1)
    expect(distance(network, [5000, 3000], [10_000, 0])).toBeCloseTo(
      ground([5000, 3000], [5000, 0], [10_000, 0]),
      1,
    )
    expect(distance(network, [8000, 6000], [0, 0])).toBeCloseTo(5980 + 8000, -2)
  })

  it('is not joined beyond the tolerance, and then no way leads across', () => {
    const apart: [number, number][][] = [
      [
        [0, 0],
        [10_000, 0],
      ],
      [
        [8000, 6000],
        [8000, 200],
      ],
    ]
    expect(built(apart, 50).parts).toBe(2)
    expect(distance(built(apart, 50), [8000, 6000], [0, 0])).toBe(Infinity)
    expect(built(apart, 250).parts).toBe(1)
  })

  it('takes the way that costs least: a fast detour before a slow straight road', () => {
    const paths: [number, number][][] = [
      [
        [0, 0],
        [10_000, 0],
      ],
      [
        [0, 0],
        [5000, 4000],
        [10_000, 0],
      ],
    ]
    const seconds = built(paths, 1, Float64Array.of(3.6 / 20, 3.6 / 100))
    const detour = ground([0, 0], [5000, 4000], [10_000, 0])
    expect(distance(seconds, [0, 0], [10_000, 0])).toBeCloseTo((detour * 3.6) / 100, 1)
    expect(distance(built(paths), [0, 0], [10_000, 0])).toBeCloseTo(ground([0, 0], [10_000, 0]), 1)
  })

  it('knows how far along a line and how far beside it a place lies', () => {
    const network = built([
      [
        [0, 0],
        [6000, 0],
        [6000, 8000],
      ],
    ])
    const at = nearestPlace(network, 5000, -300)
    expect(at.off).toBeCloseTo(300, 0)
    // On one chain the way is along it, not by its ends.
    expect(distance(network, [5000, -300], [6000, 1000])).toBeCloseTo(2000, 0)
  })

  it('agrees with a plain Dijkstra over all vertices of a mesh', () => {
    let seed = 9
    const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647
    const size = 7
    const at = Array.from({ length: size * size }, (_, i): [number, number] => [
      (i % size) * 4000 + random() * 1500,
      Math.floor(i / size) * 4000 + random() * 1500,
    ])
    const edges: [number, number][] = []
    for (let i = 0; i < size * size; i++) {
      if (i % size < size - 1 && random() < 0.85) edges.push([i, i + 1])
      if (i + size < size * size && random() < 0.85) edges.push([i, i + size])
    }
    const bent = edges.map(([a, b]): [number, number][] => [
      at[a],
      [
        (at[a][0] + at[b][0]) / 2 + 300 * (random() - 0.5),
        (at[a][1] + at[b][1]) / 2 + 300 * (random() - 0.5),
      ],
      at[b],
    ])
    const network = built(bent)
    const length = (path: [number, number][]) => ground(...path)
    // Every pair by relaxing all edges until nothing changes.
    for (const start of [0, 24, 40]) {
      const costs = new Float64Array(size * size).fill(Infinity)
      costs[start] = 0
      for (let changed = true; changed;) {
        changed = false
        edges.forEach(([a, b], e) => {
          const l = length(bent[e])
          for (const [p, q] of [
            [a, b],
            [b, a],
          ])
            if (costs[p] + l < costs[q] - 1e-6) {
              costs[q] = costs[p] + l
              changed = true
            }
        })
      }
      for (let end = 0; end < size * size; end += 5) {
        const touches = (node: number) => edges.some((edge) => edge.includes(node))
        if (!touches(start) || !touches(end)) continue
        const found = distance(network, at[start], at[end])
        if (costs[end] === Infinity) expect(found).toBe(Infinity)
        else expect(Math.abs(found - costs[end])).toBeLessThan(5)
      }
    }
  })

  it('is none without lines that can be gone along', () => {
    const line = linesOf([
      [0, 0],
      [1, 1],
    ])
    expect(networkOf(line, plane, { toleranceM: 1, paces: Float64Array.of(NaN) })).toBeNull()
    expect(networkOf({ kind: 'none' }, plane, { toleranceM: 1, paces: null })).toBeNull()
  })

  it('finds the nearest place however many lines have boxes that come nearer', () => {
    // Thirty steep lines whose boxes hold the place, and one short line close to it.
    const steep = Array.from({ length: 30 }, (_, i): [number, number][] => [
      [-20_000 - 10 * i, -20_000],
      [20_000, 20_000 + 10 * i],
    ])
    const network = built(
      [
        ...steep,
        [
          [3000, -3500],
          [3500, -3000],
        ],
      ],
      0.001,
    )
    const { off } = nearestPlace(network, 3200, -3400)
    expect(off).toBeLessThan(100)
  })
})
