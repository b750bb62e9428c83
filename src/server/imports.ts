import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { unpackDataset } from '@/formats/pack/pack'
import type { FieldMeta } from '@/core/data/field-meta'
import { storePack } from './contents'
import type { Database } from './database'
import { startJob } from './jobs/jobs'

/** A dataset that was read and stored, ready to be put into a folio. */
export type ImportResult = { contentId: string; name: string; fileName: string; format: string; rowCount: number; geometry: 'areas' | 'lines' | 'points' | 'none'; fields: Record<string, FieldMeta> }

/** Reads an uploaded file in a job. Until it has been read whole, nothing is stored. Returns the job's id. */
export async function startImport(db: Database, fileName: string, bytes: Uint8Array): Promise<string> {
  const folder = await mkdtemp(path.join(tmpdir(), 'keen-import-'))
  const file = path.join(folder, 'upload')
  await writeFile(file, bytes)
  return startJob(
    { kind: 'import', file, fileName, outFolder: folder },
    async (outcome): Promise<ImportResult[]> => {
      if (outcome.type !== 'imported') throw new Error('The file was not read.')
      const results: ImportResult[] = []
      for (const { file: packed, name, rowCount, geometry, fields } of outcome.packs) {
        const pack = new Uint8Array(await readFile(packed))
        const contentId = await storePack(db, pack, unpackDataset(pack))
        results.push({ contentId, name, fileName, format: outcome.format, rowCount, geometry, fields })
      }
      return results
    },
    () => rm(folder, { recursive: true, force: true }),
  )
}
