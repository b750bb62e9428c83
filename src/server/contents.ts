import { createHash, randomUUID } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { open, rename } from 'node:fs/promises'
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
