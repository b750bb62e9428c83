import { existsSync } from 'node:fs'
import { readdir, rename, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import type { PictureEntry } from '@/core/sheet/picture'
import { dataFolder } from './config'
import { isContentId } from './content-id'
import { writeDurably } from './write-durably'
import { notFound, Problem } from './problem'
import { dropSent, keepSent } from './sent-file'
import { carryOut } from './work/pool'
import { TaskFailure } from './work/protocol'

const placeOf = (id: string): string => path.join(dataFolder('pictures'), `${id}.picture`)

/** @throws Problem 404 for anything that is not the id of a stored picture. */
export function pictureFile(id: string): string {
  if (!isContentId(id) || !existsSync(placeOf(id))) throw notFound('picture')
  return placeOf(id)
}

/** Where pictures lie; those that are missing are left out, and shown as missing. */
export const pictureFilesOf = (ids: readonly string[]): Record<string, string> =>
  Object.fromEntries(
    ids.filter((id) => isContentId(id) && existsSync(placeOf(id))).map((id) => [id, placeOf(id)]),
  )

/** Gives a picture that was written whole its place in the store; the same bytes are stored once. */
export async function adoptPicture(file: string, id: string): Promise<void> {
  if (existsSync(placeOf(id))) await rm(file, { force: true })
  else await rename(file, placeOf(id))
}

/** Stores bytes that are known to be the picture of this id. */
export async function storePicture(id: string, bytes: Uint8Array): Promise<void> {
  if (isContentId(id) && !existsSync(placeOf(id))) await writeDurably(placeOf(id), bytes)
}

/** Looks at a picture that was sent, and stores it. */
export async function keepPicture(
  fileName: string,
  content: Uint8Array | AsyncIterable<Uint8Array>,
  signal?: AbortSignal,
): Promise<{ entry: PictureEntry; remarks: string[] }> {
  const file = await keepSent(content)
  try {
    return await carryOut(
      'readPicture',
      { file, fileName },
      { signal },
      async ({ file: read, entry, remarks }) => {
        await adoptPicture(read, entry.id)
        return { entry, remarks }
      },
    )
  } catch (error) {
    if (error instanceof TaskFailure) throw new Problem(422, 'This picture cannot be read', error.message)
    throw error
  } finally {
    await dropSent(file)
  }
}

/** Takes away stored pictures that are in none of some texts and older than `spareMs`. */
export async function clearPictures(
  isUsed: (id: string) => boolean,
  spareMs: number,
  now: number,
): Promise<number> {
  let gone = 0
  for (const name of await readdir(dataFolder('pictures'))) {
    const id = name.replace(/\.picture$/, '')
    const file = path.join(dataFolder('pictures'), name)
    if (isUsed(id) || now - (await stat(file)).mtimeMs <= spareMs) continue
    await rm(file, { force: true })
    gone++
  }
  return gone
}
