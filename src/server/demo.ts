import { statSync } from 'node:fs'
import { nanoid } from 'nanoid'
import type { Folio } from '@/core/folio/schema'
import { demoFile } from './config'
import { hasContents } from './contents'
import type { Database } from './database'
import { shelve } from './folio-files'
import { createFolio, putThumbnail, type OpenedFolio } from './folios'
import { carryOut } from './work/pool'

/** The demo as it was read, whose rows are in the store; `mark` tells its file from others. */
type Read = { mark: string; folio: Folio; picture: Uint8Array | null }

const kept = new WeakMap<Database, Read>()

const markOf = (file: string): string => `${file} ${statSync(file).mtimeMs}`

/** Puts a fresh copy of the demo on the shelf, with its picture. Its file is read once, as long as its rows stay. */
export async function addDemo(db: Database): Promise<OpenedFolio> {
  const file = demoFile()
  const mark = markOf(file)
  const known = kept.get(db)
  if (known?.mark === mark && (await hasContents(db, known.folio))) {
    const opened = await createFolio(db, { ...known.folio, id: nanoid(12) }, true)
    if (known.picture) await putThumbnail(db, opened.folio.id, Buffer.from(known.picture))
    return opened
  }
  return carryOut('openFolioFile', { file, withPicture: true }, {}, async (read) => {
    const opened = await shelve(db, read, true)
    kept.set(db, { mark, folio: opened.folio, picture: read.picture })
    return opened
  })
}

/** The demo is there when somebody opens the shelf for the first time; once it was deleted it stays away. */
export async function ensureDemo(db: Database): Promise<void> {
  if ((await db.folios.count()) === 0) await addDemo(db)
}
