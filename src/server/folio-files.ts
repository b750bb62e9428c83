import { existsSync, statSync } from 'node:fs'
import { nanoid } from 'nanoid'
import { adoptContent, contentFilesOf } from './contents'
import type { Database } from './database'
import { offerDownload } from './downloads'
import { openFolio } from './documents'
import { forgetFolio, putOnShelf, putThumbnail } from './folios'
import { adoptPicture, pictureFilesOf } from './pictures'
import { startJob } from './jobs/jobs'
import { dropSent } from './sent-file'
import { tilesBeside } from './work/tasks/packed'
import type { OpenedFile } from './work/tasks/folio-file'

/** Puts a folio file that was read on the shelf under the id that it was read for, its rows into the store. */
export async function shelve(
  db: Database,
  id: string,
  { written, contents, pictures, picture }: OpenedFile,
  { isDemo = false } = {},
): Promise<void> {
  for (const packed of contents) await adoptContent(db, packed)
  for (const [pictureId, file] of Object.entries(pictures)) await adoptPicture(file, pictureId)
  await putOnShelf(db, id, written, { isDemo })
  if (picture) await putThumbnail(db, id, Buffer.from(picture))
}

/** Opens a kept folio file in a job, and lets the file go. Returns the job's id. */
export function startOpening(db: Database, file: string): string {
  const id = nanoid(12)
  return startJob(
    { name: 'openFolioFile', input: { file, id, withPicture: false } },
    async (read) => {
      await shelve(db, id, read)
      return { id }
    },
    { undo: () => forgetFolio(db, id), cleanUp: () => dropSent(file) },
  )
}

/**
 * Writes a folio with its rows as a file to be fetched, in a job. Returns the job's id.
 * @param withFine whether the fine cells of rasters go into it
 */
export async function startSavingFile(db: Database, id: string, withFine = true): Promise<string> {
  const { document, facts } = await openFolio(db, id)
  return startJob(
    {
      name: 'saveFolioFile',
      input: {
        ...{ document, withFine },
        contentFiles: contentFilesOf(facts),
        pictureFiles: pictureFilesOf(facts.pictures),
      },
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
  const { document, facts } = await openFolio(db, id)
  const files = contentFilesOf(facts)
  const sizeOf = (file: string): number => (existsSync(file) ? statSync(file).size : 0)
  const counted = new Set<string>()
  let bytes = document.length
  const fine: FileWeight['fine'] = []
  for (const { name, geometry, contentId } of facts.datasets) {
    if (counted.has(contentId)) continue
    counted.add(contentId)
    const file = files[contentId]
    bytes += sizeOf(file) * (geometry === 'raster' ? textForCells : textForRows)
    const cells = sizeOf(tilesBeside(file)) * base64
    if (cells) fine.push({ name, bytes: Math.round(cells) })
  }
  for (const file of Object.values(pictureFilesOf(facts.pictures))) bytes += sizeOf(file) * base64
  const all = bytes + fine.reduce((sum, one) => sum + one.bytes, 0)
  return { bytes: Math.round(all), fine }
}
