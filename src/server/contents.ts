import { createHash, randomUUID } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { open, rename, rm } from 'node:fs/promises'
import path from 'node:path'
import type { Dataset } from '@/core/data/dataset'
import { packDataset, unpackDataset } from '@/formats/pack/pack'
import type { Database } from './database'
import { dataFolder } from './config'
import { notFound } from './problem'

/** Ids are the beginning of the SHA-256 of what they stand for, so the same rows are stored once. */
const contentIdOf = (bytes: Uint8Array): string =>
  createHash('sha256').update(bytes).digest('hex').slice(0, 32)

/** @throws Problem 404 for anything that is not the id of a stored dataset. */
export function contentFile(contentId: string): string {
  const file = path.join(dataFolder('datasets'), `${contentId}.pack`)
  if (!/^[0-9a-f]{32}$/.test(contentId) || !existsSync(file)) throw notFound('dataset')
  return file
}

export const loadContent = (contentId: string): Dataset =>
  unpackDataset(new Uint8Array(readFileSync(contentFile(contentId))))

/** Stores rows and shapes under their id; the file is complete on disk before it gets its name. */
export async function storeContent(db: Database, dataset: Dataset): Promise<string> {
  return storePack(db, packDataset(dataset), dataset)
}

export async function storePack(
  db: Database,
  bytes: Uint8Array,
  { rowCount, geometry }: { rowCount: number; geometry: { kind: string } },
): Promise<string> {
  const id = contentIdOf(bytes)
  const file = path.join(dataFolder('datasets'), `${id}.pack`)
  if (!existsSync(file)) await writeDurably(file, bytes)
  await db.datasets.findOrCreate({
    where: { id },
    defaults: { id, rowCount, geometry: geometry.kind, bytes: bytes.length, storedAt: new Date() },
  })
  return id
}

/** Rows that were brought in but are in no saved folio yet have so long to get into one. */
const spareMs = 2 * 86_400_000

/**
 * Clears away stored rows that no folio refers to: not in its document, nor in any version kept of it, nor in
 * one that was taken off the shelf. Whatever looks like a reference in those texts counts as one. Returns how
 * many went.
 */
export async function clearContents(db: Database, now = Date.now()): Promise<number> {
  const stored = await db.datasets.findAll({ attributes: ['id', 'storedAt'] })
  const spare = new Set(
    stored.filter(({ storedAt }) => now - storedAt.getTime() > spareMs).map(({ id }) => id),
  )
  const keepThoseIn = (document: string): void => {
    for (const [id] of document.matchAll(/[0-9a-f]{32}/g)) spare.delete(id)
  }
  for (const { document } of await db.folios.findAll({ attributes: ['document'] })) keepThoseIn(document)
  const versions = await db.revisions.findAll({ attributes: ['id'], order: ['id'] })
  // One at a time: all versions of all folios together may be larger than memory.
  for (const { id } of versions) {
    const version = await db.revisions.findByPk(id, { attributes: ['document'] })
    if (version) keepThoseIn(version.document)
  }
  for (const id of spare) {
    await rm(path.join(dataFolder('datasets'), `${id}.pack`), { force: true })
    await db.datasets.destroy({ where: { id } })
  }
  return spare.size
}

export async function writeDurably(file: string, bytes: Uint8Array): Promise<void> {
  const draft = `${file}.${randomUUID()}.part`
  const handle = await open(draft, 'w')
  try {
    await handle.writeFile(bytes)
    await handle.sync()
  } finally {
    await handle.close()
  }
  await rename(draft, file)
}
