import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { brotliCompressSync, brotliDecompressSync } from 'node:zlib'
import sharp, { type Sharp } from 'sharp'
import { readFolioFile, type FolioWithData } from '@/formats/folio-file/folio-file'

/** A folio as some build wrote it, and three of its sheets as the same build drew them. */
export type Archived = {
  version: number
  /** What the schema looked like, in short; of builds that did not write that down, the state of the program. */
  print: string
  /** Digest of the folio as it was stored. */
  folio: string
  /** Digests of pictures by the id of the sheet. */
  sheets: Record<string, string>
  /**
   * Share of each picture that comes out otherwise today, in per cent. A picture may not differ by more without being
   * looked at.
   */
  differs: Record<string, number>
}

/** A folio file as it is written, with the rows kept beside it. */
type FolioFile = { folio: { version: number }; contents: Record<string, unknown> }

const place = (...names: string[]) => path.join(import.meta.dirname, ...names)
const digestOf = (bytes: string | Uint8Array) => createHash('sha256').update(bytes).digest('hex').slice(0, 16)
const packedAt = (folder: string, id: string) => place(folder, `${id}.json.br`)
const unpacked = (folder: string, id: string): string =>
  brotliDecompressSync(readFileSync(packedAt(folder, id))).toString('utf8')

/** What is archived, the oldest first. */
export const archived = JSON.parse(readFileSync(place('index.json'), 'utf8')) as Archived[]

/** The text of the folio file that a build wrote. @throws Error where what is kept is not what was kept */
export function archivedFile({ folio: digest }: Archived): string {
  const text = unpacked('folios', digest)
  if (digestOf(text) !== digest) throw new Error(`The archived folio ${digest} is not what was kept.`)
  const { contents, ...file } = JSON.parse(text) as Omit<FolioFile, 'contents'> & { contents: string[] }
  const rows = Object.fromEntries(contents.map((id) => [id, JSON.parse(unpacked('contents', id)) as unknown]))
  return JSON.stringify({ ...file, contents: rows })
}

export const openArchived = (one: Archived): FolioWithData => readFolioFile(archivedFile(one))

/** Pictures are kept small and in few colours. */
const pictureWidth = 480
const alike = 40

const small = (bytes: Uint8Array) =>
  sharp(bytes).flatten({ background: '#fff' }).resize({ width: pictureWidth })

/**
 * How much of a picture of a sheet differs from the one that its own build drew: the share of points, in per cent to
 * one decimal, one channel of which is off by more than a sixth.
 * @param bytes a PNG of the sheet at 60 dots to the inch
 */
export async function difference(one: Archived, sheet: string, bytes: Uint8Array): Promise<number> {
  const raw = (image: Sharp) => image.removeAlpha().raw().toBuffer({ resolveWithObject: true })
  const [then, now] = await Promise.all([
    raw(sharp(place('pictures', `${one.sheets[sheet]}.png`)).toColourspace('srgb')),
    raw(small(bytes).toColourspace('srgb')),
  ])
  const points = now.info.width * now.info.height
  if (then.data.length !== now.data.length) return 100
  let off = 0
  for (let at = 0; at < now.data.length; at += 3)
    if ([0, 1, 2].some((c) => Math.abs(now.data[at + c] - then.data[at + c]) > alike)) off++
  return Math.round((off / points) * 1000) / 10
}

/** Keeps a folio file and pictures of its sheets. @param pictures PNG at 60 dots to the inch by the id of the sheet */
export async function keep(
  of: { version: number; print: string },
  text: string,
  pictures: Record<string, Uint8Array>,
): Promise<Archived> {
  for (const folder of ['folios', 'contents', 'pictures']) mkdirSync(place(folder), { recursive: true })
  const { contents, ...file } = JSON.parse(text) as FolioFile
  for (const [id, rows] of Object.entries(contents))
    if (!existsSync(packedAt('contents', id)))
      writeFileSync(packedAt('contents', id), brotliCompressSync(JSON.stringify(rows)))
  const stored = JSON.stringify({ ...file, contents: Object.keys(contents) })
  const folio = digestOf(stored)
  writeFileSync(packedAt('folios', folio), brotliCompressSync(stored))
  const sheets: Record<string, string> = {}
  for (const [id, bytes] of Object.entries(pictures)) {
    const picture = await small(bytes).png({ palette: true, colours: 96, dither: 0, effort: 10 }).toBuffer()
    sheets[id] = digestOf(picture)
    writeFileSync(place('pictures', `${sheets[id]}.png`), picture)
  }
  return { ...of, folio, sheets, differs: {} }
}

export const writeIndex = (all: readonly Archived[]): void =>
  writeFileSync(place('index.json'), `${JSON.stringify(all, null, 2)}\n`)
