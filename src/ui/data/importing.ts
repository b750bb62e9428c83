'use client'
import { nanoid } from 'nanoid'
import type { DatasetEntry } from '@/core/data/entry'
import type { Folio } from '@/core/folio/schema'
import type { ImportResult } from '@/server/imports'
import { api, followJob } from '../shell/api'

/**
 * Sends a file to be read and stored. Aborting the signal cancels the reading.
 * @throws ApiProblem with what is wrong with the file
 */
export async function importFile(file: File, onProgress: (share: number, doing: string) => void = () => undefined, signal?: AbortSignal): Promise<ImportResult[]> {
  onProgress(0, 'Sending')
  const { jobId } = await api<{ jobId: string }>('POST', `/api/imports?name=${encodeURIComponent(file.name)}`, file)
  return followJob<ImportResult[]>(jobId, onProgress, signal)
}

export const entryOf = ({ contentId, name, fileName, format, geometry, fields }: ImportResult): DatasetEntry => ({
  id: nanoid(10),
  name: name.charAt(0).toUpperCase() + name.slice(1),
  geometry,
  source: { contentId, fileName, format },
  steps: [],
  fields,
  credit: '',
})

export const addImported = (folio: Folio, results: ImportResult[]): Folio => ({ ...folio, datasets: [...folio.datasets, ...results.map(entryOf)] })
