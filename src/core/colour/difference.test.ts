import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { colourDifference, confusions, labDifference, seenAs, visionIds } from './difference'
import { schemeColours } from './schemes'

describe('CIEDE2000', () => {
  it('gives the published differences of Sharma, Wu and Dalal (2005)', () => {
    const pairs: [[number, number, number], [number, number, number], number][] = [
      [[50, 2.6772, -79.7751], [50, 0, -82.7485], 2.0425],
      [[50, 3.1571, -77.2803], [50, 0, -82.7485], 2.8615],
      [[50, 2.8361, -74.02], [50, 0, -82.7485], 3.4412],
      [[50, -1.3802, -84.2814], [50, 0, -82.7485], 1],
      [[50, 0, 0], [50, -1, 2], 2.3669],
      [[50, 2.49, -0.001], [50, -2.49, 0.0009], 7.1792],
      [[50, 2.49, -0.001], [50, -2.49, 0.0011], 7.2195],
      [[50, 2.5, 0], [73, 25, -18], 27.1492],
      [[50, 2.5, 0], [61, -5, 29], 22.8977],
      [[50, 2.5, 0], [56, -27, -3], 31.903],
      [[60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644],
      [[22.7233, 20.0904, -46.694], [23.0331, 14.973, -42.5619], 2.0373],
      [[2.0776, 0.0795, -1.135], [0.9033, -0.0636, -0.5514], 0.9082],
    ]
    for (const [one, other, difference] of pairs) expect(labDifference(one, other)).toBeCloseTo(difference, 4)
  })

  it('is nothing for the same colour and the same both ways', () => {
    const hex = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}`)
    fc.assert(
      fc.property(hex, hex, (one, other) => {
        expect(colourDifference(one, one)).toBe(0)
        expect(colourDifference(one, other)).toBeCloseTo(colourDifference(other, one), 9)
      }),
    )
  })
})

describe('seeing', () => {
  it('leaves greys as they are, and takes red and green for nearly the same without green cones', () => {
    for (const vision of visionIds)
      expect(colourDifference(seenAs('#808080', vision), '#808080')).toBeLessThan(1)
    const [red, green] = ['#b4543c', '#6f8f3c']
    expect(colourDifference(red, green)).toBeGreaterThan(40)
    expect(colourDifference(seenAs(red, 'deuteranopia'), seenAs(green, 'deuteranopia'))).toBeLessThan(15)
    expect(seenAs('#ff0000', 'grey')).toBe('#7f7f7f')
  })

  it('finds the classes that will be taken for each other, and none in five classes of a published scheme', () => {
    expect(confusions(schemeColours('reed', 5))).toEqual([])
    expect(confusions(['#b4543c', '#6f8f3c', '#101010']).map(({ index }) => index)).toEqual([0])
    expect(confusions(['#eeeeee', '#ededed'], ['normal'])).toMatchObject([{ index: 0, vision: 'normal' }])
  })
})
