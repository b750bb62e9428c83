import { setTimeout as pause } from 'node:timers/promises'
import { backUpWhenDue } from './backups/backups'
import { keepFailure } from './backups/last-failure'
import { calmProblem } from './calm'
import { closeOwn, database, type Database } from './database'
import { lookAt } from './documents'

/** The first look is taken when whoever started the server has got their first pages. */
const firstAfterMs = 20_000
const everyMs = 5 * 60_000
/** Documents are looked through so slowly that nobody notices. */
const betweenDocumentsMs = 200

const shared = globalThis as typeof globalThis & { keenPlotWatch?: NodeJS.Timeout }

/**
 * Looks after the data from time to time: backups, and folios whose documents have not been looked at. When the process
 * is told to end, it ends well.
 */
export function startWatch(): void {
  if (shared.keenPlotWatch) return
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => void endWell(signal))
  shared.keenPlotWatch = setTimeout(function look() {
    void lookAround().finally(() => {
      shared.keenPlotWatch = setTimeout(look, everyMs).unref()
    })
  }, firstAfterMs).unref()
}

async function lookAround(): Promise<void> {
  try {
    const db = await database()
    try {
      await backUpWhenDue(db)
      keepFailure(null)
    } catch (error) {
      // What is wrong is said on the shelf, beside when the last one was made.
      console.error(error)
      keepFailure(calmProblem(error).title)
    }
    await lookThroughDocuments(db)
  } catch (error) {
    console.error(error)
  }
}

/** Each document once while this server runs, those that have not been looked at first. */
const looked = new Set<string>()

export async function lookThroughDocuments(db: Database, pauseMs = betweenDocumentsMs): Promise<void> {
  const rows = await db.folios.findAll({
    where: { deletedAt: null },
    attributes: ['id', 'condition'],
    order: [['changedAt', 'DESC']],
  })
  const unknown = rows.filter(({ condition }) => condition === null)
  const others = rows.filter(({ id, condition }) => condition !== null && !looked.has(id))
  for (const { id } of [...unknown, ...others]) {
    looked.add(id)
    await lookAt(db, id).catch((error: unknown) => console.error(error))
    await pause(pauseMs)
  }
}

/** So long the end waits for what is being written. */
const endWithinMs = 10_000

/** Closes the database, folds its journal into it, and ends the process. */
export async function endWell(signal: 'SIGINT' | 'SIGTERM'): Promise<void> {
  await Promise.race([closeOwn(), pause(endWithinMs)]).catch((error: unknown) => console.error(error))
  process.exit(signal === 'SIGINT' ? 130 : 143)
}
