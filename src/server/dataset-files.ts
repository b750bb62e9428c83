import { z } from 'zod'
import { exportFormatIds } from '@/formats/list'
import { contentFilesOf } from './contents'
import type { Database } from './database'
import { offerDownload } from './downloads'
import { openFolio } from './documents'
import { startJob } from './jobs/jobs'
import { notFound } from './problem'

export const DatasetFileRequest = z.object({
  format: z.enum(exportFormatIds),
  names: z.enum(['readable', 'short']),
  crs: z.string().max(40),
})

/**
 * Writes a prepared dataset of the saved folio as a file to be fetched, in a job. Returns the job's id.
 * @throws Problem 404 where the folio has no such dataset
 */
export async function startExport(
  db: Database,
  { folioId, datasetId }: { folioId: string; datasetId: string },
  request: z.infer<typeof DatasetFileRequest>,
): Promise<string> {
  const { document, facts } = await openFolio(db, folioId)
  if (!facts.datasets.some(({ id }) => id === datasetId)) throw notFound('dataset')
  return startJob(
    {
      name: 'exportDataset',
      input: { document, datasetId, contentFiles: contentFilesOf(facts), ...request },
    },
    (written) => offerDownload(written, 'application/octet-stream'),
  )
}
