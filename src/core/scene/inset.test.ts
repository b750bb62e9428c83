import { describe, expect, it } from 'vitest'
import { insetOutline, withinBox } from './inset'
import { circle, outlineBox, polygon, rectangle, type Outline } from './outline'

/** The area of what an outline fills, holes taken off, mm². */
function areaOf(outline: Outline): number {
  if (outline.kind !== 'rings') throw new TypeError('Only straight outlines have corners.')
  const { coords, starts, ends } = outline
  let twice = 0
  starts.forEach((start, r) => {
    for (let v = start; v < ends[r]; v++) {
      const w = v + 1 < ends[r] ? v + 1 : start
      twice += coords[2 * v] * coords[2 * w + 1] - coords[2 * w] * coords[2 * v + 1]
    }
  })
  return Math.abs(twice / 2)
}

describe('outlines moved inwards', () => {
  it('keeps the sharp corners of a box', () => {
    expect(outlineBox(insetOutline(rectangle({ x: 10, y: 20, width: 30, height: 40 }), 2.5))).toEqual({
      x: 12.5,
      y: 22.5,
      width: 25,
      height: 35,
    })
  })

  it('makes a circle one that is smaller, and follows it to a hundredth of a millimetre', () => {
    const inner = insetOutline(circle(50, 50, 20), 5)
    expect(areaOf(inner)).toBeCloseTo(Math.PI * 15 ** 2, -1)
    if (inner.kind !== 'rings') throw new TypeError('A polygon is expected.')
    for (let i = 0; i < inner.coords.length; i += 2)
      expect(Math.abs(Math.hypot(inner.coords[i] - 50, inner.coords[i + 1] - 50) - 15)).toBeLessThan(0.04)
  })

  it('widens holes, whichever way their rings run', () => {
    const outer = [0, 0, 20, 0, 20, 20, 0, 20]
    for (const hole of [
      [5, 5, 15, 5, 15, 15, 5, 15],
      [5, 5, 5, 15, 15, 15, 15, 5],
    ])
      expect(areaOf(insetOutline(polygon(outer, hole), 1))).toBeCloseTo(18 * 18 - 12 * 12, 3)
  })

  it('parts at a narrow place, and is gone where nothing is left', () => {
    const waisted = polygon([
      0, 0, 10, 0, 10, 4.5, 20, 4.5, 20, 0, 30, 0, 30, 10, 20, 10, 20, 5.5, 10, 5.5, 10, 10, 0, 10,
    ])
    const inner = insetOutline(waisted, 1)
    expect(inner.kind === 'rings' && inner.starts.length).toBe(2)
    expect(outlineBox(insetOutline(waisted, 5.1))).toBeNull()
  })

  it('keeps of an outline what lies in a box', () => {
    const cut = withinBox(polygon([0, 0, 40, 0, 0, 40]), { x: 0, y: 0, width: 10, height: 10 })
    expect(areaOf(cut)).toBeCloseTo(100, 6)
    expect(outlineBox(withinBox(circle(0, 0, 5), { x: 20, y: 20, width: 1, height: 1 }))).toBeNull()
  })
})
