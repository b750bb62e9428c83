import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { aligned, cellsOf, distributed, divisionProblem, inReadingOrder, sides, type Unit } from './arrange'

const mm = fc.double({ min: -100, max: 500, noNaN: true })
const size = fc.double({ min: 0.5, max: 120, noNaN: true })
const units = fc
  .array(fc.record({ x: mm, y: mm, width: size, height: size }), { minLength: 3, maxLength: 9 })
  .map((boxes): Unit[] => boxes.map((box, i) => ({ id: `u${i}`, box })))

const movedBy = (unit: Unit, shifts: Map<string, { dx: number; dy: number }>) => {
  const { dx, dy } = shifts.get(unit.id) ?? { dx: NaN, dy: NaN }
  return { ...unit.box, x: unit.box.x + dx, y: unit.box.y + dy }
}

describe('aligning', () => {
  it('brings each side onto that of the box, to far below 0.01 mm, and moves nothing else', () => {
    const to = { x: 12, y: 34, width: 200, height: 80 }
    fc.assert(
      fc.property(units, fc.constantFrom(...sides), (list, side) => {
        const shifts = aligned(list, side, to)
        for (const unit of list) {
          const box = movedBy(unit, shifts)
          const off = {
            left: box.x - 12,
            centre: box.x + box.width / 2 - 112,
            right: box.x + box.width - 212,
            top: box.y - 34,
            middle: box.y + box.height / 2 - 74,
            bottom: box.y + box.height - 114,
          }[side]
          expect(Math.abs(off)).toBeLessThan(1e-9)
          const across = side === 'left' || side === 'centre' || side === 'right'
          expect(Math.abs(across ? box.y - unit.box.y : box.x - unit.box.x)).toBe(0)
        }
      }),
    )
  })
})

describe('distributing', () => {
  it('makes all gaps, or all distances of middles, equal and keeps the outermost', () => {
    fc.assert(
      fc.property(units, fc.constantFrom('gaps' as const, 'centres' as const), (list, by) => {
        const shifts = distributed(list, 'x', by)
        const before = [...list].sort((a, b) => a.box.x + a.box.width / 2 - (b.box.x + b.box.width / 2))
        const after = before.map((unit) => movedBy(unit, shifts))
        const distances = after
          .slice(1)
          .map((box, i) =>
            by === 'gaps'
              ? box.x - (after[i].x + after[i].width)
              : box.x + box.width / 2 - (after[i].x + after[i].width / 2),
          )
        for (const distance of distances) expect(Math.abs(distance - distances[0])).toBeLessThan(0.01)
        expect(after[0].x).toBeCloseTo(before[0].box.x, 9)
        expect(after[after.length - 1].x).toBeCloseTo(before[before.length - 1].box.x, 9)
      }),
    )
  })

  it('leaves two as they are', () => {
    const two = [0, 50].map((x, i) => ({ id: `${i}`, box: { x, y: 0, width: 10, height: 10 } }))
    expect([...distributed(two, 'x', 'gaps').values()]).toEqual([
      { dx: 0, dy: 0 },
      { dx: 0, dy: 0 },
    ])
  })
})

describe('dividing', () => {
  it('gives exact thirds of a page of 457 × 610 mm', () => {
    const cells = cellsOf(
      { x: 12, y: 12, width: 433, height: 586 },
      { columns: 3, rows: 1, gutterX: 0, gutterY: 0 },
    )
    for (const [i, { x, width, height }] of cells.entries()) {
      expect(width).toBeCloseTo(433 / 3, 9)
      expect(x).toBeCloseTo(12 + (i * 433) / 3, 9)
      expect(height).toBe(586)
    }
  })

  it('fills the space exactly with cells and gutters', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 9 }),
        fc.double({ min: 0, max: 8, noNaN: true }),
        (columns, rows, gutter) => {
          const box = { x: 7.5, y: 3.25, width: 300, height: 200 }
          const cells = cellsOf(box, { columns, rows, gutterX: gutter, gutterY: gutter })
          expect(cells).toHaveLength(columns * rows)
          const last = cells[cells.length - 1]
          expect(Math.abs(last.x + last.width - 307.5)).toBeLessThan(1e-9)
          expect(Math.abs(last.y + last.height - 203.25)).toBeLessThan(1e-9)
          const beside = cells[1] && columns > 1 ? cells[1].x - (cells[0].x + cells[0].width) : gutter
          expect(Math.abs(beside - gutter)).toBeLessThan(1e-9)
        },
      ),
    )
  })

  it('says what does not fit', () => {
    const box = { x: 0, y: 0, width: 100, height: 50 }
    const asked = { columns: 3, rows: 1, gutterX: 2, gutterY: 2 }
    expect(divisionProblem(box, asked)).toBe(null)
    expect(divisionProblem(box, { ...asked, gutterX: 50 })).toBe(
      '3 columns with 50 mm between them do not fit into 100.0 mm.',
    )
    expect(divisionProblem(box, { ...asked, columns: 2.5 })).toContain('whole numbers')
    expect(divisionProblem(box, { ...asked, gutterY: -1 })).toContain('less than nothing')
  })

  it('takes parts in reading order, though they do not stand exactly in rows', () => {
    const at = (id: string, x: number, y: number): Unit => ({ id, box: { x, y, width: 20, height: 20 } })
    const list = [at('d', 30, 42), at('b', 31, 3), at('c', 0, 40), at('a', 2, 0)]
    expect(inReadingOrder(list).map(({ id }) => id)).toEqual(['a', 'b', 'c', 'd'])
  })
})
