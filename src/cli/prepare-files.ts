import { plainSource, type DatasetEntry } from '@/core/data/entry'
import { prepareDatasets, type Prepared } from '@/core/data/prepare'
import type { PrepStep } from '@/core/data/steps/registry'
import type { Dataset } from '@/core/data/dataset'
import { readFile } from '@/formats/registry'
import { stemOf } from '@/formats/steps-file/steps-file'
import { plainLayout } from '@/core/data/table-layout'

/**
 * Reads files and carries out steps on the first dataset of the first one. Steps find the others by the name of their
 * file without its ending.
 * @throws Error naming the first step that could not be carried out
 */
export async function prepareFiles(files: { fileName: string; bytes: Uint8Array }[], steps: PrepStep[]): Promise<Prepared> {
  const contents = new Map<string, Dataset>()
  const entries: DatasetEntry[] = []
  for (const { fileName, bytes } of files) {
    const { format, datasets } = await readFile(bytes, fileName)
    const id = stemOf(fileName)
    contents.set(id, datasets[0].dataset)
    entries.push({ id, name: datasets[0].name, geometry: datasets[0].dataset.geometry.kind, source: plainSource(id, fileName, format), steps: [], fields: {}, table: plainLayout(), credit: '', licence: '', dated: '', link: '' })
  }
  entries[0] = { ...entries[0], steps }
  const prepared = prepareDatasets(entries, (id) => contents.get(id) ?? null).get(entries[0].id)
  if (!prepared) throw new Error('The first file could not be prepared.')
  const failed = prepared.reports.findIndex(({ problem }) => problem !== null)
  if (failed >= 0) throw new Error(`Step ${failed + 1} (${steps[failed].type}) could not be carried out: ${prepared.reports[failed].problem}`)
  return prepared
}
