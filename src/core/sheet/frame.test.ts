import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  boxAround,
  boxWithin,
  cornersOf,
  holds,
  middleOf,
  reframed,
  tidyAngle,
  toLocal,
  toPage,
  turnedAround,
  type Frame,
} from './frame'
import { resizeBox, type Handle } from './snapping'

const mm = fc.double({ min: -200, max: 400, noNaN: true })
const size = fc.double({ min: 1, max: 300, noNaN: true })
const frames: fc.Arbitrary<Frame> = fc.record({
  box: fc.record({ x: mm, y: mm, width: size, height: size }),
  rotationDeg: fc.double({ min: -180, max: 180, noNaN: true }),
})

describe('frames', () => {
  it('bring a place to their own space and back', () => {
    fc.assert(
      fc.property(frames, mm, mm, (frame, x, y) => {
        const [bx, by] = toPage(frame, toLocal(frame, [x, y]))
        expect(Math.hypot(bx - x, by - y)).toBeLessThan(1e-9 * 1000)
      }),
    )
  })

  it('hold what lies within them, however they are turned', () => {
    fc.assert(
      fc.property(
        frames,
        fc.double({ min: 0.01, max: 0.99, noNaN: true }),
        fc.double({ min: 0.01, max: 0.99, noNaN: true }),
        (frame, u, v) => {
          const { box } = frame
          const within = toPage(frame, [box.x + u * box.width, box.y + v * box.height])
          const outside = toPage(frame, [box.x + (1 + u) * box.width, box.y + v * box.height])
          expect(holds(frame, within)).toBe(true)
          expect(holds(frame, outside)).toBe(false)
          expect(holds(frame, outside, 1.0001 * u * box.width)).toBe(true)
        },
      ),
    )
  })

  it('of a part turned by a quarter lie sideways around the same middle', () => {
    const frame = { box: { x: 10, y: 20, width: 40, height: 10 }, rotationDeg: 90 }
    expect(boxAround(frame)).toEqual({ x: 25, y: 5, width: 10, height: 40 })
    const [first] = cornersOf(frame)
    expect(first[0]).toBeCloseTo(35, 9)
    expect(first[1]).toBeCloseTo(5, 9)
  })

  it('keep the opposite corner in its place when a handle of a turned part is pulled', () => {
    const handles: Handle[] = [
      { x: 1, y: 1 },
      { x: -1, y: 1 },
      { x: 1, y: -1 },
      { x: -1, y: -1 },
      { x: 1, y: 0 },
    ]
    fc.assert(
      fc.property(frames, fc.constantFrom(...handles), mm, mm, (frame, handle, dx, dy) => {
        const { box } = resizeBox(frame.box, handle, { dx, dy, targets: { x: [], y: [] }, tolerance: 0 })
        const after = { box: reframed(frame, box), rotationDeg: frame.rotationDeg }
        const fixed = (b: Frame['box']): [number, number] => [
          handle.x === 1 ? b.x : b.x + b.width,
          handle.y === 1 ? b.y : b.y + b.height,
        ]
        const [ax, ay] = toPage(frame, fixed(frame.box))
        const [bx, by] = toPage(after, fixed(after.box))
        // A side handle leaves the other direction as it was.
        const free =
          handle.y === 0
            ? toLocal(frame, [bx, by])[0] - toLocal(frame, [ax, ay])[0]
            : Math.hypot(ax - bx, ay - by)
        expect(Math.abs(free)).toBeLessThan(1e-6)
      }),
    )
  })

  it('see other frames from within: what lies inside is inside', () => {
    const turned: Frame = { box: { x: 0, y: 0, width: 100, height: 50 }, rotationDeg: 30 }
    const other: Frame = { box: { x: 40, y: 20, width: 10, height: 4 }, rotationDeg: 30 }
    const within = boxWithin(turned, other)
    // Both are turned alike, so that it is a box of the same size.
    expect(within.width).toBeCloseTo(10, 9)
    expect(within.height).toBeCloseTo(4, 9)
    expect(boxWithin({ ...turned, rotationDeg: 0 }, { ...other, rotationDeg: 0 })).toBe(other.box)
  })

  it('turn together around one middle and come back', () => {
    fc.assert(
      fc.property(frames, mm, mm, fc.integer({ min: -170, max: 170 }), (frame, x, y, deg) => {
        const back = turnedAround(turnedAround(frame, [x, y], deg), [x, y], -deg)
        const [ax, ay] = middleOf(frame.box)
        const [bx, by] = middleOf(back.box)
        expect(Math.hypot(ax - bx, ay - by)).toBeLessThan(1e-6)
      }),
    )
    expect([tidyAngle(190), tidyAngle(-180), tidyAngle(180), tidyAngle(720), tidyAngle(-0.001)]).toEqual([
      -170, 180, 180, 0, 0,
    ])
  })
})
