import { describe, expect, it } from 'vitest'
import { mix } from '@/core/colour/mix'
import { rectangle } from '@/core/scene/outline'
import { walk } from '@/core/scene/scene'
import { insetBox } from '@/core/scene/shapes'
import { colourAt, fading, Fill, filled, paintOf } from './fill'

const box = { x: 10, y: 20, width: 100, height: 50 }
const stops = [
  { at: 0.25, colour: '#000000', opacity: 1 },
  { at: 0.75, colour: '#ffffff', opacity: 0 },
]

describe('gradients', () => {
  it('have the colour and opacity between their stops, and those of the ends beyond', () => {
    expect(colourAt(stops, 0)).toMatchObject({ colour: '#000000', opacity: 1 })
    expect(colourAt(stops, 0.5)).toEqual({ colour: '#808080', opacity: 0.5 })
    expect(colourAt(stops, 1)).toMatchObject({ colour: '#ffffff', opacity: 0 })
    expect(colourAt([...stops].reverse(), 0.5)).toEqual({ colour: '#808080', opacity: 0.5 })
    expect(mix('#102030', '#102030', 0.3)).toBe('#102030')
  })

  it('from side to side reach from corner to corner in their direction', () => {
    const paint = paintOf({ by: 'linear', angleDeg: 0, stops, bands: 0 }, box)
    expect(paint).toMatchObject({ type: 'linear', from: [10, 45], to: [110, 45] })
    const upright = paintOf({ by: 'linear', angleDeg: 90, stops, bands: 0 }, box)
    expect(upright?.type === 'linear' && upright.to[1]).toBeCloseTo(70, 9)
  })

  it('in bands change at once', () => {
    const paint = paintOf({ by: 'linear', angleDeg: 0, stops, bands: 4 }, box)
    const offsets = paint?.type === 'linear' ? paint.stops.map(({ offset }) => offset) : []
    expect(offsets).toEqual([0, 0.25, 0.25, 0.5, 0.5, 0.75, 0.75, 1])
  })

  it('inward are outlines in each other, masked where they are not opaque', () => {
    const inset = (by: number) => rectangle(insetBox(box, by))
    const [faded] = filled('f', { by: 'inward', widthMm: 10, stops: fading('#9c1f5e'), bands: 0 }, box, inset)
    if (faded.type !== 'group') throw new Error('A group was expected.')
    // One colour is one outline; the mask does the rest, from white at the edge to black inside.
    expect(faded.children).toHaveLength(1)
    const lights = [...walk(faded.mask ?? [])].map((node) =>
      node.type === 'path' && node.fill?.type === 'solid' ? node.fill.colour : '',
    )
    expect(lights[0]).toBe('#ffffff')
    expect(lights[lights.length - 1]).toBe('#000000')
    expect(lights.length).toBeGreaterThan(30)
    const opaque = stops.map((stop) => ({ ...stop, opacity: 1 }))
    const [solid] = filled('f', { by: 'inward', widthMm: 10, stops: opaque, bands: 5 }, box, inset)
    expect(solid.type === 'group' && solid.mask).toBe(null)
    // Of five bands the second and the fourth differ from their neighbours, the ends do not.
    expect(solid.type === 'group' && solid.children.length).toBe(3)
  })

  it('have at least two stops within their bounds', () => {
    expect(Fill.safeParse({ by: 'linear', angleDeg: 0, stops: stops.slice(1) }).success).toBe(false)
    expect(
      Fill.safeParse({ by: 'linear', angleDeg: 0, stops: [{ ...stops[0], at: 2 }, stops[1]] }).success,
    ).toBe(false)
    expect(filled('f', { by: 'none' }, box, () => rectangle(box))).toEqual([])
  })
})
