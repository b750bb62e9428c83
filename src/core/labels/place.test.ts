import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Bounds } from '@/core/scene/bounds'
import { overlaps } from '@/core/scene/bounds'
import { type Candidate } from './candidate'
import { placeLabels, type Job } from './place'

const at = (x: number, y: number, w = 10, h = 3): Candidate => ({
  boxes: [[x, y, x + w, y + h]],
  x: x + w / 2,
  y: y + h / 2,
  preferred: true,
  leader: null,
  nodes: () => [],
})
const job = (...candidates: Candidate[]): Job => ({ candidates: () => candidates, fixed: false, ownMark: -1 })
const window = { x: 0, y: 0, width: 100, height: 60 }

describe('placing labels', () => {
  it('takes the first place that is free, in the order of the labels', () => {
    const [a, b] = placeLabels([job(at(10, 10)), job(at(12, 10), at(30, 10))], [], window)
    expect(a.candidate?.x).toBe(15)
    expect(b.candidate?.x).toBe(35)
  })

  it('keeps off marks but the own one, and inside the window', () => {
    const marks: Bounds[] = [[8, 8, 12, 12]]
    expect(placeLabels([job(at(10, 10))], marks, window)[0]).toEqual({
      candidate: null,
      reason: 'in the way',
    })
    expect(placeLabels([{ ...job(at(10, 10)), ownMark: 0 }], marks, window)[0].candidate).not.toBeNull()
    expect(placeLabels([job(at(95, 10))], [], window)[0].candidate).toBeNull()
    expect(placeLabels([job()], [], window)[0].reason).toBe('no room')
  })

  it('moves one other label away where both then have a place', () => {
    const [a, b] = placeLabels([job(at(10, 10), at(40, 10)), job(at(12, 10))], [], window)
    expect(a.candidate?.x).toBe(45)
    expect(b.candidate?.x).toBe(17)
  })

  it('never moves what was put there by hand, and gives way to it', () => {
    const [a, b] = placeLabels(
      [job(at(10, 10), at(40, 10)), { ...job(at(12, 10), at(70, 10)), fixed: true }],
      [],
      window,
    )
    expect(b.candidate?.x).toBe(17)
    expect(a.candidate?.x).toBe(45)
  })

  it('gives places that never overlap each other or a mark, always the same ones', () => {
    const place = fc
      .tuple(fc.integer({ min: -5, max: 95 }), fc.integer({ min: -5, max: 58 }))
      .map(([x, y]) => at(x, y))
    fc.assert(
      fc.property(
        fc.array(fc.array(place, { maxLength: 6 }), { maxLength: 40 }),
        fc.array(fc.tuple(fc.integer({ min: 0, max: 95 }), fc.integer({ min: 0, max: 55 })), {
          maxLength: 8,
        }),
        (lists, dots) => {
          const marks = dots.map(([x, y]): Bounds => [x, y, x + 2, y + 2])
          const run = () =>
            placeLabels(
              lists.map((list) => job(...list)),
              marks,
              window,
            )
          const labels = run()
          const placed = labels.flatMap(({ candidate }) => candidate?.boxes ?? [])
          placed.forEach((a, i) => {
            expect(marks.some((mark) => overlaps(a, mark))).toBe(false)
            for (const b of placed.slice(i + 1)) expect(overlaps(a, b)).toBe(false)
          })
          expect(run().map(({ candidate }) => candidate && [candidate.x, candidate.y])).toEqual(
            labels.map(({ candidate }) => candidate && [candidate.x, candidate.y]),
          )
        },
      ),
      { numRuns: 80 },
    )
  })
})
