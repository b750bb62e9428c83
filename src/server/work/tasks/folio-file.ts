import { readFileSync } from 'node:fs'
import path from 'node:path'
import sharp from 'sharp'
import type { Dataset } from '@/core/data/dataset'
import type { Folio } from '@/core/folio/schema'
import { SaidError } from '@/core/said/said-error'
import { dotsPerInch } from '@/core/scene/units'
import { readFolioFile, writeFolioFile } from '@/formats/folio-file/folio-file'
import { writePng } from '@/render/raster/bitmap'
import { sheetScene } from '@/render/sheet'
import type { TaskContext } from '../protocol'
import type { WrittenFile } from './export-dataset'
import { readerOf, writePacked, writeWhole, type ContentFiles, type PackedContent } from './packed'

/** Reads a folio file; its rows come in stored form, by the id that the folio has for them. */
export async function openFolioFile(
  { file, withPicture }: { file: string; withPicture: boolean },
  { scratch, progress }: TaskContext,
): Promise<{ folio: Folio; contents: Record<string, PackedContent>; picture: Uint8Array | null }> {
  progress(0.05, 'Reading')
  const { folio, contents } = readFolioFile(readFileSync(file, 'utf8'))
  const packed: Record<string, PackedContent> = {}
  for (const [id, dataset] of contents) {
    const done = Object.keys(packed).length
    progress(0.5 + (0.4 * done) / contents.size, 'Storing its data')
    packed[id] = await writePacked(dataset, scratch, String(done))
  }
  if (withPicture) progress(0.9, 'Drawing its picture')
  return { folio, contents: packed, picture: withPicture ? await pictureOf(folio, contents) : null }
}

const pictureWidth = 640

/** The first sheet, small. */
async function pictureOf(folio: Folio, contents: Map<string, Dataset>): Promise<Uint8Array | null> {
  const [sheet] = folio.sheets
  if (!sheet) return null
  const { scene, fonts } = sheetScene(folio, sheet.id, (id) => contents.get(id) ?? null, { date: new Date() })
  const png = await writePng(scene, fonts, Math.max(40, dotsPerInch(pictureWidth / sheet.page.widthMm)))
  return sharp(png).resize({ width: pictureWidth }).png({ palette: true }).toBuffer()
}

/** Writes a folio with its rows as one file. */
export async function saveFolioFile(
  { folio, contentFiles }: { folio: Folio; contentFiles: ContentFiles },
  { scratch, progress }: TaskContext,
): Promise<WrittenFile> {
  progress(0.05, 'Gathering its data')
  const read = readerOf(contentFiles)
  const contents = new Map<string, Dataset>()
  for (const { name, source } of folio.datasets) {
    const dataset = read(source.contentId)
    if (!dataset) throw new SaidError(`The rows of “${name}” are missing from the store.`)
    contents.set(source.contentId, dataset)
  }
  progress(0.3, 'Writing')
  const text = writeFolioFile({ folio, contents })
  const file = path.join(scratch, 'folio')
  await writeWhole(file, text)
  return {
    file,
    fileName: `${folio.name.replace(/[^\p{L}\p{N}]+/gu, '-')}.keen.json`,
    bytes: Buffer.byteLength(text),
    remarks: [],
  }
}
