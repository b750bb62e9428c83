import { existsSync, mkdirSync, renameSync } from 'node:fs'
import { copyFile, rename } from 'node:fs/promises'
import path from 'node:path'
import { nanoid } from 'nanoid'
import { calmProblem } from '../calm'
import { dataFolder } from '../config'
import {
  closeOwn,
  database,
  databaseFile,
  lostCodes,
  migrate,
  rawConnection,
  type Database,
} from '../database'
import { Problem } from '../problem'
import { copyDatabase } from '../sqlite-file'
import { syncFile } from '../write-durably'
import { newScratch, removeScratch } from '../work/scratch'
import { backupFile, lookThrough, makeBackup } from './backups'

/**
 * Brings back what a database file holds, such as a backup. What is there now is backed up before; where it is damaged
 * or gone, what is left of it is put aside as it is.
 * @returns the folder, within that of the data, in which what was there was put aside, null where it was backed up
 * @throws Problem where the file does not hold together; then nothing is changed
 */
export async function restoreFrom(file: string): Promise<string | null> {
  await lookThrough(file)
  const db = await presentDatabase()
  if (db) {
    await makeBackup(db, 'restoring')
    await db.write(async () => {
      await copyDatabase(await rawConnection(db), file, 'in')
      await migrate(db.sequelize)
    })
    return null
  }
  await closeOwn()
  const aside = putAside()
  const place = databaseFile(dataFolder())
  const scratch = await newScratch()
  try {
    const draft = path.join(scratch, 'database')
    await copyFile(file, draft)
    await syncFile(draft)
    await rename(draft, place)
  } finally {
    await removeScratch(scratch)
  }
  await database()
  return aside
}

export const restoreBackup = (id: string): Promise<string | null> => restoreFrom(backupFile(id))

/** The database that is there; null where it is lost. @throws whatever else is wrong with it */
async function presentDatabase(): Promise<Database | null> {
  try {
    const db = await database()
    // Damage may lie deeper than what is read when it is opened.
    await db.write(async () => undefined)
    const [[found]] = (await db.sequelize.query('PRAGMA quick_check(1)')) as [
      { quick_check: string }[],
      unknown,
    ]
    return found.quick_check === 'ok' ? db : null
  } catch (error) {
    const problem = calmProblem(error)
    if (lostCodes.has(String(problem.more.code))) return null
    throw error instanceof Problem ? error : problem
  }
}

/**
 * Moves a damaged database aside together with its journals: beside another one they would be played into that.
 * Returns the name of the folder.
 */
function putAside(): string {
  const name = `put-aside-${new Date().toISOString().slice(0, 19).replace(/[:T]/g, '-')}-${nanoid(4)}`
  const folder = path.join(dataFolder(), name)
  mkdirSync(folder)
  for (const ending of ['', '-wal', '-shm', '-journal']) {
    const file = `${databaseFile(dataFolder())}${ending}`
    if (existsSync(file)) renameSync(file, path.join(folder, path.basename(file)))
  }
  return name
}
