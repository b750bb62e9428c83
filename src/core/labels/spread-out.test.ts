import { expect, it } from 'vitest'
import { spreadOut } from './spread-out'

it('leaves boxes where they should stand while there is room', () => {
  expect(spreadOut([10, 60, 130], [30, 30, 30], 2)).toEqual([10, 60, 130])
})

it('pushes boxes apart as little as is needed, to both sides alike', () => {
  expect(spreadOut([50, 50], [30, 30], 2)).toEqual([34, 66])
  expect(spreadOut([50, 52, 200], [30, 20, 30], 4)).toEqual([36.5, 65.5, 200])
})

it('keeps their order, and pools what runs into others once it is pushed', () => {
  const places = spreadOut([40, 44, 70, 75], [30, 30, 30, 30], 0)
  places.slice(1).forEach((at, i) => expect(at - places[i]).toBeGreaterThanOrEqual(30 - 1e-9))
  expect(places.reduce((a, b) => a + b, 0)).toBeCloseTo(40 + 44 + 70 + 75, 9)
})
