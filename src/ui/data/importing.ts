'use client'
import { nanoid } from 'nanoid'
import { makeEntry, type DatasetEntry } from '@/core/data/entry'
import type { ReadOptions } from '@/core/data/reading'
import type { Folio } from '@/core/folio/schema'
import type { ImportResult } from '@/server/imports'
import { api, followJob } from '../shell/api'

type OnProgress = (share: number, doing: string) => void

/**
 * Sends a file to be read and stored. Aborting the signal cancels the reading.
 * @throws ApiProblem with what is wrong with the file, and the id under which it is kept
 */
export async function importFile(
  file: File,
  onProgress: OnProgress = () => undefined,
  signal?: AbortSignal,
): Promise<ImportResult[]> {
  onProgress(0, 'Sending')
  return follow(
    await api<Started>('POST', `/api/imports?name=${encodeURIComponent(file.name)}`, file, signal),
    onProgress,
    signal,
  )
}

/** Reads a file anew that was sent before, with other choices. */
export async function readAnew(
  uploadId: string,
  options: ReadOptions,
  onProgress: OnProgress = () => undefined,
  signal?: AbortSignal,
): Promise<ImportResult[]> {
  return follow(await api<Started>('POST', `/api/imports/${uploadId}`, options), onProgress, signal)
}

type Started = { jobId: string; uploadId: string }

const follow = (
  { jobId, uploadId }: Started,
  onProgress: OnProgress,
  signal?: AbortSignal,
): Promise<ImportResult[]> => followJob<ImportResult[]>(jobId, onProgress, signal, { uploadId })

export const sourceOf = ({
  contentId,
  fileName,
  format,
  uploadId,
  part,
  options,
  guessed,
  notes,
  remarks,
  geometry,
}: ImportResult): DatasetEntry['source'] => ({
  contentId,
  fileName,
  format,
  uploadId,
  part,
  options,
  guessed,
  notes,
  remarks,
  ...(geometry === 'areas' ? { borders: 'waiting' as const } : {}),
})

export const entryOf = (result: ImportResult): DatasetEntry =>
  makeEntry({
    id: nanoid(10),
    name: result.name.charAt(0).toUpperCase() + result.name.slice(1),
    geometry: result.geometry,
    source: sourceOf(result),
    fields: result.fields,
    credit: result.credit,
  })

export const addImported = (folio: Folio, results: ImportResult[]): Folio => ({
  ...folio,
  datasets: [...folio.datasets, ...results.map(entryOf)],
})
