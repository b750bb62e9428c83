import { lab } from 'd3-color'
import { describe, expect, it } from 'vitest'
import { schemeColours, schemeIds, schemes } from './schemes'

describe('colour schemes', () => {
  it('give as many different colours as there are classes, from 2 to 12', () => {
    for (const id of schemeIds)
      for (let count = 2; count <= 12; count++) {
        const colours = schemeColours(id, count)
        expect(new Set(colours).size, `${id} ${count}`).toBe(count)
        expect(colours.every((colour) => /^#[0-9a-f]{6}$/.test(colour))).toBe(true)
      }
  })

  it('in one direction darken with every class', () => {
    for (const id of schemeIds.filter((id) => schemes[id].kind === 'sequential'))
      for (const count of [3, 5, 9, 12]) {
        const lightness = schemeColours(id, count).map((colour) => lab(colour).l)
        lightness.slice(1).forEach((l, i) => expect(l, `${id} ${count}`).toBeLessThan(lightness[i]))
      }
  })

  it('in two directions are palest in the middle', () => {
    for (const id of schemeIds.filter((id) => schemes[id].kind === 'diverging')) {
      const lightness = schemeColours(id, 9).map((colour) => lab(colour).l)
      expect(Math.max(...lightness), id).toBe(lightness[4])
    }
  })

  it('are reversed whole', () => {
    expect(schemeColours('inlet', 5, true)).toEqual([...schemeColours('inlet', 5)].reverse())
  })
})
