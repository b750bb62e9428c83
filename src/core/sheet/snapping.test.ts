import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { resizeBox, snapMove, snapTargets } from './snapping'

const page = { page: { widthMm: 297, heightMm: 210 }, margins: { top: 12, right: 12, bottom: 10, left: 12 } }
const other = { x: 100, y: 60, width: 40, height: 20 }
const targets = snapTargets(page, [other])

describe('snapping while moving', () => {
  it('takes the nearest edge or centre to a margin, the page centre or another part, exactly', () => {
    expect(snapMove({ x: 12.7, y: 100, width: 30, height: 10 }, targets, 1).box.x).toBe(12)
    expect(snapMove({ x: 133, y: 100, width: 30, height: 10 }, targets, 1).box.x).toBe(133.5)
    const atMargin = snapMove({ x: 254.6, y: 143, width: 30, height: 10 }, targets, 1)
    expect(atMargin.box.x).toBeCloseTo(255, 9)
    expect(atMargin.lines).toEqual([{ axis: 'x', at: 285 }])
    expect(snapMove({ x: 200, y: 79.4, width: 30, height: 10 }, targets, 1).box.y).toBe(80)
  })

  it('leaves alone what is further away, and keeps the size', () => {
    fc.assert(
      fc.property(
        fc.record({
          x: fc.double({ min: -20, max: 280, noNaN: true }),
          y: fc.double({ min: -20, max: 200, noNaN: true }),
          width: fc.double({ min: 4, max: 100, noNaN: true }),
          height: fc.double({ min: 4, max: 80, noNaN: true }),
        }),
        (box) => {
          const { box: moved, lines } = snapMove(box, targets, 1.5)
          expect([moved.width, moved.height]).toEqual([box.width, box.height])
          expect(Math.abs(moved.x - box.x)).toBeLessThanOrEqual(1.5)
          expect(Math.abs(moved.y - box.y)).toBeLessThanOrEqual(1.5)
          for (const { axis, at } of lines) {
            const [start, size] = axis === 'x' ? [moved.x, moved.width] : [moved.y, moved.height]
            expect(
              Math.min(...[start, start + size / 2, start + size].map((place) => Math.abs(place - at))),
            ).toBeLessThan(1e-9)
          }
        },
      ),
    )
  })
})

describe('pulling a handle', () => {
  it('moves only its own edges', () => {
    expect(
      resizeBox(other, { x: 1, y: 0 }, { dx: 7.75, dy: 50, targets: { x: [], y: [] }, tolerance: 1 }).box,
    ).toEqual({
      x: 100,
      y: 60,
      width: 47.75,
      height: 20,
    })
    expect(
      resizeBox(other, { x: -1, y: -1 }, { dx: -10, dy: -5, targets: { x: [], y: [] }, tolerance: 1 }).box,
    ).toEqual({
      x: 90,
      y: 55,
      width: 50,
      height: 25,
    })
  })

  it('snaps the edge that moves and never turns a part inside out', () => {
    expect(
      resizeBox(other, { x: 1, y: 0 }, { dx: 8.2, dy: 0, targets: { x: [148.5], y: [] }, tolerance: 1 }).box
        .width,
    ).toBe(48.5)
    expect(
      resizeBox(other, { x: -1, y: 0 }, { dx: 300, dy: 0, targets: { x: [], y: [] }, tolerance: 1 }).box,
    ).toEqual({
      x: 136,
      y: 60,
      width: 4,
      height: 20,
    })
  })
})

describe('guides, grid and equal gaps', () => {
  const page = { widthMm: 300, heightMm: 200 }
  const margins = { top: 10, right: 10, bottom: 10, left: 10 }
  const box = (x: number, y: number, width = 20, height = 20) => ({ x, y, width, height })
  const guides = {
    lines: [
      { id: 'a', axis: 'x' as const, at: { by: 'mm' as const, mm: 77 } },
      { id: 'b', axis: 'y' as const, at: { by: 'fraction' as const, fraction: 1 / 3 } },
    ],
    locked: false,
    hidden: false,
  }

  it('are targets; hidden guides are none', () => {
    const targets = snapTargets({ page, margins, guides }, [])
    const { x, y } = snapMove(box(77.6, 67), targets, 2).box
    expect(x).toBe(77)
    expect(y).toBeCloseTo(200 / 3, 9)
    const hidden = snapTargets({ page, margins, guides: { ...guides, hidden: true } }, [])
    expect(snapMove(box(77.6, 67.3), hidden, 2).box).toMatchObject({ x: 77.6, y: 67.3 })
  })

  it('of a grid come after all others', () => {
    const grid = { spacingMm: 7, shown: false, snaps: true }
    const targets = snapTargets({ page, margins, guides, grid }, [])
    expect(snapMove(box(41.2, 29, 3, 3), targets, 1).box).toMatchObject({ x: 42, y: 28 })
    // A guide is nearer to what one means than a line of the grid.
    expect(snapMove(box(76.4, 29, 3, 3), targets, 1).box.x).toBe(77)
    const off = snapTargets({ page, margins, grid: { ...grid, snaps: false } }, [])
    expect(snapMove(box(41.2, 31, 3, 3), off, 1).box.x).toBe(41.2)
  })

  it('make the third part stand as far off as the second, and say how far', () => {
    const others = [box(30, 40), box(63, 45)]
    const targets = { x: [], y: [], others }
    const snapped = snapMove(box(95.4, 42), targets, 2)
    expect(snapped.box.x).toBeCloseTo(96, 9)
    expect(snapped.gaps.map(({ from, to }) => to - from)).toEqual([13, 13])
    const between = snapMove(box(53.2, 42, 5, 5), targets, 2)
    expect(between.box.x).toBeCloseTo(50 + (13 - 5) / 2, 9)
    // What does not lie beside it makes no gap.
    expect(snapMove(box(95.4, 120), targets, 2).gaps).toEqual([])
  })
})
