import { describe, expect, it } from 'vitest'
import { outlineBox } from '@/core/scene/outline'
import { readPicture } from '@/formats/svg-picture/read'
import { pushApart } from './displace'
import { normalised, pathData, pictureIds, unitOutline } from './pictures'
import { symbolOutline, symbolReach } from './shapes'

describe('pictures', () => {
  it('that ship are one unit high around their middle, and as large as it is told of them', () => {
    for (const id of pictureIds) {
      const picture = { from: 'set' as const, id }
      const box = outlineBox(symbolOutline('picture', 10, { y: 20, sizeMm: 8, barWidthMm: 1, picture }))
      const reach = symbolReach('picture', 8, 1, picture)
      expect(box?.height, id).toBeCloseTo(8, 0)
      expect((box?.x ?? 0) + (box?.width ?? 0) / 2, id).toBeCloseTo(10, 0)
      expect(reach.left + reach.right, id).toBeCloseTo(8 * unitOutline(picture).width, 9)
    }
  })

  it('are read from path data with curves of every sort, and written again the same', () => {
    const outline = normalised('m10 10h20v10q5 5 0 10t-10 0a5 5 0 0 1-10 0s-5-5 0-10z', false)
    const again = normalised(pathData(outline), false)
    expect(again.verbs).toEqual(outline.verbs)
    outline.coords.forEach((value, i) => expect(again.coords[i]).toBeCloseTo(value, 3))
    expect(outline.verbs[0]).toBe('M')
    expect(() => normalised('M0 0L0 0', false)).toThrow('no extent')
  })

  it('of the cartographer’s own come from SVG files: every filled shape, moved and turned as it says', () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 40"><g transform="translate(10 0) scale(2)"><rect x="0" y="0" width="4" height="10"/></g><circle cx="30" cy="10" r="5" style="fill: none"/><g fill="none"><path d="M0 0L99 99" stroke="red"/></g><polygon points="18,0 22,0 22,20"/><defs><rect width="500" height="500"/></defs></svg>'
    const picture = readPicture(svg, 'posts.svg')
    expect(picture).toMatchObject({ from: 'own', name: 'posts' })
    // The rectangle is 8 wide and 20 high from 10 on; the triangle ends at 22.
    expect(unitOutline(picture).width).toBeCloseTo(12 / 20, 3)
    expect(unitOutline(picture).verbs.filter((verb) => verb === 'M')).toHaveLength(2)
  })

  it('that cannot be used are refused with the reason', () => {
    expect(() => readPicture('no picture', 'x.svg')).toThrow('is no SVG picture')
    expect(() =>
      readPicture('<svg xmlns="http://www.w3.org/2000/svg"><path fill="none" d="M0 0L9 9"/></svg>', 'x.svg'),
    ).toThrow('no filled shapes')
    expect(() =>
      readPicture('<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0L9 oops"/></svg>', 'x.svg'),
    ).toThrow('cannot be used as a symbol')
  })
})

describe('symbols pushed apart', () => {
  const crowd = Array.from({ length: 60 }, (_, i) => ({
    x: (i % 8) * 2.1,
    y: Math.floor(i / 8) * 2.1,
    r: 0.6 + (i % 5) * 0.3,
  }))
  it('no longer touch, and stay near their places', () => {
    const apart = pushApart(crowd, 0.1)
    for (let i = 0; i < crowd.length; i++)
      for (let j = i + 1; j < crowd.length; j++)
        expect(Math.hypot(apart[i].x - apart[j].x, apart[i].y - apart[j].y)).toBeGreaterThan(
          crowd[i].r + crowd[j].r - 0.05,
        )
    const mean =
      apart.reduce((sum, { x, y }, i) => sum + Math.hypot(x - crowd[i].x, y - crowd[i].y), 0) / crowd.length
    expect(mean).toBeLessThan(4)
  })
  it('stand still where they do not touch, and go apart from one place', () => {
    const apart = pushApart(
      [
        { x: 0, y: 0, r: 1 },
        { x: 10, y: 0, r: 1 },
      ],
      0.2,
    )
    expect(apart[1].x).toBeCloseTo(10, 3)
    const same = pushApart(
      [
        { x: 5, y: 5, r: 1 },
        { x: 5, y: 5, r: 2 },
      ],
      0,
    )
    expect(Math.hypot(same[0].x - same[1].x, same[0].y - same[1].y)).toBeGreaterThan(2.95)
    // The smaller one goes farther.
    expect(Math.hypot(same[0].x - 5, same[0].y - 5)).toBeGreaterThan(Math.hypot(same[1].x - 5, same[1].y - 5))
    expect(pushApart([], 1)).toEqual([])
  })
  it('go to the same places every time', () => {
    expect(pushApart(crowd, 0.1)).toEqual(pushApart(crowd, 0.1))
  })
})
