import { describe, expect, it } from 'vitest'
import { circle, outlineBox, polygon, polyline, rectangle, trace, type Outline } from './outline'
import { channels, withOpacity } from './paint'
import { group, needsCompositing, path, rotateAround } from './scene'

const drawn = (outline: Outline, from?: number, to?: number): string => {
  const out: string[] = []
  trace(
    outline,
    {
      moveTo: (x, y) => out.push(`M${x},${y}`),
      lineTo: (x, y) => out.push(`L${x},${y}`),
      bezierCurveTo: (...n) => out.push(`C${n.length}`),
      closePath: () => out.push('Z'),
    },
    from,
    to,
  )
  return out.join(' ')
}

describe('outlines', () => {
  it('of areas close, of lines stay open', () => {
    expect(drawn(rectangle({ x: 1, y: 2, width: 3, height: 4 }))).toBe('M1,2 L4,2 L4,6 L1,6 Z')
    expect(drawn(polyline([0, 0, 5, 5]))).toBe('M0,0 L5,5')
  })

  it('share coordinates: each takes its own subpaths and puts them in its own place', () => {
    const all = polygon([0, 0, 1, 0, 1, 1], [5, 5, 6, 5, 6, 6], [9, 9, 10, 9, 10, 10])
    if (all.kind !== 'rings') throw new Error('A polygon is made of rings.')
    const second: Outline = {
      ...all,
      starts: all.starts.slice(1, 2),
      ends: all.ends.slice(1, 2),
      place: { scale: 2, dx: 100, dy: -10 },
    }
    expect(drawn(second)).toBe('M110,0 L112,0 L112,2 Z')
    expect(outlineBox(second)).toEqual({ x: 110, y: 0, width: 2, height: 2 })
    expect(drawn(all, 1, 2)).toBe('M5,5 L6,5 L6,6 Z')
  })

  it('of nothing have no box', () => expect(outlineBox(polygon())).toBeNull())

  it('of circles stay within three parts in ten thousand of the radius', () => {
    const coords: number[] = []
    trace(circle(0, 0, 10), {
      moveTo: (...n) => void coords.push(...n),
      lineTo: () => undefined,
      bezierCurveTo: (...n) => void coords.push(...n),
      closePath: () => undefined,
    })
    expect(coords).toHaveLength(26)
    expect(outlineBox(circle(3, 4, 2))).toEqual({ x: 1, y: 2, width: 4, height: 4 })
    // A cubic at its middle: (a + 3b + 3c + d) / 8.
    for (let i = 0; i + 8 <= coords.length - 0; i += 6) {
      if (i + 7 >= coords.length) break
      const [x, y] = [0, 1].map(
        (k) => (coords[i + k] + 3 * coords[i + 2 + k] + 3 * coords[i + 4 + k] + coords[i + 6 + k]) / 8,
      )
      expect(Math.abs(Math.hypot(x, y) - 10)).toBeLessThan(0.003)
    }
  })
})

describe('colours', () => {
  it('are read with their alpha, and a bad one is named', () => {
    expect(channels('#9c1f5e80')).toEqual({ r: 156, g: 31, b: 94, a: 128 / 255 })
    expect(withOpacity('#ff0000', 0.5)).toBe('#ff000080')
    expect(withOpacity('#ff000080', 1)).toBe('#ff000080')
    expect(() => channels('plum')).toThrow('‘plum’ is not a colour')
  })
})

describe('groups', () => {
  const blended = group('a', [], { blend: 'multiply' })
  it('are composited apart for opacity, blending, or a clip around blending', () => {
    expect(needsCompositing(group('x', [path(circle(0, 0, 1))]))).toBe(false)
    expect(needsCompositing(group('x', [], { opacity: 0.9 }))).toBe(true)
    expect(needsCompositing(group('x', [], { clip: circle(0, 0, 1) }))).toBe(false)
    expect(needsCompositing(group('x', [group('y', [blended])], { clip: circle(0, 0, 1) }))).toBe(true)
  })

  it('turn around a point that stays', () => {
    const [a, b, c, d, e, f] = rotateAround(90, 10, 20)
    expect([a * 10 + c * 20 + e, b * 10 + d * 20 + f].map((n) => Math.round(n * 1e9) / 1e9)).toEqual([10, 20])
    expect([a * 11 + c * 20 + e, b * 11 + d * 20 + f].map((n) => Math.round(n * 1e9) / 1e9)).toEqual([10, 21])
  })
})
