import { proposeFields } from '@/core/data/field-meta'
import { makeEntry, plainSource, type DatasetEntry } from '@/core/data/entry'
import { prepareDatasets, type Prepared } from '@/core/data/prepare'
import type { PrepStep } from '@/core/data/steps/registry'
import type { ReadOptions, ShapeNote } from '@/core/data/reading'
import { formOf, type Dataset } from '@/core/data/dataset'
import type { Imported } from '@/formats/import-error'
import { readFile } from '@/formats/registry'
import { stemOf } from '@/formats/steps-file/steps-file'

/**
 * Reads files and carries out steps on the first dataset of the first one. Steps find the others by the name
 * of their file without its ending. `options` say how the first one is read.
 * @throws Error naming the first step that could not be carried out
 */
export async function prepareFiles(
  files: { fileName: string; bytes: Uint8Array }[],
  steps: PrepStep[],
  options: ReadOptions = {},
): Promise<{ prepared: Prepared; remarks: string[] }> {
  const remarks: string[] = []
  const contents = new Map<string, Dataset>()
  const entries: DatasetEntry[] = []
  for (const [i, { fileName, bytes }] of files.entries()) {
    const { format, datasets } = await readFile(bytes, fileName, i ? {} : options)
    const id = stemOf(fileName)
    const chosen = chosenOf(datasets, fileName, i ? undefined : options.layers?.[0])
    const names = datasets.map(({ name }) => name)
    if (datasets.length > 1 && (i || !options.layers))
      remarks.push(
        `${fileName} holds ${names.length} datasets: ${names.join('; ')}. The first was taken${i ? '' : '; --layer takes another'}.`,
      )
    remarks.push(...(chosen.remarks ?? []).map((remark) => `${fileName}: ${remark}`))
    remarks.push(...noteWords(chosen.notes).map((words) => `${fileName}: ${words}`))
    contents.set(id, chosen.dataset)
    entries.push(entryOf(chosen, { id, fileName, format }))
  }
  entries[0] = { ...entries[0], steps }
  const prepared = prepareDatasets(entries, (id) => contents.get(id) ?? null).get(entries[0].id)
  if (!prepared) throw new Error('The first file could not be prepared.')
  const failed = prepared.reports.findIndex(({ problem }) => problem !== null)
  if (failed >= 0)
    throw new Error(
      `Step ${failed + 1} (${steps[failed].type}) could not be carried out: ${prepared.reports[failed].problem}`,
    )
  prepared.reports.forEach((report, i) => {
    for (const words of [report.remark, report.note])
      if (words) remarks.push(`Step ${i + 1} (${steps[i].type}): ${words}`)
  })
  return { prepared, remarks }
}

/** The entry of a dataset as it was read. */
export const entryOf = (
  { name, dataset, said }: Imported,
  { id, fileName, format }: { id: string; fileName: string; format: string },
): DatasetEntry =>
  makeEntry({
    ...{ id, name, geometry: formOf(dataset), source: plainSource(id, fileName, format) },
    fields: proposeFields(dataset, said?.many),
    credit: said?.credit ?? '',
  })

/** No more rows than this are named of one kind of note. */
const mostNamed = 5

/** What was found in shapes, a line for each kind with how often and in which rows. */
export function noteWords(notes: ShapeNote[]): string[] {
  const byKind = new Map<string, number[]>()
  for (const { what, row } of notes) byKind.set(what, [...(byKind.get(what) ?? []), row + 1])
  return [...byKind].map(([what, rows]) => {
    const named = rows.slice(0, mostNamed).join(', ')
    return `${rows.length} × ${what} (${rows.length === 1 ? 'row' : 'rows'} ${named}${rows.length > mostNamed ? ' …' : ''})`
  })
}

/**
 * The dataset of a file that is called so, in whatever format; the first one without a name.
 * @throws Error where there is none of that name
 */
function chosenOf(datasets: Imported[], fileName: string, layer: string | undefined): Imported {
  if (layer === undefined || datasets.length === 1) {
    const [only] = datasets
    if (layer === undefined || isCalled(only, layer)) return only
  }
  const found = datasets.find((one) => isCalled(one, layer ?? ''))
  if (found) return found
  throw new Error(
    `${fileName} has no layer ${layer}. It has: ${datasets.map(({ name }) => name).join('; ')}.`,
  )
}

/** Names of layers are made readable when they come in. */
const isCalled = ({ name }: Imported, layer: string): boolean => {
  const plain = (words: string) =>
    words
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, ' ')
      .trim()
  return plain(name) === plain(layer) || plain(name).endsWith(` ${plain(layer)}`)
}
