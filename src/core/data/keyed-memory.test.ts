import { expect, it } from 'vitest'
import { keyedMemory } from './keyed-memory'

it('makes a thing once for each object and key, and lets old ones go', () => {
  const remember = keyedMemory<object, string>(2)
  const [a, b] = [{}, {}]
  let made = 0
  const make = () => `made ${++made}`
  expect([
    remember(a, 'x', make),
    remember(a, 'x', make),
    remember(b, 'x', make),
    remember(a, 'y', make),
  ]).toEqual(['made 1', 'made 1', 'made 2', 'made 3'])
  remember(a, 'z', make)
  expect(remember(a, 'x', make)).toBe('made 5')
  expect(remember(b, 'x', make)).toBe('made 2')
})
