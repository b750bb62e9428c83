import { readFileSync } from 'node:fs'
import path from 'node:path'
import { prepareDatasets, type Prepared } from '@/core/data/prepare'
import type { Dataset } from '@/core/data/dataset'
import type { Folio } from '@/core/folio/schema'
import { readFolioFile } from '@/formats/folio-file/folio-file'

export type OpenDemo = { folio: Folio; contents: Map<string, Dataset>; datasets: Map<string, Prepared> }

/** The committed demo folio with its datasets prepared, for tests and benchmarks. */
export function openDemo(): OpenDemo {
  const { folio, contents } = readFolioFile(
    readFileSync(path.join(import.meta.dirname, 'a-country-that-reads.keen.json'), 'utf8'),
  )
  return { folio, contents, datasets: prepareDatasets(folio.datasets, (id) => contents.get(id) ?? null) }
}
