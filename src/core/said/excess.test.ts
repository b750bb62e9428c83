import { describe, expect, it } from 'vitest'
import { excessOf } from './excess'

const nested = (levels: number): unknown => JSON.parse('['.repeat(levels) + ']'.repeat(levels)) as unknown

describe('what is more than a file of ours holds', () => {
  it('is nothing in ordinary values', () => {
    for (const value of [null, 5, 'text', {}, [], { a: [{ b: null }, 1] }, nested(60)])
      expect(excessOf(value)).toBeNull()
    expect(excessOf({ values: Array.from({ length: 200_000 }, (_, i) => i) })).toBeNull()
  })

  it('is depth, whatever it is made of', () => {
    expect(excessOf(nested(70))).toBe('it is nested more than 64 levels deep')
    expect(excessOf(nested(100_000))).toBe('it is nested more than 64 levels deep')
    let deep: unknown = null
    for (let i = 0; i < 70; i++) deep = { in: deep }
    expect(excessOf({ sheets: [deep] })).toContain('64 levels')
  })

  it('is a list or a record that is too long, saying where', () => {
    const long = Array.from({ length: 200_001 }, () => 0)
    expect(excessOf({ sheets: [{ parts: long }] })).toBe('at sheets › 0 › parts, there are more than 200,000')
    expect(excessOf(long)).toBe('at the top, there are more than 200,000')
    expect(excessOf({ moved: Object.fromEntries(long.map((_, i) => [i, 1])) })).toContain('at moved')
  })

  it('is many things in lists that are none too long each', () => {
    const lists = Array.from({ length: 6 }, () => Array.from({ length: 100_000 }, () => ({})))
    expect(excessOf({ lists })).toBe('there are more than 500,000 things in it')
  })
})
