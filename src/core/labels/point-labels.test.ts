import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fontBookOf } from '@/render/font-files'
import { measureLine, verticalMetrics, type TextFont } from '@/core/scene/text'
import { placePointLabels } from './point-labels'

const font: TextFont = { family: 'source-sans-3', weight: 400, italic: false }
const fonts = fontBookOf([font])
const style = { font, sizeMm: 2.5, letterSpacingMm: 0 }
const window = { x: 0, y: 0, width: 100, height: 80 }
const place = (points: { x: number; y: number; name: string | null }[]) => placePointLabels(points, { fonts, style, radiusMm: 0.4, window })

describe('names beside points', () => {
  it('stand to the right where there is room, elsewhere where there is not', () => {
    const [free] = place([{ x: 50, y: 40, name: 'Marby' }])
    expect(free.x).toBeGreaterThan(50.4)
    const [edge] = place([{ x: 97, y: 40, name: 'Marby' }])
    expect(edge.x + edge.widthMm).toBeLessThan(97)
  })

  it('never cover each other, a dot or the edge; the first points come first; the same points give the same names', () => {
    const { capHeightMm, descentMm } = verticalMetrics(fonts, style)
    fc.assert(
      fc.property(fc.array(fc.record({ x: fc.double({ min: 1, max: 99, noNaN: true }), y: fc.double({ min: 1, max: 79, noNaN: true }), name: fc.constantFrom('Marby', 'Harrowmouth', 'Oss', null) }), { minLength: 1, maxLength: 40 }), (points) => {
        const labels = place(points)
        const boxes = labels.map((l) => [l.x, l.y - capHeightMm, l.x + l.widthMm, l.y + descentMm * 0.5])
        boxes.forEach(([x0, y0, x1, y1], i) => {
          expect(x0 > 0 && y0 > 0 && x1 < 100 && y1 < 80).toBe(true)
          for (const [a0, b0, a1, b1] of boxes.slice(i + 1)) expect(x0 < a1 && a0 < x1 && y0 < b1 && b0 < y1).toBe(false)
          for (const { x, y } of points) expect(x + 0.4 > x0 && x - 0.4 < x1 && y + 0.4 > y0 && y - 0.4 < y1).toBe(false)
        })
        expect(labels.length).toBeLessThanOrEqual(points.filter((p) => p.name).length)
        expect(place(points).map((l) => [l.text, l.x, l.y])).toEqual(labels.map((l) => [l.text, l.x, l.y]))
      }),
      { numRuns: 60 },
    )
  })

  it('are as wide as their text is measured', () => {
    expect(place([{ x: 50, y: 40, name: 'Thranecombe' }])[0].widthMm).toBe(measureLine(fonts, 'Thranecombe', style).widthMm)
    expect(place([{ x: 5, y: 5, name: null }])).toEqual([])
  })
})
