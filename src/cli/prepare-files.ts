import { plainSource, type DatasetEntry } from '@/core/data/entry'
import { prepareDatasets, type Prepared } from '@/core/data/prepare'
import type { PrepStep } from '@/core/data/steps/registry'
import type { ReadOptions } from '@/core/data/reading'
import { formOf, type Dataset } from '@/core/data/dataset'
import { readFile } from '@/formats/registry'
import { stemOf } from '@/formats/steps-file/steps-file'
import { plainLayout } from '@/core/data/table-layout'

/**
 * Reads files and carries out steps on the first dataset of the first one. Steps find the others by the name
 * of their file without its ending. `options` say how the first one is read.
 * @throws Error naming the first step that could not be carried out
 */
export async function prepareFiles(
  files: { fileName: string; bytes: Uint8Array }[],
  steps: PrepStep[],
  options: ReadOptions = {},
): Promise<Prepared> {
  const contents = new Map<string, Dataset>()
  const entries: DatasetEntry[] = []
  for (const [i, { fileName, bytes }] of files.entries()) {
    const { format, datasets } = await readFile(bytes, fileName, i ? {} : options)
    const id = stemOf(fileName)
    contents.set(id, datasets[0].dataset)
    entries.push({
      id,
      name: datasets[0].name,
      geometry: formOf(datasets[0].dataset),
      source: plainSource(id, fileName, format),
      steps: [],
      fields: {},
      table: plainLayout(),
      credit: '',
      licence: '',
      dated: '',
      link: '',
    })
  }
  entries[0] = { ...entries[0], steps }
  const prepared = prepareDatasets(entries, (id) => contents.get(id) ?? null).get(entries[0].id)
  if (!prepared) throw new Error('The first file could not be prepared.')
  const failed = prepared.reports.findIndex(({ problem }) => problem !== null)
  if (failed >= 0)
    throw new Error(
      `Step ${failed + 1} (${steps[failed].type}) could not be carried out: ${prepared.reports[failed].problem}`,
    )
  return prepared
}
