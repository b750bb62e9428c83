import { readFileSync } from 'node:fs'
import { open } from 'node:fs/promises'
import path from 'node:path'
import type { Dataset } from '@/core/data/dataset'
import { packDataset, unpackDataset } from '@/formats/pack/pack'
import { contentIdOf } from '../../content-id'

/** Rows and shapes in their stored form, written and safe on disk, that only need their place in the store. */
export type PackedContent = {
  file: string
  contentId: string
  rowCount: number
  geometryKind: string
  bytes: number
}

export async function writePacked(dataset: Dataset, folder: string, name: string): Promise<PackedContent> {
  const pack = packDataset(dataset)
  const file = path.join(folder, `${name}.pack`)
  await writeWhole(file, pack)
  return {
    file,
    contentId: contentIdOf(pack),
    rowCount: dataset.rowCount,
    geometryKind: dataset.geometry.kind,
    bytes: pack.length,
  }
}

/** Writes a file that is to outlive a crash as soon as it has its name. */
export async function writeWhole(file: string, content: Uint8Array | string): Promise<void> {
  const handle = await open(file, 'w')
  try {
    await handle.writeFile(content)
    await handle.sync()
  } finally {
    await handle.close()
  }
}

/** What stored rows lie where, by content id. */
export type ContentFiles = Record<string, string>

/** Reads stored rows; null for those that are not there. */
export const readerOf =
  (files: ContentFiles) =>
  (contentId: string): Dataset | null =>
    files[contentId] ? unpackDataset(new Uint8Array(readFileSync(files[contentId]))) : null
