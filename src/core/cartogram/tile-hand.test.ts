import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { square } from '@/core/geo/geo-testing'
import type { Areas } from '@/core/geo/geometry'
import { geometryFromShapes } from '@/core/geo/shapes'
import { drain } from '@/core/grid/steps'
import { createProjection } from '@/core/projection/projection'
import { blockShapes, middleOf } from './block-grid'
import { makeCartogram } from './make'
import { byHand, tileMoved, tilesAt, type TileAddress } from './tile-hand'

const address = fc.tuple(fc.integer({ min: -4, max: 4 }), fc.integer({ min: -4, max: 4 }))

describe.each(blockShapes)('%s placed by hand', (shape) => {
  it('stand where they were put, no two on one tile, whatever a file says', () => {
    const given = fc.array(fc.tuple(fc.option(address, { nil: undefined }), fc.boolean()), { maxLength: 30 })
    fc.assert(
      fc.property(given, (all) => {
        const cells = all.map(([cell]) => cell)
        const centres = Float64Array.from(all.flatMap((_, f) => [f * 3, -f]))
        const reach = Float64Array.from(all, ([, has]) => (has ? 5 : 0))
        const made = byHand({ shape, origin: [100, 50], cells }, centres, reach, 10)
        const shown = made.cells.flatMap((cell, f) => (cell ? [{ cell, f }] : []))
        expect(shown.map(({ f }) => f)).toEqual([...reach.keys()].filter((f) => reach[f] > 0))
        expect(new Set(shown.map(({ cell }) => cell.join())).size).toBe(shown.length)
        for (const { cell, f } of shown)
          expect([made.at[2 * f], made.at[2 * f + 1]]).toEqual(middleOf(made.grid, ...cell))
        const kept = shown.filter(({ cell, f }) => cells[f]?.join() === cell.join()).length
        expect(kept + made.strays).toBeGreaterThanOrEqual(shown.length)
      }),
      { numRuns: 60 },
    )
  })

  it('change places with what stands where one is put, and nothing else moves', () => {
    const cells: (TileAddress | null)[] = [[0, 0], [1, 0], null, [0, 1]]
    expect(tileMoved(cells, 0, [0, 1])).toEqual([[0, 1], [1, 0], null, [0, 0]])
    expect(tileMoved(cells, 1, [5, 5])).toEqual([[0, 0], [5, 5], null, [0, 1]])
    expect(tileMoved(cells, 1, [1, 0])).toEqual(cells)
  })

  it('of a new area stand on the free tile that is nearest to it', () => {
    const cells: (TileAddress | undefined)[] = [[0, 0], [1, 0], undefined]
    const made = byHand(
      { shape, origin: [0, 0], cells },
      Float64Array.of(0, 0, 0, 0, 13, 0),
      Float64Array.of(5, 5, 5),
      10,
    )
    expect(made.cells[2]).toEqual([2, 0])
    expect(made.strays).toBe(1)
  })

  it('begin where they found their places by themselves: nothing moves when the hand sets in', () => {
    const areas = geometryFromShapes(
      Array.from({ length: 25 }, (_, i) => square(10 + (i % 5), 40 + Math.floor(i / 5))),
    ) as Areas
    const plane = createProjection({
      id: 'lambert-azimuthal-equal-area',
      centre: [12, 42],
      parallels: [0, 0],
    })
    const form = shape === 'hexagons' ? 'hexagon tiles' : 'square tiles'
    const sizes = new Float64Array(25).fill(1)
    const made = drain(makeCartogram(areas, sizes, { form, m2: 8e9 }, plane))
    const { grid, cells } = made.tiles!
    const tiles = {
      shape,
      origin: [grid.x0, grid.y0] as const,
      cells: cells.map((cell) => cell ?? undefined),
    }
    const again = drain(makeCartogram(areas, sizes, { form, m2: 8e9, tiles }, plane))
    again.tiles!.at.forEach((value, i) => expect(Math.abs(value - made.tiles!.at[i])).toBeLessThan(1e-3))
    expect(again.judged.touching).toBe(made.judged.touching)
    // Another shape finds its places by itself.
    const other = shape === 'hexagons' ? 'squares' : 'hexagons'
    const apart = drain(
      makeCartogram(areas, sizes, { form, m2: 8e9, tiles: { ...tiles, shape: other } }, plane),
    )
    expect(apart.geometry).toEqual(made.geometry)
    expect(tilesAt(new Float64Array(4).fill(NaN), shape, 1).cells).toEqual([null, null])
  })
})
