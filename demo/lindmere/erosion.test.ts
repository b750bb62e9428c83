import { describe, expect, it } from 'vitest'
import { drainage, erode, fixed, sea, worn, type Ground } from './erosion'

/** An island with a hollow in its middle, and a lake in a corner of it. */
function island(): Ground {
  const [columns, rows] = [24, 20]
  const heights = new Float64Array(columns * rows)
  const kinds = new Uint8Array(columns * rows)
  for (let row = 2; row < rows - 2; row++)
    for (let column = 2; column < columns - 2; column++) {
      const i = row * columns + column
      kinds[i] = worn
      const middle = Math.hypot(column - 12, row - 10)
      heights[i] = 100 + ((i * 7919) % 13) - (middle < 4 ? 40 : 2 * middle)
    }
  kinds[5 * columns + 5] = fixed
  heights[5 * columns + 5] = 30
  return { columns, rows, cellM: 1000, heights, kinds }
}

describe('running water', () => {
  it('finds its way out of every hollow, into neighbours that come before', () => {
    const ground = island()
    const { order, into } = drainage(ground)
    expect(order.length).toBe(ground.kinds.filter((kind) => kind !== sea).length)
    const place = new Map([...order].map((cell, i) => [cell, i]))
    for (const cell of order) {
      const to = into[cell]
      if (to < 0) continue
      expect(place.get(to)).toBeLessThan(place.get(cell) as number)
      const across = Math.abs((to % ground.columns) - (cell % ground.columns))
      expect(across <= 1 && Math.abs(to - cell) <= ground.columns + 1).toBe(true)
    }
  })

  it('wears ground down until none lies below where its water runs, and leaves what is fixed', () => {
    const ground = island()
    const before = Float64Array.from(ground.heights)
    erode(ground, new Float64Array(before.length), { steps: 40, strength: 0.5, creep: 0 })
    const { order, into } = drainage(ground)
    for (const cell of order)
      if (into[cell] >= 0)
        expect(ground.heights[cell]).toBeGreaterThanOrEqual(ground.heights[into[cell]] - 0.02)
    expect(ground.heights[5 * ground.columns + 5]).toBe(30)
    // Outlets stay; what lies inland comes down to them.
    const outlets = [...order].filter((cell) => into[cell] < 0)
    const highest = Math.max(...outlets.map((cell) => ground.heights[cell]))
    expect(Math.max(...ground.heights)).toBeLessThanOrEqual(highest)
    expect(Math.max(...before)).toBeGreaterThan(highest + 1)
  })

  it('holds a slope where the ground rises as fast as it is worn', () => {
    // One outlet at the left of a basin that only drains there: the fall to it is rise / (strength · √area).
    const [columns, rows] = [9, 9]
    const kinds = new Uint8Array(columns * rows).fill(worn)
    for (let i = 0; i < kinds.length; i++) {
      const [column, row] = [i % columns, Math.floor(i / columns)]
      if (column === 0 || row === 0 || column === 8 || row === 8) kinds[i] = sea
    }
    const ground: Ground = { columns, rows, cellM: 1000, heights: new Float64Array(81), kinds }
    for (let i = 0; i < 81; i++) ground.heights[i] = kinds[i] === worn ? 1 : 0
    const rise = Float64Array.from(kinds, (kind) => (kind === worn ? 2 : 0))
    erode(ground, rise, { steps: 400, strength: 0.4, creep: 0 })
    const { order, into } = drainage(ground)
    const area = new Float64Array(81).fill(1)
    for (const cell of [...order].reverse()) if (into[cell] >= 0) area[into[cell]] += area[cell]
    const inner = [...order].filter((cell) => into[cell] >= 0)
    expect(inner.length).toBe(25)
    for (const cell of inner) {
      const straight = [1, columns].includes(Math.abs(into[cell] - cell))
      const fall = ground.heights[cell] - ground.heights[into[cell]]
      expect(fall).toBeCloseTo((2 * (straight ? 1 : Math.SQRT2)) / (0.4 * Math.sqrt(area[cell])), 6)
    }
  })
})
