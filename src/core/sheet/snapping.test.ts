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
