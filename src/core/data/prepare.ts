import type { Dataset } from './dataset'
import type { DatasetEntry } from './entry'
import { proposeMeta, type FieldMeta } from './field-meta'
import { textAt } from './column'
import { applyStep } from './steps/registry'
import type { Others, Preparing } from './steps/step'

/** A dataset after its prep steps, with what its fields are called. */
export type Prepared = Preparing & { entry: DatasetEntry; fieldMeta: (key: string) => FieldMeta }

/** Stored rows and shapes by content id; null while they are not at hand. */
export type Contents = (contentId: string) => Dataset | null

/** All datasets that can be prepared with the contents at hand, by id. A dataset that would need itself is left without that step. */
export function prepareDatasets(entries: DatasetEntry[], contents: Contents): Map<string, Prepared> {
  const done = new Map<string, Prepared>()
  const under = new Set<string>()
  const prepare = (id: string): Prepared | null => {
    const known = done.get(id)
    const entry = entries.find((e) => e.id === id)
    if (known || !entry || under.has(id)) return known ?? null
    const source = contents(entry.source.contentId)
    if (!source) return null
    under.add(id)
    const prepared = prepareOne(entry, entries, source, prepare)
    under.delete(id)
    done.set(id, prepared)
    return prepared
  }
  for (const entry of entries) prepare(entry.id)
  return done
}

/** Results of steps by source content, so that editing one thing does not redo the others. */
const memory = new WeakMap<Dataset, { key: string; result: Preparing }>()

function prepareOne(entry: DatasetEntry, entries: DatasetEntry[], source: Dataset, others: Others): Prepared {
  const active = entry.steps.filter((step) => step.on)
  const needs = active.map((step) => others(step.datasetId)?.dataset.rowCount ?? -1)
  const key = JSON.stringify([entry.id, active, needs])
  const known = memory.get(source)
  const result = known?.key === key ? known.result : active.reduce<Preparing>((from, step) => applyStep(step, from, others), sourceOf(entry.id, source))
  if (known?.key !== key) memory.set(source, { key, result })
  return { ...result, entry, fieldMeta: (field) => metaOf(result, entries, field) }
}

const sourceOf = (datasetId: string, dataset: Dataset): Preparing => ({ dataset, origins: new Map(dataset.fields.map(({ key }) => [key, { datasetId, key }])) })

function metaOf({ dataset, origins }: Preparing, entries: DatasetEntry[], field: string): FieldMeta {
  const origin = origins.get(field)
  const said = origin && entries.find((e) => e.id === origin.datasetId)?.fields[origin.key]
  if (said) return said
  const column = dataset.fields.find((f) => f.key === field)?.column
  return column ? proposeMeta(field, column) : { label: field || 'a field', unit: '', role: 'total' }
}

/** A name for each row: its name field, else its code, else its number. */
export function rowName({ dataset, fieldMeta }: Prepared, row: number): string {
  for (const role of ['name', 'code'] as const) {
    const field = dataset.fields.find((f) => fieldMeta(f.key).role === role)
    const text = field && textAt(field.column, row)
    if (text) return text
  }
  return `${row + 1}`
}
