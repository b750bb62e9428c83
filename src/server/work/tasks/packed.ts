import { existsSync, readFileSync } from 'node:fs'
import { open } from 'node:fs/promises'
import { inflateSync } from 'node:zlib'
import type { Dataset } from '@/core/data/dataset'
import { withTiles } from '@/core/data/raster'
import { rememberingTiles } from '@/core/data/tile-memory'
import { packDataset, unpackDataset } from '@/formats/pack/pack'
import { openTiles, tileReader } from '@/formats/raster-tiles/read'
import { contentIdOf } from '../../content-id'
import { fileSource } from '../file-source'

/** Rows and shapes in their stored form, written and safe on disk, that only need their place in the store. */
export type PackedContent = {
  file: string
  /** Where the fine cells of a raster lie. */
  tiles: string | null
  contentId: string
  rowCount: number
  geometryKind: string
  bytes: number
}

/**
 * @param place of the files, whose endings are added
 * @param tiles the file that the fine cells of its raster are in
 */
export async function writePacked(
  dataset: Dataset,
  place: string,
  tiles: string | null = null,
): Promise<PackedContent> {
  const pack = packDataset(dataset)
  const file = `${place}.pack`
  await writeWhole(file, pack)
  return {
    file,
    tiles,
    contentId: contentIdOf(pack),
    rowCount: dataset.rowCount,
    geometryKind: dataset.geometry.kind,
    bytes: pack.length + (dataset.raster?.fine?.bytes ?? 0),
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

/** Where the fine cells of stored rows lie, beside these. */
export const tilesBeside = (packFile: string): string => packFile.replace(/\.pack$/, '.tiles')

/** Reads stored rows; null for those that are not there. */
export const readerOf =
  (files: ContentFiles) =>
  (contentId: string): Dataset | null =>
    files[contentId] ? readPacked(files[contentId], contentId) : null

/** Reads stored rows. Fine cells that are not there are said to be missing by whoever looks for them. */
export function readPacked(file: string, contentId: string): Dataset {
  const dataset = unpackDataset(new Uint8Array(readFileSync(file)))
  const tiles = tilesBeside(file)
  if (!dataset.raster?.fine || !existsSync(tiles)) return withTiles(dataset, contentId, null)
  const read = tileReader(openTiles(fileSource(tiles)), (packed) => inflateSync(packed))
  return withTiles(dataset, contentId, rememberingTiles(read))
}
