import { existsSync } from 'node:fs'
import { readdir, readFile, rename, rm, stat, statfs } from 'node:fs/promises'
import path from 'node:path'
import { nanoid } from 'nanoid'
import { z } from 'zod'
import { dataFolder } from '../config'
import { isInPlace, rawConnection, type Database } from '../database'
import { notFound, Problem } from '../problem'
import { refsOfDatabase } from '../refs'
import { copyDatabase, copyDatabaseFile, settleDatabaseFile, withDatabaseFile } from '../sqlite-file'
import { draftOf } from '../work/scratch'
import { syncFile, writeDurably } from '../write-durably'
import { backupsToDrop, type Kept } from './keep'

/**
 * Backups of the database: copies of it as it is at one moment, each a file of its own, looked through before it
 * counts. Stored rows, pictures and files are not in them; those that a backup refers to stay in the store.
 */

const Card = z.object({
  id: z.string(),
  madeAt: z.string(),
  reason: z.enum(['schedule', 'asked', 'restoring']),
  bytes: z.number(),
  folios: z.number(),
  /** What the database looked like, so that the same is not copied twice. */
  state: z.string(),
})
export type BackupCard = Omit<z.infer<typeof Card>, 'state'>

const placeOf = (id: string): string => path.join(dataFolder('backups'), `${id}.sqlite`)
/** What it refers to, with blanks between the ids. */
export const refsPlaceOf = (id: string): string => path.join(dataFolder('backups'), `${id}.refs`)
const cardPlaceOf = (id: string): string => path.join(dataFolder('backups'), `${id}.json`)

/** The backups that are whole, the newest first. */
export async function listBackups(): Promise<BackupCard[]> {
  return (await allCards()).map(({ id, madeAt, reason, bytes, folios }) => ({
    ...{ id, madeAt, reason, bytes, folios },
  }))
}

async function allCards(): Promise<z.infer<typeof Card>[]> {
  const names = (await readdir(dataFolder('backups'))).filter((name) => name.endsWith('.json'))
  const cards = await Promise.all(
    names.map(async (name) => {
      const text = await readFile(path.join(dataFolder('backups'), name), 'utf8').catch(() => '')
      try {
        const card = Card.parse(JSON.parse(text))
        return `${card.id}.json` === name && existsSync(placeOf(card.id)) ? card : null
      } catch {
        return null
      }
    }),
  )
  return cards.filter((card) => card !== null).sort((a, b) => b.madeAt.localeCompare(a.madeAt))
}

/** The file of a backup. @throws Problem 404 */
export function backupFile(id: string): string {
  if (!/^[\w-]{1,40}$/.test(id) || !existsSync(placeOf(id))) throw notFound('backup')
  return placeOf(id)
}

/** What tells one state of the database from another. */
async function stateOf(db: Database): Promise<string> {
  const [[row]] = (await db.sequelize.query(
    `SELECT (SELECT count(*) || ' ' || coalesce(sum(revision), 0) || ' ' || coalesce(max(changedAt), '') || ' ' ||
       coalesce(max(deletedAt), '') || ' ' || count(deletedAt) FROM folios) || ' ' ||
     (SELECT count(*) FROM prints) AS state`,
  )) as [{ state: string }[], unknown]
  return row.state
}

/** A tenth of a disk is left to the folios. */
const leastFree = 0.1

/**
 * Makes a backup, looks it through, and lets older ones go.
 * @throws Problem 507 where there is no room for it, 503 where what was copied is damaged
 */
export async function makeBackup(db: Database, reason: Kept['reason']): Promise<BackupCard> {
  const { size } = await stat(db.file).catch(() => ({ size: 0 }))
  const { bavail, bsize, blocks } = await statfs(dataFolder('backups'))
  if (bavail * bsize < size * 1.1 + leastFree * blocks * bsize && reason === 'schedule')
    throw new Problem(507, 'There is no room for a backup', `It takes ${Math.ceil(size / 1e6)} MB.`)
  const madeAt = new Date()
  const id = `${madeAt.toISOString().slice(0, 19).replace(/[:T]/g, '-')}-${nanoid(6)}`
  const draft = draftOf(placeOf(id))
  try {
    const state = await stateOf(db)
    const before = await refsOfDatabase(db)
    await copyOut(db, draft)
    const refs = new Set([...before, ...(await refsOfDatabase(db))])
    const folios = await lookThrough(draft)
    const card = { id, madeAt: madeAt.toISOString(), reason, bytes: (await stat(draft)).size, folios, state }
    await syncFile(draft)
    await writeDurably(refsPlaceOf(id), new TextEncoder().encode([...refs].join(' ')))
    await rename(draft, placeOf(id))
    await writeDurably(cardPlaceOf(id), new TextEncoder().encode(JSON.stringify(card)))
  } catch (error) {
    for (const left of [draft, `${draft}-journal`, refsPlaceOf(id), placeOf(id)])
      await rm(left, { force: true })
    throw error
  }
  await dropOld(madeAt)
  const card = (await listBackups()).find((one) => one.id === id)
  if (!card) throw notFound('backup')
  return card
}

/**
 * Opens a copy, looks through all of its pages and counts the folios on its shelf.
 * @throws the database's error, or Problem 503 where it is damaged
 */
export async function lookThrough(file: string): Promise<number> {
  return withDatabaseFile(file, async (all) => {
    const [found] = await all<{ quick_check: string }>('PRAGMA quick_check(1)')
    if (found?.quick_check !== 'ok')
      throw new Problem(503, 'The database is damaged', 'A copy of it does not hold together.', {
        code: 'database-damaged',
      })
    const [{ folios }] = await all<{ folios: number }>(
      'SELECT count(*) AS folios FROM folios WHERE deletedAt IS NULL',
    )
    return folios
  })
}

/**
 * Copies the database of a server into a file. The connection that everybody's reading goes by is taken only where the
 * file was moved, and nothing else reaches it: copying waits for disks.
 */
export async function copyOut(db: Database, file: string): Promise<void> {
  if (isInPlace(db)) await copyDatabaseFile(db.file, file)
  else await copyDatabase(await rawConnection(db), file, 'out')
  await settleDatabaseFile(file)
}

async function dropOld(now: Date): Promise<void> {
  const all = (await allCards()).map((card) => ({ ...card, madeAt: new Date(card.madeAt) }))
  for (const { id } of backupsToDrop(all, now)) {
    await rm(cardPlaceOf(id), { force: true })
    await rm(placeOf(id), { force: true })
    await rm(refsPlaceOf(id), { force: true })
  }
}

const dueAfterMs = 3_600_000

/** Makes the backup of the hour where there is none and something has changed since the last. */
export async function backUpWhenDue(db: Database, now = Date.now()): Promise<void> {
  const [last] = await allCards()
  if (last && now - Date.parse(last.madeAt) < dueAfterMs) return
  if (last && last.state === (await stateOf(db))) return
  await makeBackup(db, 'schedule')
}
