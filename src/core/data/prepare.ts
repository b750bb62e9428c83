import type { Dataset } from './dataset'
import type { DatasetEntry } from './entry'
import { proposeMeta, type FieldMeta } from './field-meta'
import { textAt, type Column } from './column'
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
  const metas = new Map<string, FieldMeta>()
  const fieldMeta = (field: string): FieldMeta => {
    const meta = metas.get(field) ?? metaOf(result, entries, field)
    metas.set(field, meta)
    return meta
  }
  return { ...result, entry, fieldMeta }
}

const sourceOf = (datasetId: string, dataset: Dataset): Preparing => ({ dataset, origins: new Map(dataset.fields.map(({ key }) => [key, { datasetId, key }])) })

function metaOf({ dataset, origins }: Preparing, entries: DatasetEntry[], field: string): FieldMeta {
  const origin = origins.get(field)
  const said = origin && entries.find((e) => e.id === origin.datasetId)?.fields[origin.key]
  if (said) return said
  const column = dataset.fields.find((f) => f.key === field)?.column
  return column ? proposeMeta(field, column) : { label: field || 'a field', unit: '', role: 'total' }
}

const nameColumns = new WeakMap<Prepared, Column[]>()

/** A name for each row: its name field, else its code, else its number. */
export function rowName(prepared: Prepared, row: number): string {
  const columns = nameColumns.get(prepared) ?? namingColumns(prepared)
  nameColumns.set(prepared, columns)
  for (const column of columns) {
    const text = textAt(column, row)
    if (text) return text
  }
  return `${row + 1}`
}

const namingColumns = ({ dataset, fieldMeta }: Prepared): Column[] =>
  (['name', 'code'] as const).flatMap((role) => dataset.fields.find((field) => fieldMeta(field.key).role === role)?.column ?? [])
