import { rename } from 'node:fs/promises'
import { nanoid } from 'nanoid'
import path from 'node:path'
import { notFound } from './problem'
import { newScratch, removeScratch } from './work/scratch'
import type { WrittenFile } from './work/tasks/export-dataset'

/** A file that was written and can be fetched for a while. */
export type DownloadCard = { downloadId: string; fileName: string; bytes: number; remarks: string[] }

type Download = { folder: string; file: string; fileName: string; bytes: number; mime: string }

/** So long a file lies ready; a server that ends takes what lies ready with it. */
const keptMs = 30 * 60_000
const mostKept = 20

const shared = globalThis as typeof globalThis & { keenPlotDownloads?: Map<string, Download> }
const downloads = (shared.keenPlotDownloads ??= new Map<string, Download>())

/** Takes a file over from the task that wrote it. */
export async function offerDownload(
  { file, fileName, bytes, remarks }: WrittenFile,
  mime: string,
): Promise<DownloadCard> {
  const folder = await newScratch()
  const kept = path.join(folder, 'file')
  await rename(file, kept)
  const downloadId = nanoid(16)
  downloads.set(downloadId, { folder, file: kept, fileName, bytes, mime })
  for (const oldest of [...downloads.keys()].slice(0, -mostKept)) await dropDownload(oldest)
  setTimeout(() => void dropDownload(downloadId), keptMs).unref()
  return { downloadId, fileName, bytes, remarks }
}

async function dropDownload(id: string): Promise<void> {
  const download = downloads.get(id)
  downloads.delete(id)
  if (download) await removeScratch(download.folder).catch((error: unknown) => console.error(error))
}

/** @throws Problem 404 */
export function downloadOf(id: string): Download {
  const download = downloads.get(id)
  if (!download) throw notFound('file any more')
  return download
}
