import { describe, expect, it } from 'vitest'
import { bytesOf } from './bytes'
import { createMemory, memoryInUse } from './memory'

const kilobytes = (n: number) => new Float64Array(128 * n)

describe('a bounded memory', () => {
  it('makes a thing once for each owner and key', () => {
    const remember = createMemory<object, number>('once', { maxBytes: 10_000 })
    const [a, b] = [{}, {}]
    let made = 0
    const make = () => ++made
    expect([
      remember(a, 'x', make),
      remember(a, 'x', make),
      remember(a, 'y', make),
      remember(b, 'x', make),
    ]).toEqual([1, 1, 2, 3])
  })

  it('lets the least recently used go when it is full, and holds no more than its bytes', () => {
    const remember = createMemory<object, Float64Array>('full', { maxBytes: 10_500 })
    const owner = {}
    const make = (key: string) => remember(owner, key, () => kilobytes(3))
    const first = make('first')
    const second = make('second')
    make('third')
    expect(make('first')).toBe(first)
    make('fourth')
    expect(make('first')).toBe(first)
    expect(make('second')).not.toBe(second)
    const { bytes, entries } = memoryInUse().find(({ name }) => name === 'full') ?? { bytes: NaN, entries: 0 }
    expect(entries).toBe(3)
    expect(bytes).toBeLessThanOrEqual(10_500)
  })

  it('keeps what is larger than its bound alone, and what was made of nothing', () => {
    const remember = createMemory<object, Float64Array | null>('large', { maxBytes: 10_000 })
    const owner = {}
    const large = remember(owner, 'large', () => kilobytes(40))
    expect(remember(owner, 'large', () => kilobytes(1))).toBe(large)
    expect(remember(owner, 'none', () => null)).toBe(null)
    expect(remember(owner, 'none', () => kilobytes(1))).toBe(null)
  })
})

it('keeps long lists too, whose size is that of a sample', () => {
  const remember = createMemory<object, object[]>('lists', { maxBytes: 2 ** 24 })
  const owner = {}
  const list = remember(owner, 'list', () =>
    Array.from({ length: 20_003 }, (_, i) => ({ i, words: `n${i}` })),
  )
  expect(remember(owner, 'list', () => [])).toBe(list)
})

describe('bytes', () => {
  it('are exact for arrays of numbers, which count once however often they stand there', () => {
    const coords = kilobytes(1)
    expect(bytesOf(coords)).toBe(1024)
    expect(bytesOf([coords, coords.subarray(5), { coords }])).toBeLessThan(1200)
  })

  it('of long lists are those of a sample', () => {
    const list = Array.from({ length: 50_000 }, (_, i) => ({ words: 'ten letter', i }))
    expect(bytesOf(list) / 50_000).toBeCloseTo(8 + 16 + 16 + 20 + 8, 0)
  })
})
