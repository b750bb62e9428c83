import path from 'node:path'
import { prepareDatasets } from '@/core/data/prepare'
import { readFolio } from '@/core/folio/schema'
import { SaidError } from '@/core/said/said-error'
import { savedAs, type ExportFormat } from '@/formats/list'
import { writeDataset } from '@/formats/writers/registry'
import type { TaskContext } from '../protocol'
import { readerOf, writeWhole, type ContentFiles } from './packed'

export type WrittenFile = {
  file: string
  fileName: string
  bytes: number
  /** What the file does not hold as it was, for the person. */
  remarks: string[]
}

/** Writes a prepared dataset of a folio into a file of a format. */
export async function exportDataset(
  {
    document,
    datasetId,
    contentFiles,
    format,
    names,
    crs,
  }: {
    /** The folio as it is stored. */
    document: string
    datasetId: string
    contentFiles: ContentFiles
    format: ExportFormat
    names: 'readable' | 'short'
    crs: string
  },
  { scratch, progress }: TaskContext,
): Promise<WrittenFile> {
  progress(0.05, 'Preparing data')
  const prepared = prepareDatasets(readFolio(JSON.parse(document)).datasets, readerOf(contentFiles)).get(
    datasetId,
  )
  if (!prepared) throw new SaidError('The rows of this dataset are missing from the store.')
  progress(0.4, `Writing ${savedAs(format).label}`)
  const { bytes, remarks } = await writeDataset(format, {
    dataset: prepared.dataset,
    name: prepared.entry.name,
    fieldMeta: prepared.fieldMeta,
    fieldNames: names,
    crs,
  })
  const file = path.join(scratch, 'export')
  await writeWhole(file, bytes)
  return {
    file,
    fileName: `${prepared.entry.name.replace(/[^\p{L}\p{N}]+/gu, '-')}${savedAs(format).extension}`,
    bytes: bytes.length,
    remarks,
  }
}
