import { describe, expect, it } from 'vitest'
import { polygon, trace } from '@/core/scene/outline'
import type { Path } from '@/core/scene/scene'
import { pencilled, pencilSwatch, plainPencil, shareOfClass, spacingFor, type Pencil } from './pencil'

const square = polygon([0, 0, 40, 0, 40, 30, 0, 30], [10, 10, 10, 20, 20, 20, 20, 10])
const at = { origin: [0, 0] as [number, number], spacingMm: 1 }
const strokesOf = (pencil: Pencil, where = at, outline = square): number[][] => {
  const strokes: number[][] = []
  for (const node of pencilled(outline, '#204060', pencil, where) as Path[])
    trace(node.outline, {
      moveTo: (x, y) => strokes.push([x, y]),
      lineTo: (x, y) => strokes.at(-1)?.push(x, y),
      bezierCurveTo: () => undefined,
      closePath: () => undefined,
    })
  return strokes
}
const ruled: Pencil = { ...plainPencil(), directionDeg: 0, roughness: 0, passes: 1 }
const lengthOf = (strokes: number[][]) =>
  strokes.reduce((sum, s) => {
    for (let i = 0; i + 3 < s.length; i += 2) sum += Math.hypot(s[i + 2] - s[i], s[i + 3] - s[i + 1])
    return sum
  }, 0)

describe('a pencilled area', () => {
  it('with a steady hand has ruled lines as far apart as asked for, and none over its hole', () => {
    const strokes = strokesOf(ruled)
    for (const [x0, y0, x1, y1] of strokes) {
      expect(y0).toBe(y1)
      expect(Number.isInteger(y0)).toBe(true)
      const middle = (x0 + x1) / 2
      expect(middle > 10 && middle < 20 && y0 > 10 && y0 < 20).toBe(false)
    }
    // 30 lines of 40 mm but for ten that miss 10 mm each.
    expect(lengthOf(strokes)).toBeCloseTo(30 * 40 - 10 * 10, 6)
  })

  it('with an unsteady one stays about within its border', () => {
    for (const stroke of strokesOf({ ...ruled, roughness: 1, passes: 3, directionDeg: 30 }))
      for (let i = 0; i < stroke.length; i += 2) {
        expect(stroke[i]).toBeGreaterThan(-1.5)
        expect(stroke[i]).toBeLessThan(41.5)
        expect(stroke[i + 1]).toBeGreaterThan(-1.5)
        expect(stroke[i + 1]).toBeLessThan(31.5)
      }
  })

  it('is the same each time, another one with another seed, and moves with the map', () => {
    const rough = { ...plainPencil(), roughness: 0.7 }
    expect(strokesOf(rough)).toEqual(strokesOf(rough))
    expect(strokesOf({ ...rough, seed: 2 })).not.toEqual(strokesOf(rough))
    const moved = polygon([7, 3, 47, 3, 47, 33, 7, 33], [17, 13, 17, 23, 27, 23, 27, 13])
    const there = strokesOf(rough, { origin: [7, 3], spacingMm: 1 }, moved)
    const here = strokesOf(rough)
    expect(there).toHaveLength(here.length)
    expect(lengthOf(there)).toBeCloseTo(lengthOf(here), 6)
  })

  it('is denser the higher its class, if so wished, and gone over as often as asked for', () => {
    const denser = { ...ruled, denser: true, spacingMm: 1 }
    expect([0, 0.5, 1].map((share) => spacingFor(denser, share))).toEqual([3, 2, 1])
    expect(spacingFor(ruled, 0)).toBe(ruled.spacingMm)
    expect([shareOfClass(0, 5), shareOfClass(4, 5), shareOfClass(0, 1)]).toEqual([0, 1, 1])
    const once = lengthOf(strokesOf(ruled))
    expect(lengthOf(strokesOf({ ...ruled, passes: 3 })) / once).toBeGreaterThan(2.7)
  })

  it('has a swatch drawn by the same hand', () => {
    const swatch = pencilSwatch('#204060', ruled, 1, null)
    expect(swatch.sample?.({ width: 8, height: 5 }).length).toBeGreaterThan(0)
  })
})
