import { readFileSync } from 'node:fs'
import path from 'node:path'
import { readFolio } from '@/core/folio/schema'
import type { PrintSettings } from '@/core/print/settings'
import { openedPictures } from '@/formats/picture/open'
import { renderSheet } from '@/render/sheet'
import type { TaskContext } from '../protocol'
import { readerOf, writeWhole, type ContentFiles } from './packed'

/** Draws one sheet into a file. */
export async function printSheet(
  {
    document,
    sheetId,
    settings,
    contentFiles,
    pictureFiles,
    date,
  }: {
    /** The folio as it is stored. */
    document: string
    sheetId: string
    settings: PrintSettings
    contentFiles: ContentFiles
    pictureFiles: Record<string, string>
    date: Date
  },
  { scratch, progress }: TaskContext,
): Promise<{ file: string; bytes: number }> {
  const folio = readFolio(JSON.parse(document))
  const bytes = await renderSheet({
    folio,
    sheetId,
    settings,
    date,
    progress,
    contents: readerOf(contentFiles),
    pictures: openedPictures(folio.pictures, (id) =>
      pictureFiles[id] ? new Uint8Array(readFileSync(pictureFiles[id])) : null,
    ),
  })
  const file = path.join(scratch, 'print')
  await writeWhole(file, bytes)
  return { file, bytes: bytes.length }
}
