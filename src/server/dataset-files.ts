import { z } from 'zod'
import { prepareDatasets } from '@/core/data/prepare'
import { ImportError } from '@/formats/import-error'
import { exportFormatIds, exportFormats } from '@/formats/writers/formats'
import { writeDataset } from '@/formats/writers/registry'
import { loadContent } from './contents'
import type { Database } from './database'
import { openFolio } from './folios'
import { notFound, Problem } from './problem'

export const DatasetFileRequest = z.object({
  format: z.enum(exportFormatIds),
  names: z.enum(['readable', 'short']),
  crs: z.string().max(40),
})

/**
 * A prepared dataset of the saved folio as a file.
 * @throws Problem where it cannot be saved in that form
 */
export async function datasetFile(
  db: Database,
  folioId: string,
  datasetId: string,
  { format, names, crs }: z.infer<typeof DatasetFileRequest>,
): Promise<{ fileName: string; bytes: Uint8Array }> {
  const { folio } = await openFolio(db, folioId)
  const prepared = prepareDatasets(folio.datasets, loadContent).get(datasetId)
  if (!prepared) throw notFound('dataset')
  try {
    const bytes = await writeDataset(format, {
      dataset: prepared.dataset,
      name: prepared.entry.name,
      fieldMeta: prepared.fieldMeta,
      fieldNames: names,
      crs,
    })
    return {
      fileName: `${prepared.entry.name.replace(/[^\p{L}\p{N}]+/gu, '-')}${exportFormats[format].extension}`,
      bytes,
    }
  } catch (error) {
    if (error instanceof ImportError || error instanceof RangeError)
      throw new Problem(422, 'This dataset cannot be saved so', error.message)
    throw error
  }
}
