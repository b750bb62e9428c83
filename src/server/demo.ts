import { demoFile } from './config'
import type { Database } from './database'
import { shelve } from './folio-files'
import type { OpenedFolio } from './folios'
import { carryOut } from './work/pool'

/** Puts a fresh copy of the demo on the shelf, with its picture. */
export const addDemo = (db: Database): Promise<OpenedFolio> =>
  carryOut('openFolioFile', { file: demoFile(), withPicture: true }, {}, (read) => shelve(db, read, true))

/** The demo is there when somebody opens the shelf for the first time; once it was deleted it stays away. */
export async function ensureDemo(db: Database): Promise<void> {
  if ((await db.folios.count()) === 0) await addDemo(db)
}
