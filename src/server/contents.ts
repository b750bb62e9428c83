import { existsSync } from 'node:fs'
import { rename, rm } from 'node:fs/promises'
import path from 'node:path'
import type { TilePlace } from '@/core/data/raster'
import { refsIn, type FolioFacts } from '@/core/folio/document'
import { openTiles } from '@/formats/raster-tiles/read'
import type { Database } from './database'
import { refsInUse } from './backups/refs'
import { dataFolder } from './config'
import { isContentId } from './content-id'
import { notFound, Problem } from './problem'
import { clearPictures } from './pictures'
import { templateTexts } from './templates'
import { withFile } from './work/file-source'
import { tilesBeside, type ContentFiles, type PackedContent } from './work/tasks/packed'

const placeOf = (contentId: string): string => path.join(dataFolder('datasets'), `${contentId}.pack`)

/** @throws Problem 404 for anything that is not the id of a stored dataset. */
export function contentFile(contentId: string): string {
  if (!isContentId(contentId) || !existsSync(placeOf(contentId))) throw notFound('dataset')
  return placeOf(contentId)
}

/**
 * Where the rows of all datasets of a folio lie.
 * @throws Problem 410 naming the dataset whose rows are not there
 */
export function contentFilesOf({ datasets }: Pick<FolioFacts, 'datasets'>): ContentFiles {
  return Object.fromEntries(
    datasets.map(({ name, contentId, fileName }) => {
      if (!isContentId(contentId) || !existsSync(placeOf(contentId)))
        throw new Problem(
          410,
          `The rows of “${name}” are missing from the store`,
          fileName
            ? `Bring ${fileName} in again, or take the dataset out of the folio. Everything else is as it was.`
            : 'Bring its file in again, or take the dataset out of the folio. Everything else is as it was.',
        )
      return [contentId, placeOf(contentId)]
    }),
  )
}

/**
 * A tile of the fine cells of a stored raster, as it is stored.
 * @throws Problem 404 where there is none
 */
export function storedTile(contentId: string, tile: TilePlace): Uint8Array {
  const file = tilesBeside(contentFile(contentId))
  const packed = existsSync(file) ? withFile(file, (source) => openTiles(source).packed(tile)) : null
  if (!packed) throw notFound('tile')
  return packed
}

/** Whether the rows of all datasets of a folio are in the store. */
export async function hasContents(db: Database, { datasets }: FolioFacts): Promise<boolean> {
  const ids = [...new Set(datasets.map(({ contentId }) => contentId))]
  if (!ids.every((id) => isContentId(id) && existsSync(placeOf(id)))) return false
  return (await db.datasets.count({ where: { id: ids } })) === ids.length
}

/** Gives rows that were written whole their place in the store; the same rows are stored once. */
export async function adoptContent(
  db: Database,
  { file, tiles, contentId: id, rowCount, geometryKind: geometry, bytes }: PackedContent,
): Promise<string> {
  // Rows have their place only once what belongs to them has its own.
  if (tiles && !existsSync(tilesBeside(placeOf(id)))) await rename(tiles, tilesBeside(placeOf(id)))
  else if (tiles) await rm(tiles, { force: true })
  if (existsSync(placeOf(id))) await rm(file, { force: true })
  else await rename(file, placeOf(id))
  await db.write(() =>
    db.datasets.findOrCreate({
      where: { id },
      defaults: { id, rowCount, geometry, bytes, storedAt: new Date() },
    }),
  )
  return id
}

/** Rows that were brought in but are in no saved folio yet have so long to get into one. */
const spareMs = 2 * 86_400_000

/**
 * Clears away stored rows and pictures that no folio refers to: not in its document, nor in any version kept of
 * it, nor in one that was taken off the shelf, nor in a backup. Whatever looks like one in those texts counts as one.
 * Returns how many datasets went.
 */
export async function clearContents(db: Database, now = Date.now()): Promise<number> {
  const stored = await db.datasets.findAll({ attributes: ['id', 'storedAt'] })
  const spare = new Set(
    stored.filter(({ storedAt }) => now - storedAt.getTime() > spareMs).map(({ id }) => id),
  )
  const used = await refsInUse(db)
  for (const text of await templateTexts()) for (const id of refsIn(text).split(' ')) used.add(id)
  for (const id of used) spare.delete(id)
  await clearPictures((id) => used.has(id), spareMs, now)
  for (const id of spare) {
    await rm(placeOf(id), { force: true })
    await rm(tilesBeside(placeOf(id)), { force: true })
    await db.write(() => db.datasets.destroy({ where: { id } }))
  }
  return spare.size
}
