import { Op, type Transaction } from 'sequelize'
import type { Database } from './database'

const hourMs = 3_600_000
const dayMs = 24 * hourMs

/** Every version of the last day is kept, then one an hour for a week, then one a day. */
const allForMs = dayMs
const hourlyForMs = 7 * dayMs

/** A thousand saves of one day are more than anybody goes back through. */
const mostOfDay = 1000

/**
 * The saved versions that may go: those for which a later one of the same hour, or day, stands in. The newest
 * always stays. `versions` may come in any order.
 */
export function versionsToThin<V extends { id: number; savedAt: Date }>(versions: V[], now: Date): V[] {
  const newestFirst = [...versions].sort((a, b) => b.savedAt.getTime() - a.savedAt.getTime() || b.id - a.id)
  const taken = new Set<string>()
  let ofDay = 0
  return newestFirst.filter(({ savedAt }) => {
    const age = now.getTime() - savedAt.getTime()
    if (age < allForMs) return ++ofDay > mostOfDay
    const span = age < hourlyForMs ? hourMs : dayMs
    const slot = `${span} ${Math.floor(savedAt.getTime() / span)}`
    if (taken.has(slot)) return true
    taken.add(slot)
    return false
  })
}

/** Thins the saved versions of a folio. */
export async function thinRevisions(
  db: Database,
  folioId: string,
  { now, transaction }: { now: Date; transaction: Transaction },
): Promise<void> {
  const versions = await db.revisions.findAll({
    where: { folioId, kind: 'saved' },
    attributes: ['id', 'savedAt'],
    transaction,
  })
  const gone = versionsToThin(versions, now).map(({ id }) => id)
  if (gone.length) await db.revisions.destroy({ where: { id: { [Op.in]: gone } }, transaction })
}

/** What came too late is kept, the newest of it: more than these is a program that tries again and again. */
export const mostRefused = 100

/** Lets go of the oldest versions that came too late. */
export async function thinRefused(db: Database, folioId: string): Promise<void> {
  const refused = await db.revisions.findAll({
    where: { folioId, kind: 'refused' },
    order: [['id', 'DESC']],
    attributes: ['id'],
    offset: mostRefused,
    limit: 1000,
  })
  if (refused.length) await db.revisions.destroy({ where: { id: { [Op.in]: refused.map(({ id }) => id) } } })
}
