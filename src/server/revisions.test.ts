import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { versionsToThin } from './revisions'

const now = new Date('2031-05-04T12:00:00Z')
const hourMs = 3_600_000
const agoHours = fc.double({ min: 0, max: 24 * 90, noNaN: true })
const versions = fc
  .array(agoHours, { minLength: 1, maxLength: 80 })
  .map((hours) => hours.map((h, id) => ({ id, savedAt: new Date(now.getTime() - h * hourMs) })))
const age = ({ savedAt }: { savedAt: Date }) => (now.getTime() - savedAt.getTime()) / hourMs

describe('thinning versions', () => {
  it('keeps all of the last day, one of every hour for a week, and one of every day', () => {
    fc.assert(
      fc.property(versions, (all) => {
        const gone = new Set(versionsToThin(all, now))
        const kept = all.filter((version) => !gone.has(version))
        expect([...gone].every((version) => age(version) >= 24)).toBe(true)
        for (const version of gone) {
          const span = age(version) < 24 * 7 ? hourMs : 24 * hourMs
          const slot = Math.floor(version.savedAt.getTime() / span)
          // What stands in for it is as new or newer, and of the same hour or day.
          expect(
            kept.some(
              ({ savedAt }) =>
                Math.floor(savedAt.getTime() / span) === slot &&
                savedAt.getTime() >= version.savedAt.getTime(),
            ),
          ).toBe(true)
        }
        const hours = kept.filter((v) => age(v) >= 24 && age(v) < 24 * 7)
        const slots = hours.map(({ savedAt }) => Math.floor(savedAt.getTime() / hourMs))
        expect(new Set(slots).size).toBe(slots.length)
      }),
    )
  })

  it('always keeps the newest, however old it is', () => {
    fc.assert(
      fc.property(versions, (all) => {
        const newest = all.reduce((a, b) => (b.savedAt > a.savedAt ? b : a))
        expect(versionsToThin(all, now)).not.toContain(newest)
      }),
    )
  })

  it('done twice takes nothing more away', () => {
    fc.assert(
      fc.property(versions, (all) => {
        const gone = new Set(versionsToThin(all, now))
        expect(
          versionsToThin(
            all.filter((version) => !gone.has(version)),
            now,
          ),
        ).toEqual([])
      }),
    )
  })
})
