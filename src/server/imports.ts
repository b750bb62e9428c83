import { existsSync } from 'node:fs'
import { readdir, readFile, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import { nanoid } from 'nanoid'
import type { FieldMeta } from '@/core/data/field-meta'
import type { Guessed, ReadOptions, ShapeNote } from '@/core/data/reading'
import { dataFolder } from './config'
import { adoptContent, clearContents } from './contents'
import { writeDurably } from './write-durably'
import type { Database } from './database'
import { startJob } from './jobs/jobs'
import { Problem } from './problem'
import { refsInUse } from './backups/refs'
import { carryOut } from './work/pool'
import { TaskFailure } from './work/protocol'
import type { FirstRows } from './work/tasks/first-rows'

export type { FirstRows } from './work/tasks/first-rows'

/** A dataset that was read and stored, ready to be put into a folio. */
export type ImportResult = {
  contentId: string
  name: string
  fileName: string
  format: string
  rowCount: number
  geometry: 'areas' | 'lines' | 'points' | 'raster' | 'none'
  fields: Record<string, FieldMeta>
  uploadId: string
  part: number
  options: ReadOptions
  guessed: Guessed
  notes: ShapeNote[]
  remarks: string[]
  credit: string
}

/** Keeps a file as it came, so that it can be read anew with other choices. Returns its id. */
export async function keepUpload(
  fileName: string,
  content: Uint8Array | AsyncIterable<Uint8Array>,
): Promise<string> {
  const id = nanoid(16)
  await writeDurably(uploadPath(id), content)
  await writeDurably(`${uploadPath(id)}.name`, new TextEncoder().encode(fileName))
  return id
}

const uploadPath = (id: string): string => path.join(dataFolder('uploads'), id)

/**
 * The first rows of a kept table as it would be read with some options; null where that cannot be told from
 * its beginning.
 * @throws Problem 404 where the file is not kept here, 422 where the options do not fit it
 */
export async function firstRows(
  uploadId: string,
  { options, part, signal }: { options: ReadOptions; part: number; signal?: AbortSignal },
): Promise<FirstRows | null> {
  const input = { file: uploadPath(uploadId), fileName: await keptName(uploadId), options, part }
  try {
    return await carryOut('firstRows', input, { signal }, async (rows) => rows)
  } catch (error) {
    if (error instanceof TaskFailure) throw new Problem(422, 'It cannot be read so', error.message)
    throw error
  }
}

async function keptName(uploadId: string): Promise<string> {
  if (!/^[\w-]{16}$/.test(uploadId) || !existsSync(uploadPath(uploadId)))
    throw new Problem(404, 'The file itself is not kept here', 'Bring it in again from where it lies.')
  return readFile(`${uploadPath(uploadId)}.name`, 'utf8')
}

const keptDays = 30
let lastCleared = 0

/**
 * Clears away files that no folio refers to any more and that have lain here for a month. Returns how many.
 */
export async function clearUploads(db: Database, now = Date.now()): Promise<number> {
  const folder = dataFolder('uploads')
  const names = await readdir(folder)
  const used = await refsInUse(db)
  let cleared = 0
  for (const name of names) {
    const id = name.replace(/\.name$/, '')
    // It may just have got its final name, or been cleared by another server.
    const found = await stat(path.join(folder, name)).catch(() => null)
    if (!found || used.has(id) || now - found.mtimeMs < keptDays * 86_400_000) continue
    await rm(path.join(folder, name), { force: true })
    if (name === id) cleared++
  }
  return cleared
}

/**
 * Reads a kept file in a job. Until it has been read whole, nothing is stored. Returns the job's id.
 * @throws Problem 404 where the file is not kept here
 */
export async function startImport(
  db: Database,
  uploadId: string,
  options: ReadOptions = {},
): Promise<string> {
  if (Date.now() - lastCleared > 86_400_000) {
    lastCleared = Date.now()
    clearUploads(db)
      .then(() => clearContents(db))
      .catch((error: unknown) => console.error(error))
  }
  const fileName = await keptName(uploadId)
  return startJob(
    { name: 'importFile', input: { file: uploadPath(uploadId), fileName, options } },
    async ({ format, datasets }): Promise<ImportResult[]> => {
      const results: ImportResult[] = []
      for (const [part, dataset] of datasets.entries()) {
        const contentId = await adoptContent(db, dataset)
        const { name, rowCount, geometry, fields, guessed, notes, remarks, credit } = dataset
        results.push({
          ...{ contentId, name, fileName, format, rowCount, geometry, fields },
          ...{ uploadId, part, options, guessed, notes, remarks, credit },
        })
      }
      return results
    },
  )
}
