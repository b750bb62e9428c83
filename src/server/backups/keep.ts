const hourMs = 3_600_000
const dayMs = 24 * hourMs
const weekMs = 7 * dayMs

/** One an hour for so many hours, one a day for so many days, one a week for so many weeks. */
const spans = [
  { ms: hourMs, many: 12 },
  { ms: dayMs, many: 14 },
  { ms: weekMs, many: 8 },
]
/** Those made for a reason stay so long whatever else there is. */
const madeForReasonMs = 2 * weekMs
/** These stay in any case, whatever room they take. */
const leastKept = 3
/** All of them together, at most. */
const mostBytes = 4_000_000_000

export type Kept = { id: string; madeAt: Date; reason: 'schedule' | 'asked' | 'restoring'; bytes: number }

/** The backups that may go, by their age and by the room that all take. `all` may come in any order. */
export function backupsToDrop<B extends Kept>(all: readonly B[], now: Date): B[] {
  const newestFirst = [...all].sort((a, b) => b.madeAt.getTime() - a.madeAt.getTime())
  const taken = new Set<string>()
  let bytes = 0
  return newestFirst.filter(({ madeAt, reason, bytes: own }, i) => {
    const age = now.getTime() - madeAt.getTime()
    // The newest of an hour, a day, a week stands for it.
    const stands = spans.filter(({ ms, many }) => {
      const slot = `${ms} ${Math.floor(madeAt.getTime() / ms)}`
      if (age > ms * many || taken.has(slot)) return false
      taken.add(slot)
      return true
    })
    const isWanted = stands.length > 0 || (reason !== 'schedule' && age < madeForReasonMs)
    if (i >= leastKept && (!isWanted || bytes + own > mostBytes)) return true
    bytes += own
    return false
  })
}
