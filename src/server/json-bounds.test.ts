import { describe, expect, it } from 'vitest'
import { textExcess } from './json-bounds'

const said = (text: string) => textExcess(new TextEncoder().encode(text))

describe('a JSON text', () => {
  it('is within bounds where it is flat, whatever stands in its texts', () => {
    expect(said('{"a":[1,2,{"b":"[[[[{{{{\\"[["}]}')).toBeNull()
    expect(said('['.repeat(64) + ']'.repeat(64))).toBeNull()
    expect(said(`["${'['.repeat(1000)}"]`)).toBeNull()
    expect(said(`[${'[],'.repeat(500_000)}[]]`)).toBeNull()
  })

  it('is too deep, or holds too many things, which is known before it is read', () => {
    expect(said('['.repeat(65))).toBe('it is nested more than 64 levels deep')
    expect(said('{"a":'.repeat(100))).toBe('it is nested more than 64 levels deep')
    const began = performance.now()
    expect(said(`[${'{},'.repeat(7_000_000)}{}]`)).toBe('there are more than 1,000,000 things in it')
    expect(performance.now() - began).toBeLessThan(2000)
  })
})
