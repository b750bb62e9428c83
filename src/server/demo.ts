import { statSync } from 'node:fs'
import { nanoid } from 'nanoid'
import { demoFile } from './config'
import { hasContents } from './contents'
import type { Database } from './database'
import { openFolio, readApart, type OpenedFolio } from './documents'
import { shelve } from './folio-files'
import { putOnShelf, putThumbnail } from './folios'
import { carryOut } from './work/pool'

/** The demo as it was read, whose rows are in the store; `mark` tells its file from others. */
type Read = { mark: string; opened: OpenedFolio; picture: Uint8Array | null }

const kept = new WeakMap<Database, Read>()

const markOf = (file: string): string => `${file} ${statSync(file).mtimeMs}`

/** Puts a fresh copy of the demo on the shelf, with its picture. Its file is read once, as long as its rows stay. */
export async function addDemo(db: Database): Promise<OpenedFolio> {
  const file = demoFile()
  const mark = markOf(file)
  const known = kept.get(db)
  const id = nanoid(12)
  if (known?.mark === mark && (await hasContents(db, known.opened.facts))) {
    await putOnShelf(db, id, await readApart({ document: known.opened.document, id }), { isDemo: true })
    if (known.picture) await putThumbnail(db, id, Buffer.from(known.picture))
    return openFolio(db, id)
  }
  return carryOut('openFolioFile', { file, id, withPicture: true }, {}, async (read) => {
    await shelve(db, id, read, { isDemo: true })
    const opened = await openFolio(db, id)
    kept.set(db, { mark, opened, picture: read.picture })
    return opened
  })
}

/** The demo is there when somebody opens the shelf for the first time; once it was deleted it stays away. */
export async function ensureDemo(db: Database): Promise<void> {
  if ((await db.folios.count()) === 0) await addDemo(db)
}
