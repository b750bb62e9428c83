import { existsSync } from 'node:fs'
import { mkdtemp, open, readdir, readFile as readText, rm, stat, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { nanoid } from 'nanoid'
import { textAt } from '@/core/data/column'
import type { FieldMeta } from '@/core/data/field-meta'
import type { Guessed, ReadOptions, ShapeNote } from '@/core/data/reading'
import type { Folio } from '@/core/folio/schema'
import { ImportError } from '@/formats/import-error'
import { readFile } from '@/formats/registry'
import { unpackDataset } from '@/formats/pack/pack'
import { dataFolder } from './config'
import { clearContents, storePack, writeDurably } from './contents'
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
  geometry: 'areas' | 'lines' | 'points' | 'raster' | 'none'
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

export type FirstRows = { keys: string[]; rows: (string | null)[][] }

const firstBytes = 200_000
const shownRows = 6

/**
 * The first rows of a kept table as it would be read with some options; null where that cannot be told from
 * its beginning.
 * @throws Problem 404 where the file is not kept here, 422 where the options do not fit it
 */
export async function firstRows(
  uploadId: string,
  options: ReadOptions,
  part: number,
): Promise<FirstRows | null> {
  const fileName = await keptName(uploadId)
  const inRows = /\.(csv|tsv|txt)$/i.test(fileName)
  const { size } = await stat(uploadPath(uploadId))
  if (!inRows && size > 20 * firstBytes) return null
  const file = await open(uploadPath(uploadId))
  const bytes = new Uint8Array(Math.min(size, inRows ? firstBytes : size))
  await file.read(bytes).finally(() => file.close())
  const whole = bytes.length === size ? bytes : bytes.subarray(0, bytes.lastIndexOf(10) + 1)
  try {
    const { datasets } = await readFile(whole, fileName, options)
    const { fields, rowCount } = (datasets[part] ?? datasets[0]).dataset
    return {
      keys: fields.map(({ key }) => key),
      rows: Array.from({ length: Math.min(rowCount, shownRows) }, (_, row) =>
        fields.map(({ column }) => textAt(column, row)),
      ),
    }
  } catch (error) {
    if (!(error instanceof ImportError)) throw error
    throw new Problem(422, 'It cannot be read so', error.message)
  }
}

async function keptName(uploadId: string): Promise<string> {
  if (!/^[\w-]{16}$/.test(uploadId) || !existsSync(uploadPath(uploadId)))
    throw new Problem(404, 'The file itself is not kept here', 'Bring it in again from where it lies.')
  return readText(`${uploadPath(uploadId)}.name`, 'utf8')
}

const keptDays = 30
let lastCleared = 0

/**
 * Clears away files that no folio refers to any more and that have lain here for a month. Returns how many.
 */
export async function clearUploads(db: Database, now = Date.now()): Promise<number> {
  const used = new Set(
    (await db.folios.findAll({ attributes: ['document'] })).flatMap(({ document }) =>
      (JSON.parse(document) as Folio).datasets.map(({ source }) => source.uploadId),
    ),
  )
  const folder = dataFolder('uploads')
  let cleared = 0
  for (const name of await readdir(folder)) {
    const id = name.replace(/\.name$/, '')
    if (used.has(id) || now - (await stat(path.join(folder, name))).mtimeMs < keptDays * 86_400_000) continue
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
  const folder = await mkdtemp(path.join(tmpdir(), 'keen-import-'))
  return startJob(
    { kind: 'import', file: uploadPath(uploadId), fileName, options, outFolder: folder },
    async (outcome): Promise<ImportResult[]> => {
      if (outcome.type !== 'imported') throw new Error('The file was not read.')
      const results: ImportResult[] = []
      for (const [
        part,
        { file: packed, name, rowCount, geometry, fields, guessed, notes },
      ] of outcome.packs.entries()) {
        const pack = new Uint8Array(await readText(packed))
        const contentId = await storePack(db, pack, unpackDataset(pack))
        results.push({
          contentId,
          name,
          fileName,
          format: outcome.format,
          rowCount,
          geometry,
          fields,
          uploadId,
          part,
          options,
          guessed,
          notes,
        })
      }
      return results
    },
    () => rm(folder, { recursive: true, force: true }),
  )
}
