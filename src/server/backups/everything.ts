import { existsSync } from 'node:fs'
import { mkdtemp, open, rename, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { Readable } from 'node:stream'
import { dataFolder } from '../config'
import type { Database } from '../database'
import { offerDownload } from '../downloads'
import { startJob } from '../jobs/jobs'
import { dropSent } from '../sent-file'
import { backupFile, copyOut, makeBackup } from './backups'
import { restoreFrom } from './restore'

const today = (): string => new Date().toISOString().slice(0, 10)

/** Writes all folios with their rows, pictures and files as one file to be fetched, in a job. Returns the job's id. */
export async function startPackingEverything(db: Database): Promise<string> {
  const { id } = await makeBackup(db, 'asked')
  const input = {
    folder: dataFolder(),
    database: backupFile(id),
    fileName: `keen-plot-everything-${today()}.tar`,
  }
  return startJob({ name: 'packEverything', input }, (written) => offerDownload(written, 'application/x-tar'))
}

/**
 * Brings back what a kept file of everything, or a database alone, holds; what is there now is backed up before.
 * Returns the job's id.
 */
export function startBringingBack(file: string): string {
  return startJob(
    { name: 'readEverything', input: { file } },
    async ({ database, stored }) => {
      for (const { store, name, file: own } of stored) {
        const place = path.join(dataFolder(store), name)
        if (!existsSync(place)) await rename(own, place)
      }
      return { aside: await restoreFrom(database) }
    },
    { cleanUp: () => dropSent(file) },
  )
}

/**
 * A copy of the database as it is in memory and on disk, also where its file or the folder was moved, as an answer.
 * The copy lies in the system's folder for such files until it has been sent.
 */
export async function sendCopy(db: Database): Promise<Response> {
  const folder = await mkdtemp(path.join(tmpdir(), 'keen-copy-'))
  const file = path.join(folder, 'keen-plot.sqlite')
  const drop = () => rm(folder, { recursive: true, force: true })
  try {
    await copyOut(db, file)
    const handle = await open(file)
    const { size } = await handle.stat()
    // The open file is read to its end also where its name is gone. The stream closes it, once.
    const stream = handle.createReadStream()
    await drop()
    return new Response(Readable.toWeb(stream) as ReadableStream<Uint8Array>, {
      headers: {
        'content-type': 'application/vnd.sqlite3',
        'content-length': String(size),
        'content-disposition': `attachment; filename="keen-plot-${today()}.sqlite"`,
        'cache-control': 'no-store',
      },
    })
  } catch (error) {
    await drop()
    throw error
  }
}
