import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { backupsToDrop, type Kept } from './keep'

const now = new Date('2031-05-04T12:00:00Z')
const hourMs = 3_600_000
const ages = fc.array(fc.double({ min: 0, max: 24 * 120, noNaN: true }), { minLength: 1, maxLength: 120 })
const made = (hours: number[], bytes = 1_000_000, reason: Kept['reason'] = 'schedule') =>
  hours.map((h, i) => ({ id: String(i), madeAt: new Date(now.getTime() - h * hourMs), reason, bytes }))
const keptOf = <B extends Kept>(all: B[]) => {
  const gone = new Set(backupsToDrop(all, now))
  return all.filter((one) => !gone.has(one))
}
const age = ({ madeAt }: Kept) => (now.getTime() - madeAt.getTime()) / hourMs

describe('backups', () => {
  it('are kept by age: few in all, the newest always, and one of every day of the last fortnight', () => {
    fc.assert(
      fc.property(ages, (hours) => {
        const all = made(hours)
        const kept = keptOf(all)
        expect(kept.length).toBeLessThanOrEqual(12 + 14 + 8 + 3)
        const newest = all.reduce((a, b) => (b.madeAt > a.madeAt ? b : a))
        expect(kept.map(({ madeAt }) => madeAt.getTime())).toContain(newest.madeAt.getTime())
        for (const one of all.filter((each) => age(each) < 24 * 14)) {
          const day = Math.floor(one.madeAt.getTime() / (24 * hourMs))
          expect(kept.some(({ madeAt }) => Math.floor(madeAt.getTime() / (24 * hourMs)) === day)).toBe(true)
        }
        expect(backupsToDrop(kept, now)).toEqual([])
      }),
    )
  })

  it('that were made before something was brought back stay for two weeks', () => {
    const all = [...made([1, 2, 3, 4, 5].map((h) => h / 100)), ...made([300, 300.2, 300.4], 1, 'restoring')]
    expect(keptOf(all).filter(({ reason }) => reason === 'restoring')).toHaveLength(3)
    const old = [
      ...made([1, 2, 3, 4, 5].map((h) => h / 100)),
      ...made([2000, 2000.1, 2000.2], 1, 'restoring'),
    ]
    expect(keptOf(old).filter(({ reason }) => reason === 'restoring')).toHaveLength(0)
  })

  it('take no more than their room, three of them in any case', () => {
    const all = made(
      Array.from({ length: 40 }, (_, i) => i),
      1_500_000_000,
    )
    expect(keptOf(all).map(({ id }) => id)).toEqual(['0', '1', '2'])
  })
})
