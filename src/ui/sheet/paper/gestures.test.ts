import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { boxAround, middleOf, toPage, type Frame, type Point } from '@/core/sheet/frame'
import { makePart } from '@/core/sheet/registry'
import { plainText } from '@/core/sheet/parts/text'
import type { Handle } from '@/core/sheet/snapping'
import { makeSheet, type Part, type Sheet } from '@/core/sheet/spec'
import { inStyle } from '@/core/sheet/type-styles'
import { boxBetween, movedBy, resizedTo, turnBetween, turnedTo, turningMiddle } from './gestures'

const part = (id: string, box: Part['box'], rotationDeg = 0): Part =>
  makePart('text', { id, name: id, box, rotationDeg }, plainText({ text: id, style: inStyle('body') }))
const sheetOf = (parts: Part[], more: Partial<Sheet> = {}): Sheet =>
  makeSheet({
    id: 's',
    name: 'S',
    page: { widthMm: 200, heightMm: 100 },
    margins: { top: 10, right: 10, bottom: 10, left: 10 },
    parts,
    ...more,
  })
const frameOf = ({ box, rotationDeg }: Part): Frame => ({ box, rotationDeg })
const snapping = (sheet: Sheet, on = true) => ({ sheet, frameOf, tolerance: 1.5, on })

const one = part('one', { x: 50, y: 40, width: 20, height: 10 })
const other = part('other', { x: 100, y: 20, width: 30, height: 30 })

describe('moving parts', () => {
  it('snaps to margins, and says which line it is', () => {
    const { shift, shown } = movedBy([one], [-39, 0.31], snapping(sheetOf([one])))
    expect(shift[0]).toBe(-40)
    expect(shown.lines.length).toBeGreaterThan(0)
  })

  it('is as far as the pointer went, to a hundredth, where snapping is off', () => {
    expect(movedBy([one], [-39.004, 0.318], snapping(sheetOf([one]), false)).shift).toEqual([-39, 0.32])
  })

  it('takes several parts as one: they keep their distances', () => {
    const { shift } = movedBy([one, other], [-39.2, 0], snapping(sheetOf([one, other])))
    // The left one of both comes to stand on the margin.
    expect(one.box.x + shift[0]).toBeCloseTo(10, 6)
  })

  it('does not snap to hidden parts, nor to itself', () => {
    const hidden = { ...other, hidden: true }
    const near = movedBy(
      [one],
      [33.2, 0],
      snapping(sheetOf([one, { ...hidden, box: { ...other.box, x: 104 } }])),
    )
    expect(near.shift[0]).toBe(33.2)
    const seen = movedBy(
      [one],
      [33.2, 0],
      snapping(sheetOf([one, { ...other, box: { ...other.box, x: 104 } }])),
    )
    // Its right edge meets the other's left one.
    expect(one.box.x + one.box.width + seen.shift[0]).toBeCloseTo(104, 6)
  })

  it('snaps to guides that are not hidden', () => {
    const guides = {
      lines: [{ id: 'g', axis: 'x' as const, at: { by: 'mm' as const, mm: 83.3 } }],
      locked: false,
      hidden: false,
    }
    const to = (hidden: boolean) =>
      movedBy([one], [32.5, 0], snapping(sheetOf([one], { guides: { ...guides, hidden } }))).shift[0]
    expect(one.box.x + to(false)).toBeCloseTo(83.3, 6)
    expect(to(true)).toBe(32.5)
  })

  it('snaps to a grid only where that is wished for', () => {
    const grid = { spacingMm: 7, shown: true, snaps: true }
    const to = (snaps: boolean) =>
      movedBy([one], [-0.4, 0], snapping(sheetOf([one], { grid: { ...grid, snaps } }))).shift[0]
    // Its right edge is the nearest to a line of the grid.
    expect(one.box.x + one.box.width + to(true)).toBeCloseTo(70, 6)
    expect(to(false)).toBe(-0.4)
  })
})

describe('pulling a handle', () => {
  const pull = (own: Part, handle: Handle, from: Point, to: Point) =>
    resizedTo(
      { does: 'resize', part: own, frame: frameOf(own), handle, start: from, moved: true },
      to,
      snapping(sheetOf([own]), false),
    ).box

  it('moves the sides that it is on', () => {
    expect(pull(one, { x: 1, y: 0 }, [70, 45], [75, 60])).toEqual({ x: 50, y: 40, width: 25, height: 10 })
    expect(pull(one, { x: -1, y: -1 }, [50, 40], [48, 37])).toEqual({ x: 48, y: 37, width: 22, height: 13 })
  })

  it('of a turned part leaves the opposite corner where it was on the page', () => {
    fc.assert(
      fc.property(fc.integer({ min: -179, max: 180 }), fc.integer({ min: 1, max: 30 }), (deg, by) => {
        const turned = part('t', one.box, deg)
        const frame = frameOf(turned)
        const start = toPage(frame, [70, 50])
        const along = toPage({ ...frame }, [70 + by, 50 + by])
        const box = pull(turned, { x: 1, y: 1 }, start, along)
        const now = { box, rotationDeg: deg }
        const [before, after] = [toPage(frame, [50, 40]), toPage(now, [box.x, box.y])]
        // Places are kept to a hundredth.
        expect(Math.hypot(after[0] - before[0], after[1] - before[1])).toBeLessThan(0.03)
        expect(box.width).toBeCloseTo(20 + by, 1)
      }),
    )
  })
})

describe('turning', () => {
  it('is the angle between two places around the middle', () => {
    expect(turnBetween([0, 0], [10, 0], [0, 10])).toBe(90)
    expect(turnBetween([5, 5], [5, 0], [0, 5])).toBe(-90)
  })

  it('comes to stand on steps where these are wished for', () => {
    const own = part('t', one.box, 7)
    const turn = (deg: number, stepDeg: number | null) => {
      const [mx, my] = middleOf(own.box)
      const to: Point = [mx + 10 * Math.cos((deg * Math.PI) / 180), my + 10 * Math.sin((deg * Math.PI) / 180)]
      const gesture = {
        does: 'turn' as const,
        parts: [own],
        middle: [mx, my] as Point,
        start: [mx + 10, my] as Point,
        moved: true,
      }
      return turnedTo(gesture, to, { frameOf, stepDeg })[0].frame.rotationDeg
    }
    expect(turn(12, 15)).toBe(15)
    expect(turn(12, null)).toBe(19)
  })

  it('turns several around the middle of all, and keeps how they lie to each other', () => {
    const parts = [one, other]
    const middle = turningMiddle(parts, frameOf)
    const gesture = {
      does: 'turn' as const,
      parts,
      middle,
      start: [middle[0] + 10, middle[1]] as Point,
      moved: true,
    }
    const now = turnedTo(gesture, [middle[0], middle[1] + 10], { frameOf, stepDeg: null })
    const distance = (frames: Frame[]) => {
      const [[ax, ay], [bx, by]] = frames.map(({ box }) => middleOf(box))
      return Math.hypot(ax - bx, ay - by)
    }
    expect(now.map((one) => one.frame.rotationDeg)).toEqual([90, 90])
    expect(distance(now.map((one) => one.frame))).toBeCloseTo(distance([frameOf(one), frameOf(other)]), 6)
    expect(turningMiddle([one], frameOf)).toEqual([60, 45])
    expect(turningMiddle([], frameOf)).toEqual([0, 0])
  })
})

it('a frame drawn over the paper is the box between two places, however it is drawn', () => {
  expect(boxBetween([30, 5], [10, 25])).toEqual({ x: 10, y: 5, width: 20, height: 20 })
  expect(boxAround({ box: boxBetween([1, 1], [1, 1]), rotationDeg: 0 }).width).toBe(0)
})
