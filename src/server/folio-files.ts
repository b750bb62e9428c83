import { existsSync, statSync } from 'node:fs'
import path from 'node:path'
import { nanoid } from 'nanoid'
import { adoptContent, contentFilesOf } from './contents'
import { writeDurably } from './write-durably'
import type { Database } from './database'
import { offerDownload } from './downloads'
import { createFolio, forgetFolio, openFolio, putThumbnail, type OpenedFolio } from './folios'
import { adoptPicture, pictureFilesOf } from './pictures'
import { startJob } from './jobs/jobs'
import { newScratch, removeScratch } from './work/scratch'
import { tilesBeside } from './work/tasks/packed'
import type { TaskResult } from './work/tasks/registry'

/** Keeps a folio file that was sent until it has been read. Returns where it lies. */
export async function keepFolioFile(content: Uint8Array | AsyncIterable<Uint8Array>): Promise<string> {
  const folder = await newScratch()
  const file = path.join(folder, 'sent')
  await writeDurably(file, content).catch(async (error: unknown) => {
    await removeScratch(folder)
    throw error
  })
  return file
}

/** Puts a folio that was read on the shelf, its rows into the store. It gets an id of its own. */
export async function shelve(
  db: Database,
  { folio, contents, pictures, picture }: TaskResult<'openFolioFile'>,
  isDemo: boolean,
): Promise<OpenedFolio> {
  const stored = new Map<string, string>()
  for (const [id, packed] of Object.entries(contents)) stored.set(id, await adoptContent(db, packed))
  for (const [id, file] of Object.entries(pictures)) await adoptPicture(file, id)
  const datasets = folio.datasets.map((entry) => ({
    ...entry,
    source: { ...entry.source, contentId: stored.get(entry.source.contentId) ?? entry.source.contentId },
  }))
  const opened = await createFolio(db, { ...folio, id: nanoid(12), datasets }, isDemo)
  if (picture) await putThumbnail(db, opened.folio.id, Buffer.from(picture))
  return opened
}

/** Opens a kept folio file in a job, and lets the file go. Returns the job's id. */
export function startOpening(db: Database, file: string): string {
  return startJob(
    { name: 'openFolioFile', input: { file, withPicture: false } },
    async (read) => {
      const { folio, revision, changedAt } = await shelve(db, read, false)
      return { id: folio.id, revision, changedAt }
    },
    { undo: ({ id }) => forgetFolio(db, id), cleanUp: () => removeScratch(path.dirname(file)) },
  )
}

/**
 * Writes a folio with its rows as a file to be fetched, in a job. Returns the job's id.
 * @param withFine whether the fine cells of rasters go into it
 */
export async function startSavingFile(db: Database, id: string, withFine = true): Promise<string> {
  const { folio } = await openFolio(db, id)
  return startJob(
    {
      name: 'saveFolioFile',
      input: { folio, contentFiles: contentFilesOf(folio), pictureFiles: pictureFilesOf(folio), withFine },
    },
    (written) => offerDownload(written, 'application/json'),
  )
}

/** How large a folio file will be, about, and how much of that the fine cells of its rasters are; bytes. */
export type FileWeight = { bytes: number; fine: { name: string; bytes: number }[] }

/** Bytes of text for a byte as it is stored: numbers in words take more room, cells are packed. */
const [textForRows, textForCells, base64] = [1.6, 0.5, 4 / 3]

/** What saving a folio as a file comes to, before it is done. */
export async function weightOfFile(db: Database, id: string): Promise<FileWeight> {
  const { folio } = await openFolio(db, id)
  const files = contentFilesOf(folio)
  const sizeOf = (file: string): number => (existsSync(file) ? statSync(file).size : 0)
  const counted = new Set<string>()
  let bytes = JSON.stringify(folio).length
  const fine: FileWeight['fine'] = []
  for (const { name, geometry, source } of folio.datasets) {
    if (counted.has(source.contentId)) continue
    counted.add(source.contentId)
    const file = files[source.contentId]
    bytes += sizeOf(file) * (geometry === 'raster' ? textForCells : textForRows)
    const cells = sizeOf(tilesBeside(file)) * base64
    if (cells) fine.push({ name, bytes: Math.round(cells) })
  }
  for (const file of Object.values(pictureFilesOf(folio))) bytes += sizeOf(file) * base64
  const all = bytes + fine.reduce((sum, one) => sum + one.bytes, 0)
  return { bytes: Math.round(all), fine }
}
