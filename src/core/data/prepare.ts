import type { Dataset } from './dataset'
import type { DatasetEntry } from './entry'
import { proposeMeta, type FieldMeta } from './field-meta'
import { textAt, type Column } from './column'
import { stepKindOf, stepNeeds, type PrepStep } from './steps/registry'
import { ownOrigins, StepProblem, type Preparing } from './steps/step'

/** What became of one step: how many rows it left, or what kept it from being carried out. */
export type StepReport = { stepId: string; rows: number; problem: string | null }

/** A dataset after its prep steps, with what its fields are called. */
export type Prepared = Preparing & { entry: DatasetEntry; reports: StepReport[]; fieldMeta: (key: string) => FieldMeta }

/** Stored rows and shapes by content id; null while they are not at hand. */
export type Contents = (contentId: string) => Dataset | null

type Stage = { key: string; result: Preparing; problem: string | null }

const identities = new WeakMap<Dataset, number>()
let identified = 0

/** A number for each source, so that stages can be told apart by what they were made from. */
function identityOf(source: Dataset): number {
  const identity = identities.get(source) ?? ++identified
  identities.set(source, identity)
  return identity
}

/** Stages that were reckoned before, by everything that they depend on; the latest are kept. */
const memory = new Map<string, Stage>()
const kept = 120

function remembered(key: string, reckon: () => Omit<Stage, 'key'>): Stage {
  const known = memory.get(key)
  if (known) {
    memory.delete(key)
    memory.set(key, known)
    return known
  }
  const stage = { key, ...reckon() }
  memory.set(key, stage)
  if (memory.size > kept) memory.delete(memory.keys().next().value as string)
  return stage
}

/**
 * All datasets that can be prepared with the contents at hand, by id. A step that cannot be carried out is passed
 * over and reported; a dataset that would need itself is left without that step. Only what changed is reckoned anew.
 */
export function prepareDatasets(entries: DatasetEntry[], contents: Contents): Map<string, Prepared> {
  const done = new Map<string, { last: Stage; prepared: Prepared }>()
  const under = new Set<string>()
  const prepare = (id: string): { last: Stage; prepared: Prepared } | null => {
    const known = done.get(id)
    const entry = entries.find((e) => e.id === id)
    if (known || !entry || under.has(id)) return known ?? null
    const source = contents(entry.source.contentId)
    if (!source) return null
    under.add(id)
    let stage = remembered(`${id} ${identityOf(source)}`, () => ({ result: { datasetId: id, dataset: source, origins: ownOrigins(id, source), made: new Map() }, problem: null }))
    const reports: StepReport[] = []
    for (const step of entry.steps) {
      if (!step.on) continue
      stage = carryOut(step, stage, prepare)
      reports.push({ stepId: step.id, rows: stage.result.dataset.rowCount, problem: stage.problem })
    }
    under.delete(id)
    const { result } = stage
    const metas = new Map<string, FieldMeta>()
    const fieldMeta = (field: string): FieldMeta => {
      const meta = metas.get(field) ?? metaOf(result, entries, field)
      metas.set(field, meta)
      return meta
    }
    const found = { last: stage, prepared: { ...result, entry, reports, fieldMeta } }
    done.set(id, found)
    return found
  }
  for (const entry of entries) prepare(entry.id)
  return new Map([...done].map(([id, { prepared }]) => [id, prepared]))
}

function carryOut(step: PrepStep, from: Stage, prepare: (id: string) => { last: Stage } | null): Stage {
  const others = new Map(stepNeeds(step).map((id) => [id, prepare(id)?.last ?? null]))
  const key = JSON.stringify([from.key, step.type, step.settings, [...others].map(([id, stage]) => [id, stage?.key ?? null])])
  return remembered(key, () => {
    try {
      return { result: stepKindOf(step.type).apply(step.settings, from.result, (id) => others.get(id)?.result ?? null), problem: null }
    } catch (error) {
      if (!(error instanceof StepProblem)) console.error(error)
      return { result: from.result, problem: error instanceof Error ? error.message : String(error) }
    }
  })
}

function metaOf({ dataset, origins, made }: Preparing, entries: DatasetEntry[], field: string): FieldMeta {
  const origin = origins.get(field)
  const said = origin && entries.find((e) => e.id === origin.datasetId)?.fields[origin.key]
  if (said) return said
  const column = dataset.fields.find((f) => f.key === field)?.column
  return made.get(field) ?? (column ? proposeMeta(field, column) : { label: field || 'a field', unit: '', role: 'total' })
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
