import { lab } from 'd3-color'
import { describe, expect, it } from 'vitest'
import { coloursFor, safetyOf, shadeOf } from './colouring'
import { colourDifference } from './difference'
import { fromCmyk, fromOklch, toCmyk, toOklch } from './oklch'
import { rampAt, type OwnRamp } from './ramp'

const ramp = (colours: string[], mixedIn: OwnRamp['mixedIn'] = 'oklch'): OwnRamp => ({
  id: 'r',
  name: 'Own',
  colours,
  mixedIn,
})
const plain = { scheme: 'reed' as const, ramp: null, reversed: false, trim: [0, 1] as [number, number] }

describe('OKLCH', () => {
  it('has the published values of white and the three lights', () => {
    // From the worked values in the specification of CSS Color 4.
    const known = {
      '#ffffff': [1, 0, null],
      '#ff0000': [0.62796, 0.25768, 29.234],
      '#00ff00': [0.86644, 0.29483, 142.495],
      '#0000ff': [0.45201, 0.31321, 264.052],
    } as const
    for (const [hex, [l, c, h]] of Object.entries(known)) {
      const colour = toOklch(hex)
      expect(colour.l).toBeCloseTo(l, 4)
      expect(colour.c).toBeCloseTo(c, 4)
      if (h !== null) expect(colour.h).toBeCloseTo(h, 1)
    }
  })

  it('comes back as the same colour', () => {
    for (let n = 0; n < 0xffffff; n += 52_361) {
      const hex = `#${n.toString(16).padStart(6, '0')}`
      expect(fromOklch(toOklch(hex))).toBe(hex)
      expect(fromCmyk(toCmyk(hex))).toBe(hex)
    }
  })

  it('keeps lightness and hue where a screen cannot show the chroma', () => {
    const colour = toOklch(fromOklch({ l: 0.7, c: 0.4, h: 150 }))
    expect(colour.l).toBeCloseTo(0.7, 2)
    expect(colour.h).toBeCloseTo(150, 0)
    expect(colour.c).toBeLessThan(0.3)
  })
})

describe('ramps of chosen colours', () => {
  const steps = (own: OwnRamp, count: number) => {
    const colours = Array.from({ length: count }, (_, i) => rampAt(own, i / (count - 1)))
    return colours.slice(1).map((colour, i) => colourDifference(colours[i], colour))
  }

  it('differ equally to the eye from class to class', () => {
    for (const mixedIn of ['oklch', 'cielab'] as const)
      for (const own of [
        ramp(['#1f6f6b'], mixedIn),
        ramp(['#f4f1e6', '#7a1f3d'], mixedIn),
        ramp(['#ffffcc', '#0b2a6f'], mixedIn),
      ]) {
        const differences = steps(own, 9)
        const mean = differences.reduce((a, b) => a + b, 0) / differences.length
        // A class on either side of the bend at a single colour is nearer than the way between them is long.
        for (const step of differences)
          expect(Math.abs(step / mean - 1), own.colours.join()).toBeLessThan(
            own.colours.length === 1 ? 0.25 : 0.12,
          )
      }
  })

  it('begin and end with the colours they were made of, and have the middle one in the middle', () => {
    expect(rampAt(ramp(['#7a4a12', '#f4f2ec', '#0f5f58']), 0)).toBe('#7a4a12')
    expect(rampAt(ramp(['#7a4a12', '#f4f2ec', '#0f5f58']), 0.5)).toBe('#f4f2ec')
    expect(rampAt(ramp(['#7a4a12', '#f4f2ec', '#0f5f58']), 1)).toBe('#0f5f58')
    expect(rampAt(ramp(['#f4f1e6', '#7a1f3d'], 'cielab'), 0)).toBe('#f4f1e6')
  })

  it('of one colour run from a pale tint to a dark shade', () => {
    for (const colour of ['#1f6f6b', '#c2a83e', '#8b1e3f', '#777777']) {
      const lightness = Array.from({ length: 7 }, (_, i) => lab(rampAt(ramp([colour]), i / 6)).l)
      lightness.slice(1).forEach((l, i) => expect(l).toBeLessThan(lightness[i]))
      expect(lightness[0]).toBeGreaterThan(90)
    }
  })
})

describe('a colouring', () => {
  it('leaves out what is trimmed, and turns around what is left', () => {
    const whole = coloursFor(plain, 5)
    const dark = coloursFor({ ...plain, trim: [0.3, 1] }, 5)
    expect(lab(dark[0]).l).toBeLessThan(lab(whole[0]).l - 5)
    expect(coloursFor({ ...plain, trim: [0.3, 1], reversed: true }, 5)).toEqual([...dark].reverse())
    expect(shadeOf({ ...plain, trim: [0.3, 1] }, 0)).toBe(dark[0])
  })

  it('knows who can tell its classes apart', () => {
    expect(safetyOf(coloursFor({ ...plain, scheme: 'slate' }, 5))).toEqual({ colourBlind: true, grey: true })
    expect(safetyOf(['#d7191c', '#1a9641'])).toMatchObject({ grey: true })
    // The two ends of a scheme in two directions look the same in grey, though they are no neighbours.
    expect(safetyOf(coloursFor({ ...plain, scheme: 'ember and slate' }, 5))).toEqual({
      colourBlind: true,
      grey: false,
    })
    expect(safetyOf(['#8c510a', '#f5f5f5', '#01665e']).grey).toBe(false)
  })
})
