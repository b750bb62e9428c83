import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { windowBounds } from '@/core/geo/paper'
import { overlaps } from '@/core/scene/bounds'
import { freePlace } from './free-place'
import type { Part, Sheet } from './spec'

const [demo] = openDemo().folio.sheets
const text = demo.parts.find(({ type }) => type === 'text') as Part
const panel = demo.parts.find(({ type }) => type === 'panel') as Part
const sheetOf = (parts: Part[]): Sheet => ({ ...demo, parts })
const at = (part: Part, x: number, y: number, size = { width: 40, height: 10 }): Part => ({
  ...part,
  id: `${x} ${y}`,
  box: { x, y, ...size },
})
const page = { width: 297, height: 210 }
const wished = { x: 12, y: 12, width: 40, height: 10 }
const covers = (box: Part['box'], parts: Part[]) =>
  parts.some((part) => overlaps(windowBounds(part.box), windowBounds(box)))

describe('the place of a new part', () => {
  it('is the one wished for where that is free', () => {
    expect(freePlace(sheetOf([]), wished)).toEqual(wished)
    expect(freePlace(sheetOf([{ ...at(text, 12, 12), hidden: true }]), wished)).toEqual(wished)
  })

  it('covers nothing while there is room, and stays within the margins', () => {
    const somewhere = fc.tuple(fc.integer({ min: 12, max: 240 }), fc.integer({ min: 12, max: 190 }))
    fc.assert(
      fc.property(fc.array(somewhere, { maxLength: 14 }), (places) => {
        const parts = places.map(([x, y]) => at(text, x, y))
        const box = freePlace(sheetOf(parts), wished)
        expect(covers(box, parts)).toBe(false)
        expect(box.x).toBeGreaterThanOrEqual(12)
        expect(box.x + box.width).toBeLessThanOrEqual(285 + 1e-6)
        expect(box.y + box.height).toBeLessThanOrEqual(200 + 1e-6)
      }),
    )
  })

  it('lies over a panel that fills the page, but not over what lies there already', () => {
    const full = at(panel, 0, 0, page)
    const legend = at(text, 12, 12)
    const box = freePlace(sheetOf([full, legend]), wished)
    expect(covers(box, [legend])).toBe(false)
  })

  it('on a full page is moved aside, so that it can be seen and taken hold of', () => {
    const full = at(text, 0, 0, page)
    const first = freePlace(sheetOf([full]), { x: 0, y: 0, width: 297, height: 210 })
    expect([first.x, first.y]).toEqual([4, 4])
  })
})
