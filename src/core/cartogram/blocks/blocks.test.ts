import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { makePlanet, smallPlanet } from '../../../../demo/planet/planet'
import type { Areas } from '@/core/geo/geometry'
import { square } from '@/core/geo/geo-testing'
import { geometryFromShapes } from '@/core/geo/shapes'
import { drain } from '@/core/grid/steps'
import { createProjection, type Projection } from '@/core/projection/projection'
import { planeAreas, ringAreas, type PlaneAreas } from '../plane'
import { projectGeometry } from '@/core/geo/projected'
import { allotted, blockSums, roundValue } from './allot'
import { addressesOf, addressKey, runsOf } from './cells'
import { between, moved, painted, swapped, turned, type Address } from './edit'
import {
  around,
  blockArea,
  blockAt,
  blockShapes,
  blockSide,
  cornersOf,
  middleOf,
  type BlockShape,
} from '../block-grid'
import { grouped } from './grouped'
import { blockGeometry, judgeBlocks, layOutBlocks, settleBlocks, type Cells } from './make'
import { piecesOf } from './outlines'
import { proportioned, spreadOf } from './stretch'

const sum = (numbers: ArrayLike<number>): number => Array.from(numbers).reduce((all, n) => all + n, 0)

describe('whole numbers of blocks', () => {
  const amounts = fc.array(fc.oneof(fc.double({ min: 0, max: 1e6, noNaN: true }), fc.constant(NaN)), {
    minLength: 1,
    maxLength: 60,
  })
  it('add up to the total always, and none is off by a block or more unless small ones need theirs', () => {
    fc.assert(
      fc.property(amounts, fc.integer({ min: 0, max: 5000 }), (given, total) => {
        const all = sum(given.map((value) => (value > 0 ? value : 0)))
        const blocks = allotted(given, total)
        expect(sum(blocks)).toBe(all > 0 ? total : 0)
        const quotas = given.map((value) => (value > 0 ? (value / all) * total : 0))
        given.forEach((value, i) => {
          expect(blocks[i]).toBeGreaterThanOrEqual(0)
          if (!(value > 0)) expect(blocks[i]).toBe(0)
          // Nobody gets more than the next whole number.
          expect(blocks[i]).toBeLessThanOrEqual(Math.floor(quotas[i] + 1e-9) + 1)
        })
      }),
    )
  })
  it('are those of largest remainders where nobody is small', () => {
    // A worked example of the method: seats 5, 2, 2, 1 for 10 in all.
    expect([...allotted([47_000, 16_000, 15_900, 12_000], 10)]).toEqual([5, 2, 2, 1])
    expect([...allotted([1, 1, 1], 2)]).toEqual([1, 1, 0])
  })
  it('give one to what is worth half of one', () => {
    expect([...allotted([97.4, 0.6, 0.6, 1.4], 100)]).toEqual([97, 1, 1, 1])
  })
})

describe('the sums of the page', () => {
  it.each([
    [4999, 5000],
    [1.4, 1],
    [1.5, 2],
    [2.2, 2],
    [2.3, 2.5],
    [7.2, 10],
    [0.031, 0.025],
    [834_000, 1_000_000],
  ])('%d is about %d', (value, round) => expect(roundValue(value)).toBe(round))
  it('follow from each other', () => {
    const page = { width: 180, height: 240 }
    const sums = blockSums(page, { shape: 'squares', sideMm: 4, share: 1 / 3, total: 4_500_000, value: 5000 })
    expect(sums).toEqual({ onPage: 2700, exact: 5000, rounded: 5000, blocks: 900, filled: 1 / 3 })
    const hexagons = blockSums(page, {
      shape: 'hexagons',
      sideMm: 4,
      share: 1 / 3,
      total: 4_500_000,
      value: 5000,
    })
    expect(hexagons.onPage).toBe(Math.floor((180 * 240) / (16 * (Math.sqrt(3) / 2))))
  })
})

describe('the grid', () => {
  const address = fc.tuple(fc.integer({ min: -500, max: 500 }), fc.integer({ min: -500, max: 500 }))
  for (const shape of blockShapes)
    it(`of ${shape} gives every place to the block with the nearest middle`, () => {
      const grid = { shape, side: 3, x0: 11, y0: -7 }
      fc.assert(
        fc.property(
          fc.double({ min: -90, max: 90, noNaN: true }),
          fc.double({ min: -90, max: 90, noNaN: true }),
          (x, y) => {
            const [q, r] = blockAt(grid, x, y)
            const far = (block: readonly [number, number]) => {
              const [mx, my] = middleOf(grid, ...block)
              return Math.hypot(mx - x, my - y)
            }
            for (const [dq, dr] of around[shape])
              expect(far([q, r])).toBeLessThanOrEqual(far([q + dq, r + dr]) + 1e-9)
          },
        ),
      )
      fc.assert(
        fc.property(address, ([q, r]) => {
          expect(blockAt(grid, ...middleOf(grid, q, r))).toEqual([q, r])
        }),
      )
      const [a, b] = [cornersOf(grid, 0, 0), cornersOf(grid, ...around[shape][0])]
      // Side 0 of a block is its neighbour's side across from it.
      const half = around[shape].length / 2
      expect(a[0][0]).toBeCloseTo(b[half + 1]?.[0] ?? b[(half + 1) % b.length][0], 9)
      expect(blockSide(shape, blockArea(shape, 5))).toBeCloseTo(5, 12)
    })
  it('keeps blocks as rows', () => {
    fc.assert(
      fc.property(fc.array(address, { maxLength: 80 }), (given) => {
        const blocks = [...new Map(given.map((one) => [addressKey(...one), one])).values()]
        const back = addressesOf(runsOf(blocks.flat()))
        const keys = (list: number[]) =>
          Array.from({ length: list.length / 2 }, (_, k) => addressKey(list[2 * k], list[2 * k + 1])).sort()
        expect(keys(back)).toEqual(keys(blocks.flat()))
      }),
    )
  })
})

describe('small areas', () => {
  const names = ['A', 'B', 'C', 'D', 'E', 'F']
  const line = { a: [0, 1, 2, 3, 4], b: [1, 2, 3, 4, 5] }
  const of = (amounts: number[], regions: (string | null)[] | null = null) => ({
    amounts: Float64Array.from(amounts),
    names,
    regions,
    neighbours: line,
  })
  const wishes = { value: 10, byRule: true, byHand: [], alone: new Set<number>() }
  it('are put together with those of their region', () => {
    const bodies = grouped(of([2, 40, 3, 1, 50, 60], ['n', 'n', 'n', 'n', 's', 's']), wishes)
    expect(bodies.map(({ name, rows }) => [name, rows])).toEqual([
      ['Rest of n', [0, 2, 3]],
      ['B', [1]],
      ['E', [4]],
      ['F', [5]],
    ])
  })
  it('take in their smallest neighbour where they are still too small', () => {
    const bodies = grouped(of([2, 40, 30, 20, 50, 60]), wishes)
    expect(bodies[0]).toMatchObject({ name: 'B and A', rows: [0, 1], amount: 42 })
    expect(grouped(of([2, 40, 30, 20, 50, 60]), { ...wishes, alone: new Set([0]) })).toHaveLength(6)
    expect(grouped(of([2, 40, 30, 20, 50, 60]), { ...wishes, byRule: false })).toHaveLength(6)
  })
  it('by hand come first, and every area is in one body at most', () => {
    const rows = fc.array(fc.integer({ min: 0, max: 5 }), { minLength: 1, maxLength: 4 })
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 30, noNaN: true }), { minLength: 6, maxLength: 6 }),
        rows,
        fc.boolean(),
        (amounts, byHand, regions) => {
          const given = of(amounts, regions ? ['n', 'n', null, 's', 's', 's'] : null)
          const bodies = grouped(given, { ...wishes, byHand: [{ name: 'Mine', rows: [...new Set(byHand)] }] })
          const all = bodies.flatMap(({ rows: own }) => own)
          expect(new Set(all).size).toBe(all.length)
          amounts.forEach((value, row) => value > 0 && expect(all).toContain(row))
          expect(sum(bodies.map(({ amount }) => amount))).toBeCloseTo(sum(amounts), 9)
          expect(new Set(bodies.map(({ name }) => name)).size).toBe(bodies.length)
        },
      ),
    )
  })
})

const plane = createProjection({ id: 'lambert-azimuthal-equal-area', centre: [12, 42], parallels: [0, 0] })

/** A board of `n` by `n` fields that share their borders, and an isle. */
function country(n: number): Areas {
  const fields = Array.from({ length: n * n }, (_, i) => square(10 + (i % n), 40 + Math.floor(i / n)))
  return geometryFromShapes([...fields, square(12 + n, 41)]) as Areas
}

const bodiesOf = (areas: PlaneAreas, values: ArrayLike<number>, total: number) => {
  const blocks = allotted(values, total)
  const there = [...blocks.keys()].filter((f) => areas.areas[f] > 0 && blocks[f] > 0)
  const of = Int32Array.from(blocks, (_, f) => there.indexOf(f))
  return { of, blocks: Int32Array.from(there, (f) => blocks[f]) }
}

/** Every block once, as many as wanted, each body in one piece. */
function sound(cells: Cells, blocks: Int32Array, shape: BlockShape): void {
  const keys = cells.flatMap((own) =>
    Array.from({ length: own.length / 2 }, (_, k) => addressKey(own[2 * k], own[2 * k + 1])),
  )
  expect(new Set(keys).size).toBe(keys.length)
  expect(cells.map((own) => own.length / 2)).toEqual([...blocks])
  for (const own of cells) expect(piecesOf(own, { shape })).toHaveLength(1)
}

describe('a layout', () => {
  const areas = planeAreas(country(5), plane)
  it('has every block that is wanted, each once, and tears nothing, whatever the amounts', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.2, max: 40, noNaN: true }), { minLength: 26, maxLength: 26 }),
        fc.constantFrom(...blockShapes),
        fc.integer({ min: 40, max: 400 }),
        (values, shape, total) => {
          const bodies = bodiesOf(areas, values, total)
          const cells = drain(layOutBlocks(areas, bodies, shape, 1))
          sound(cells, bodies.blocks, shape)
          const judged = drain(judgeBlocks(areas, bodies, shape, cells))
          expect(judged).toMatchObject({ wrong: [], torn: [], has: total, wanted: total })
        },
      ),
      { numRuns: 12 },
    )
  })
  it('is the same twice, and another one for another seed', () => {
    const bodies = bodiesOf(
      areas,
      Float64Array.from({ length: 26 }, (_, i) => 1 + ((i * 7) % 11)),
      200,
    )
    const lay = (seed: number) => drain(layOutBlocks(areas, bodies, 'hexagons', seed))
    expect(lay(1)).toEqual(lay(1))
    expect(lay(2)).not.toEqual(lay(1))
  })
  it('of even amounts is about the ground itself, with water round the isle', () => {
    const bodies = bodiesOf(areas, new Float64Array(26).fill(1), 26 * 9)
    const judged = drain(
      judgeBlocks(areas, bodies, 'squares', drain(layOutBlocks(areas, bodies, 'squares', 1))),
    )
    expect(judged.touching / judged.pairs).toBeGreaterThan(0.9)
    expect(judged.overWater).toBe(0)
    expect(judged.likeness).toBeGreaterThan(0.7)
    expect(judged.turnedDeg).toBeLessThan(20)
  })
  it('mirrors nothing and turns nothing round, however few blocks there are', () => {
    const row = (at: (i: number) => [number, number]) =>
      planeAreas(geometryFromShapes([0, 1, 2].map((i) => square(...at(i)))) as Areas, plane)
    for (const areas of [row((i) => [10 + i, 41]), row((i) => [12, 40 + i])])
      for (const shape of blockShapes)
        for (const total of [3, 12, 60]) {
          const bodies = bodiesOf(areas, [5, 4, 3], total)
          const cells = drain(layOutBlocks(areas, bodies, shape, 1))
          expect(drain(judgeBlocks(areas, bodies, shape, cells)).turnedDeg).toBeLessThan(45)
        }
  })
  it('keeps three of four borders of a planet of 220 states, over the edges of its map', () => {
    const planet = makePlanet(smallPlanet)
    const geometry = geometryFromShapes(planet.states.map((state) => state.geometry)) as Areas
    const world = planeAreas(
      geometry,
      createProjection({ id: 'equal-earth', centre: [0, 0], parallels: [0, 0] }),
    )
    const values = Float64Array.from(planet.states, (_, i) => Math.exp(((i * 37) % 100) / 33))
    const bodies = bodiesOf(world, values, 2500)
    const cells = drain(layOutBlocks(world, bodies, 'hexagons', 1))
    sound(cells, bodies.blocks, 'hexagons')
    const { touching, pairs } = drain(judgeBlocks(world, bodies, 'hexagons', cells))
    expect(touching / pairs).toBeGreaterThan(0.75)
  }, 60_000)

  const bodies = bodiesOf(
    areas,
    Float64Array.from({ length: 26 }, (_, i) => 1 + ((i * 7) % 11)),
    240,
  )
  const laid = drain(layOutBlocks(areas, bodies, 'hexagons', 1))
  const settle = (cells: Cells, fixed = new Uint8Array(26)) =>
    drain(settleBlocks(areas, bodies, { shape: 'hexagons', cells, fixed, seed: 1 }))
  it('is right again after whatever was painted, and leaves alone what is kept', () => {
    const strokes = fc.array(
      fc.tuple(
        fc.integer({ min: -1, max: 25 }),
        fc.integer({ min: -9, max: 9 }),
        fc.integer({ min: -9, max: 9 }),
      ),
      { minLength: 1, maxLength: 12 },
    )
    fc.assert(
      fc.property(strokes, (given) => {
        const cells = given.reduce(
          (all, [body, q, r]) =>
            painted(all, body, [
              [q, r],
              [q + 1, r],
            ]),
          laid,
        )
        sound(settle(cells), bodies.blocks, 'hexagons')
      }),
      { numRuns: 15 },
    )
    const fixed = Uint8Array.from({ length: 26 }, (_, a) => Number(a === 12))
    const moved12 = moved(laid, 12, [1, 0])
    const kept = settle(moved12, fixed)
    const keys = (own: Int32Array) =>
      Array.from({ length: own.length / 2 }, (_, k) => addressKey(own[2 * k], own[2 * k + 1])).sort()
    expect(keys(kept[12])).toEqual(keys(moved12[12]))
    expect(sum(kept.map((own) => own.length / 2))).toBe(240)
  })
  it('goes to degrees and back with the areas that its blocks have', () => {
    const cells = Array.from({ length: 26 }, (_, f) => laid[bodies.of[f]] ?? new Int32Array(0))
    for (const [shape, sideM] of [['hexagons', 9000]] as const) {
      const { geometry, lines, drawnIn } = drain(blockGeometry(areas, cells, { shape, sideM }, plane))
      const measured = ringAreas(projectGeometry(geometry, plane) as Areas)
      cells.forEach((own, f) => {
        const wanted = (own.length / 2) * blockArea(shape, sideM)
        expect(Math.abs(measured[f] - wanted)).toBeLessThan(1e-3 * wanted)
      })
      expect(drawnIn).toBe(0)
      expect(lines.kind).toBe('lines')
    }
  })
})

describe('outlines of blocks', () => {
  const straight = { invert: (x: number, y: number) => [x, y] } as unknown as Projection
  it('have as much area as blocks, with holes, and where blocks meet in corners alone', () => {
    const address = fc.tuple(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 6 }))
    fc.assert(
      fc.property(
        fc.array(address, { minLength: 1, maxLength: 40 }),
        fc.constantFrom(...blockShapes),
        (given, shape) => {
          const own = Int32Array.from([...new Map(given.map((a) => [addressKey(...a), a])).values()].flat())
          const areas = { areas: Float64Array.of(1), centres: Float64Array.of(0, 0) } as PlaneAreas
          const { geometry } = drain(blockGeometry(areas, [own], { shape, sideM: 1 }, straight))
          expect(ringAreas(geometry)[0]).toBeCloseTo((own.length / 2) * blockArea(shape, 1), 6)
        },
      ),
    )
  })
})

describe('by hand', () => {
  const cells: Cells = [Int32Array.of(0, 0, 1, 0, 0, 1), Int32Array.of(2, 0, 3, 0), Int32Array.of(9, 9)]
  const blocksOf = (own: Int32Array) =>
    Array.from({ length: own.length / 2 }, (_, k) => addressKey(own[2 * k], own[2 * k + 1])).sort()
  it('a stroke takes blocks from whoever had them, and each is there once', () => {
    const after = painted(cells, 0, [
      [2, 0],
      [2, 0],
      [5, 5],
    ])
    expect(blocksOf(after[0])).toEqual(['0,0', '0,1', '1,0', '2,0', '5,5'])
    expect(blocksOf(after[1])).toEqual(['3,0'])
    expect(after[2]).toBe(cells[2])
    expect(painted(cells, -1, [[0, 0]]).map((own) => own.length / 2)).toEqual([2, 2, 1])
  })
  it('leaves no block out where the pointer is fast', () => {
    for (const shape of blockShapes)
      fc.assert(
        fc.property(
          fc.tuple(fc.integer({ min: -20, max: 20 }), fc.integer({ min: -20, max: 20 })),
          fc.tuple(fc.integer({ min: -20, max: 20 }), fc.integer({ min: -20, max: 20 })),
          (from, to) => {
            const way = between(shape, from as Address, to as Address)
            expect(way[0]).toEqual(from)
            expect(way[way.length - 1]).toEqual(to)
            for (let k = 1; k < way.length; k++) {
              const step = [way[k][0] - way[k - 1][0], way[k][1] - way[k - 1][1]]
              const near =
                shape === 'squares'
                  ? Math.max(Math.abs(step[0]), Math.abs(step[1])) <= 1
                  : around.hexagons.some(([q, r]) => q === step[0] && r === step[1])
              expect(near).toBe(true)
            }
          },
        ),
      )
  })
  it('turns come round, moves go back, and swaps keep every number of blocks', () => {
    const round = (shape: BlockShape, times: number) =>
      Array.from({ length: times }).reduce<Cells>((all) => turned(all, 0, shape), cells)
    expect(blocksOf(round('hexagons', 6)[0])).toEqual(blocksOf(cells[0]))
    expect(blocksOf(round('squares', 4)[0])).toEqual(blocksOf(cells[0]))
    expect(blocksOf(moved(moved(cells, 0, [0, 5]), 0, [0, -5])[0])).toEqual(blocksOf(cells[0]))
    for (const [a, b] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ]) {
      const after = swapped(cells, a, b, 'squares')
      expect(after.map((own) => own.length)).toEqual(cells.map((own) => own.length))
    }
    expect(blocksOf(swapped([cells[1], Int32Array.of(7, 7, 8, 7)], 0, 1, 'squares')[0])).toEqual([
      '7,7',
      '8,7',
    ])
  })
})

it('gives places the proportions of others', () => {
  const wide: [number, number][] = [
    [0, 0],
    [8, 0],
    [8, 2],
    [0, 2],
  ]
  const high = wide.map(([x, y]): [number, number] => [100 + y, 50 + x])
  const [a, b, c, d] = proportioned(spreadOf(wide).spread, spreadOf(high).spread)
  expect(a * d - b * c).toBeCloseTo(1, 12)
  const turned = wide.map(([x, y]): [number, number] => [a * x + b * y, c * x + d * y])
  const [sx, , sy] = spreadOf(turned).spread
  const [hx, , hy] = spreadOf(high).spread
  expect(sx / sy).toBeCloseTo(hx / hy, 9)
  expect(proportioned([0, 0, 0], [1, 0, 1])).toEqual([1, 0, 0, 1])
})
