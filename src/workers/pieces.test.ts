import { describe, expect, it } from 'vitest'
import type { Steps } from '@/core/grid/steps'
import { inPieces } from './pieces'

const idle = (ms: number) => {
  const until = performance.now() + ms
  while (performance.now() < until);
}
function* slow(pieces: number, log: string[], name: string): Steps<void> {
  for (let i = 0; i < pieces; i++) {
    idle(20)
    log.push(`${name}${i}`)
    yield (i + 1) / pieces
  }
}
const never = { isDropped: () => false }

describe('long work in pieces', () => {
  it('lets others be heard in between and tells how far it is', async () => {
    const log: string[] = []
    const told: number[] = []
    const timer = setTimeout(() => log.push('heard'), 1)
    const done = await inPieces(() => slow(8, log, 'a'), { ...never, tell: (share) => told.push(share) })
    clearTimeout(timer)
    expect(done).toBe(true)
    expect(log.indexOf('heard')).toBeGreaterThan(0)
    expect(log.indexOf('heard')).toBeLessThan(log.length - 1)
    expect(told.length).toBeGreaterThan(1)
    expect([...told].sort((a, b) => a - b)).toEqual(told)
  })

  it('follows one after the other, and asks only then what is left to do', async () => {
    const log: string[] = []
    let made = false
    const make = () => {
      if (made) return null
      return (function* (): Steps<void> {
        yield* slow(4, log, 'a')
        made = true
      })()
    }
    expect(await Promise.all([inPieces(make, never), inPieces(make, never)])).toEqual([true, true])
    expect(log).toEqual(['a0', 'a1', 'a2', 'a3'])
  })

  it('ends where it is dropped, before it begins or on its way, and so does nobody after it', async () => {
    const log: string[] = []
    let dropped = false
    const first = inPieces(() => slow(50, log, 'a'), { isDropped: () => dropped })
    setTimeout(() => (dropped = true), 60)
    expect(await first).toBe(false)
    expect(log.length).toBeLessThan(50)
    expect(await inPieces(() => slow(2, log, 'b'), { isDropped: () => true })).toBe(false)
    expect(await inPieces(() => slow(2, log, 'c'), never)).toBe(true)
    expect(log.filter((word) => !word.startsWith('a'))).toEqual(['c0', 'c1'])
  })

  it('that fails is told to whoever asked, and to nobody else', async () => {
    const failing = inPieces(() => {
      throw new Error('no grid')
    }, never)
    await expect(failing).rejects.toThrow('no grid')
    expect(await inPieces(() => null, never)).toBe(true)
  })
})
