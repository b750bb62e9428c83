import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { treemap, treemapLayoutIds, type Tile, type Tree } from './layout'

const box = { x: 12, y: 30, width: 180, height: 110 }
const areaOf = ({ box: { width, height } }: Tile<string>): number => width * height

const leaf = (of: string, value: number): Tree<string> => ({ of, value, parts: [] })
const parent = (of: string, parts: Tree<string>[]): Tree<string> => ({
  of,
  parts,
  value: parts.reduce((sum, { value }) => sum + value, 0),
})

/** Trees of two levels with values over eight orders of magnitude. */
const trees = fc
  .array(fc.array(fc.double({ min: 1e-4, max: 1e4, noNaN: true }), { minLength: 1, maxLength: 9 }), {
    minLength: 1,
    maxLength: 9,
  })
  .map((groups) =>
    groups.map((values, g) =>
      parent(
        `g${g}`,
        values.map((value, i) => leaf(`g${g} l${i}`, value)),
      ),
    ),
  )

describe.each(treemapLayoutIds)('a treemap of %s', (layout) => {
  it('gives each part its share of the area, to a billionth of a thousandth of the whole', () => {
    fc.assert(
      fc.property(trees, (whole) => {
        const total = whole.reduce((sum, { value }) => sum + value, 0)
        for (const tile of treemap(whole, box, layout)) {
          const wanted = (tile.value / total) * box.width * box.height
          expect(Math.abs(areaOf(tile) - wanted)).toBeLessThan(1e-12 * box.width * box.height)
        }
      }),
      { numRuns: 60 },
    )
  })

  it('fills the box and every parent without gaps or overlaps', () => {
    fc.assert(
      fc.property(trees, (whole) => {
        const tiles = treemap(whole, box, layout)
        const near = 1e-9
        const inside = (a: Tile<string>['box'], b: Tile<string>['box']) =>
          a.x >= b.x - near &&
          a.y >= b.y - near &&
          a.x + a.width <= b.x + b.width + near &&
          a.y + a.height <= b.y + b.height + near
        const leaves = tiles.filter(({ isLeaf }) => isLeaf)
        leaves.forEach((one, i) => {
          const own = tiles.find(({ of, depth }) => depth === 1 && one.of.startsWith(`${of} `))
          expect(own && inside(one.box, own.box)).toBe(true)
          for (const other of leaves.slice(i + 1)) {
            const across =
              Math.min(one.box.x + one.box.width, other.box.x + other.box.width) -
              Math.max(one.box.x, other.box.x)
            const down =
              Math.min(one.box.y + one.box.height, other.box.y + other.box.height) -
              Math.max(one.box.y, other.box.y)
            expect(across < near || down < near).toBe(true)
          }
        })
        const sum = leaves.reduce((all, tile) => all + areaOf(tile), 0)
        expect(sum).toBeCloseTo(box.width * box.height, 8)
      }),
      { numRuns: 40 },
    )
  })

  it('leaves out what has no value, and is nothing for nothing', () => {
    const whole = [leaf('a', 3), leaf('none', 0), leaf('missing', NaN), leaf('less', -2), leaf('b', 1)]
    expect(treemap(whole, box, layout).map(({ of }) => of)).toEqual(['a', 'b'])
    expect(treemap([], box, layout)).toEqual([])
  })
})

describe('layouts of a treemap', () => {
  const values = [6, 6, 4, 3, 2, 2, 1]
  const whole = values.map((value, i) => leaf(String(i), value))

  it('slices run across in the given order, and down within their parts', () => {
    const tiles = treemap([parent('a', [leaf('a1', 1), leaf('a2', 3)]), leaf('b', 4)], box, 'slices')
    expect(tiles.map(({ of }) => of)).toEqual(['a', 'a1', 'a2', 'b'])
    expect(tiles[0].box).toEqual({ x: 12, y: 30, width: 90, height: 110 })
    expect(tiles[1].box.height).toBeCloseTo(27.5, 9)
    expect(tiles[2].box.y).toBeCloseTo(57.5, 9)
  })

  it('strips keep the given order from row to row', () => {
    const tiles = treemap(whole, box, 'strips')
    const read = [...tiles].sort((a, b) => a.box.y - b.box.y || a.box.x - b.box.x).map(({ of }) => of)
    expect(read).toEqual(values.map((_, i) => String(i)))
  })

  it('squares are those of the worked example: 6, 6, 4, 3, 2, 2, 1 in a box of 6 by 4 (Bruls and others 2000)', () => {
    const tiles = treemap(whole, { x: 0, y: 0, width: 6, height: 4 }, 'squares')
    const boxes = tiles.map(({ box: { x, y, width, height } }) =>
      [x, y, width, height].map((n) => Number(n.toFixed(4))),
    )
    // The first two fill a column as wide as 12 of 24 parts, the next two a row beside it.
    expect(boxes.slice(0, 4)).toEqual([
      [0, 0, 3, 2],
      [0, 2, 3, 2],
      [3, 0, 1.7143, 2.3333],
      [4.7143, 0, 1.2857, 2.3333],
    ])
    const longest = (layout: 'slices' | 'squares') =>
      Math.max(
        ...treemap(whole, { x: 0, y: 0, width: 6, height: 4 }, layout).map(({ box: { width, height } }) =>
          Math.max(width / height, height / width),
        ),
      )
    expect(longest('squares')).toBeLessThan(longest('slices') / 3)
  })
})
