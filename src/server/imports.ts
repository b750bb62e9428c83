import { existsSync } from 'node:fs'
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { nanoid } from 'nanoid'
import type { FieldMeta } from '@/core/data/field-meta'
import type { Guessed, ReadOptions, ShapeNote } from '@/core/data/reading'
import { unpackDataset } from '@/formats/pack/pack'
import { dataFolder } from './config'
import { storePack, writeDurably } from './contents'
import type { Database } from './database'
import { startJob } from './jobs/jobs'
import { Problem } from './problem'

/** A dataset that was read and stored, ready to be put into a folio. */
export type ImportResult = {
  contentId: string
  name: string
  fileName: string
  format: string
  rowCount: number
  geometry: 'areas' | 'lines' | 'points' | 'none'
  fields: Record<string, FieldMeta>
  uploadId: string
  part: number
  options: ReadOptions
  guessed: Guessed
  notes: ShapeNote[]
}

/** Keeps a file as it came, so that it can be read anew with other choices. Returns its id. */
export async function keepUpload(fileName: string, bytes: Uint8Array): Promise<string> {
  const id = nanoid(16)
  await writeDurably(uploadPath(id), bytes)
  await writeFile(`${uploadPath(id)}.name`, fileName)
  return id
}

const uploadPath = (id: string): string => path.join(dataFolder('uploads'), id)

/**
 * Reads a kept file in a job. Until it has been read whole, nothing is stored. Returns the job's id.
 * @throws Problem 404 where the file is not kept here
 */
export async function startImport(db: Database, uploadId: string, options: ReadOptions = {}): Promise<string> {
  if (!/^[\w-]{16}$/.test(uploadId) || !existsSync(uploadPath(uploadId))) throw new Problem(404, 'The file itself is not kept here', 'Bring it in again from where it lies.')
  const fileName = await readFile(`${uploadPath(uploadId)}.name`, 'utf8')
  const folder = await mkdtemp(path.join(tmpdir(), 'keen-import-'))
  return startJob(
    { kind: 'import', file: uploadPath(uploadId), fileName, options, outFolder: folder },
    async (outcome): Promise<ImportResult[]> => {
      if (outcome.type !== 'imported') throw new Error('The file was not read.')
      const results: ImportResult[] = []
      for (const [part, { file: packed, name, rowCount, geometry, fields, guessed, notes }] of outcome.packs.entries()) {
        const pack = new Uint8Array(await readFile(packed))
        const contentId = await storePack(db, pack, unpackDataset(pack))
        results.push({ contentId, name, fileName, format: outcome.format, rowCount, geometry, fields, uploadId, part, options, guessed, notes })
      }
      return results
    },
    () => rm(folder, { recursive: true, force: true }),
  )
}
