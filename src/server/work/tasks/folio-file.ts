import { existsSync, readFileSync } from 'node:fs'
import path from 'node:path'
import sharp from 'sharp'
import type { Dataset } from '@/core/data/dataset'
import { documentOf, type FolioDocument } from '@/core/folio/document'
import { readFolio, type Folio } from '@/core/folio/schema'
import { SaidError } from '@/core/said/said-error'
import { dotsPerInch } from '@/core/scene/units'
import { readFolioFile, writeFolioFile } from '@/formats/folio-file/folio-file'
import { openedPictures } from '@/formats/picture/open'
import { writePng } from '@/render/raster/bitmap'
import { sheetScene } from '@/render/sheet'
import { contentIdOf } from '../../content-id'
import { textExcess } from '../../json-bounds'
import type { TaskContext } from '../protocol'
import type { WrittenFile } from './export-dataset'
import {
  readerOf,
  tilesBeside,
  writePacked,
  writeWhole,
  type ContentFiles,
  type PackedContent,
} from './packed'

/** A folio file that was read, ready to be put on the shelf. */
export type OpenedFile = {
  /** The folio as it is stored, under the id that was given, its datasets by the ids of their stored rows. */
  written: FolioDocument
  contents: PackedContent[]
  /** Files with the bytes of its pictures, by their ids. */
  pictures: Record<string, string>
  picture: Uint8Array | null
}

/** Reads a folio file; its rows come in stored form. The folio gets the given id. */
export async function openFolioFile(
  { file, id: folioId, withPicture }: { file: string; id: string; withPicture: boolean },
  { scratch, progress }: TaskContext,
): Promise<OpenedFile> {
  progress(0.05, 'Reading')
  const bytes = readFileSync(file)
  const excess = textExcess(bytes)
  if (excess) throw new SaidError(`This is not a folio file: ${excess}.`)
  const { folio, contents, pictures = new Map(), tiles = new Map() } = readFolioFile(bytes.toString('utf8'))
  const packed: Record<string, PackedContent> = {}
  for (const [id, dataset] of contents) {
    const done = Object.keys(packed).length
    progress(0.5 + (0.4 * done) / contents.size, 'Storing its data')
    const own = tiles.get(id) ?? null
    if (own && contentIdOf(own) !== dataset.raster?.fine?.digest)
      throw new SaidError('The folio file is damaged: the fine cells of a raster in it are other ones.')
    const place = path.join(scratch, String(done))
    if (own) await writeWhole(`${place}.tiles`, own)
    packed[id] = await writePacked(dataset, place, own && `${place}.tiles`)
  }
  const files: Record<string, string> = {}
  for (const [id, bytes] of pictures) {
    if (contentIdOf(bytes) !== id)
      throw new SaidError('The folio file is damaged: a picture in it is another one.')
    files[id] = path.join(scratch, `${id}.picture`)
    await writeWhole(files[id], bytes)
  }
  if (withPicture) progress(0.9, 'Drawing its picture')
  const picture = withPicture ? await pictureOf(folio, contents, pictures) : null
  const datasets = folio.datasets.map((entry) => {
    const { contentId } = entry.source
    return { ...entry, source: { ...entry.source, contentId: packed[contentId]?.contentId ?? contentId } }
  })
  const written = documentOf({ ...folio, datasets }, folioId)
  return { written, contents: Object.values(packed), pictures: files, picture }
}

const pictureWidth = 640

/** The first sheet, small. */
async function pictureOf(
  folio: Folio,
  contents: Map<string, Dataset>,
  pictures: Map<string, Uint8Array>,
): Promise<Uint8Array | null> {
  const [sheet] = folio.sheets
  if (!sheet) return null
  const { scene, fonts } = await sheetScene(folio, sheet.id, {
    contents: (id) => contents.get(id) ?? null,
    pictures: openedPictures(folio.pictures, (id) => pictures.get(id) ?? null),
    date: new Date(),
  })
  const png = await writePng(scene, fonts, Math.max(40, dotsPerInch(pictureWidth / sheet.page.widthMm)))
  return sharp(png).resize({ width: pictureWidth }).png({ palette: true }).toBuffer()
}

/** Writes a folio with its rows as one file. */
export async function saveFolioFile(
  {
    document,
    contentFiles,
    pictureFiles,
    withFine,
  }: {
    /** The folio as it is stored. */
    document: string
    contentFiles: ContentFiles
    pictureFiles: Record<string, string>
    /** Whether the fine cells of rasters go into it. */
    withFine: boolean
  },
  { scratch, progress }: TaskContext,
): Promise<WrittenFile> {
  progress(0.05, 'Gathering its data')
  const folio = readFolio(JSON.parse(document))
  const read = readerOf(contentFiles)
  const contents = new Map<string, Dataset>()
  for (const { name, source } of folio.datasets) {
    const dataset = read(source.contentId)
    if (!dataset) throw new SaidError(`The rows of “${name}” are missing from the store.`)
    contents.set(source.contentId, dataset)
  }
  progress(0.3, 'Writing')
  const pictures = new Map(
    Object.entries(pictureFiles).map(([id, place]) => [id, new Uint8Array(readFileSync(place))]),
  )
  const { tiles, remarks } = fineCells(folio, contents, {
    files: contentFiles,
    room: withFine ? mostTileBytes : 0,
  })
  const text = writeFolioFile({ folio, contents, pictures, tiles })
  const file = path.join(scratch, 'folio')
  await writeWhole(file, text)
  return {
    file,
    fileName: `${folio.name.replace(/[^\p{L}\p{N}]+/gu, '-')}.keen.json`,
    bytes: Buffer.byteLength(text),
    remarks,
  }
}

/** Fine cells that are put into a folio file: up to so many bytes of all of its rasters together. */
const mostTileBytes = 150_000_000

/**
 * The fine cells of rasters that go into a folio file, up to so many bytes (`room`), the smallest first, and what is
 * said of those that do not.
 */
function fineCells(
  { datasets }: Folio,
  contents: Map<string, Dataset>,
  { files, room: most }: { files: ContentFiles; room: number },
): { tiles: Map<string, Uint8Array>; remarks: string[] } {
  const found = datasets.flatMap(({ name, source: { contentId } }) => {
    const fine = contents.get(contentId)?.raster?.fine
    return fine ? [{ name, contentId, fine, file: tilesBeside(files[contentId]) }] : []
  })
  const tiles = new Map<string, Uint8Array>()
  const remarks: string[] = []
  let room = most
  for (const { name, contentId, fine, file } of found.sort((a, b) => a.fine.bytes - b.fine.bytes)) {
    if (tiles.has(contentId)) continue
    if (existsSync(file) && fine.bytes <= room) {
      tiles.set(contentId, new Uint8Array(readFileSync(file)))
      room -= fine.bytes
    } else
      remarks.push(
        `The fine cells of “${name}” (${Math.round(fine.bytes / 1e6)} MB) are not in this file. Where it is opened ` +
          'beside them they are found again; elsewhere the raster is coarser until its file is brought in.',
      )
  }
  return { tiles, remarks }
}
