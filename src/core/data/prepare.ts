import { createMemory, numberOf } from '@/core/memory/memory'
import type { Dataset } from './dataset'
import type { DatasetEntry } from './entry'
import { proposeMeta, type FieldMeta } from './field-meta'
import { stepKindOf, stepNeeds, type PrepStep } from './steps/registry'
import { ownOrigins, StepProblem, type Preparing } from './steps/step'

/**
 * What became of one step: how many rows it left, what kept it from being carried out, and what else is to be
 * known.
 */
export type StepReport = {
  stepId: string
  rows: number
  problem: string | null
  remark: string | null
  note: string | null
}

/** A dataset after its prep steps, with what its fields are called. */
export type Prepared = Preparing & {
  entry: DatasetEntry
  reports: StepReport[]
  fieldMeta: (key: string) => FieldMeta
  /** Another dataset of the folio as it is after its steps. */
  datasetOf: (id: string) => Dataset | null
  datasetIds: readonly string[]
}

/** Stored rows and shapes by content id; null while they are not at hand. */
export type Contents = (contentId: string) => Dataset | null

/**
 * A dataset along its steps: `stages[i]` is what comes to step `i`; a step that is switched off or fails
 * passes on what came to it.
 */
export type Chain = { result: Preparing; reports: StepReport[]; stages: Preparing[] }

/** The step that is being carried out, and how much of it is done (0 to 1). */
export type Doing = { datasetId: string; stepId: string; share: number }

type Stage = { result: Preparing } & Pick<StepReport, 'problem' | 'remark' | 'note'>

/** Stages that were reckoned before, by what they come from and by everything else that they depend on. */
export type StageMemory = (owner: object, key: string, make: () => Stage) => Stage

/** For whoever prepares the same datasets again and again; others go without. */
export const createStageMemory = (maxBytes: number): StageMemory =>
  createMemory('prepared stages', { maxBytes })

const forgetful: StageMemory = (_, __, make) => make()

/**
 * Carries out the prep steps of all datasets whose contents are at hand, by id. A step that cannot be carried
 * out is passed over and reported; a dataset that would need itself is left without that step. Only what
 * changed is reckoned anew; `tell` hears of each step that is.
 */
export function carryOutSteps(
  entries: DatasetEntry[],
  contents: Contents,
  {
    tell = () => undefined,
    memory = forgetful,
  }: { tell?: (doing: Doing) => void; memory?: StageMemory } = {},
): Map<string, Chain> {
  const done = new Map<string, { last: Stage; chain: Chain }>()
  const under = new Set<string>()
  const prepare = (id: string): { last: Stage; chain: Chain } | null => {
    const known = done.get(id)
    const entry = entries.find((e) => e.id === id)
    if (known || !entry || under.has(id)) return known ?? null
    const source = contents(entry.source.contentId)
    if (!source) return null
    under.add(id)
    let stage: Stage = memory(source, id, () => ({
      result: { datasetId: id, dataset: source, origins: ownOrigins(id, source), made: new Map() },
      problem: null,
      remark: null,
      note: null,
    }))
    const chain: Chain = { result: stage.result, reports: [], stages: [stage.result] }
    for (const step of entry.steps) {
      if (step.on) {
        stage = carryOut(step, stage, {
          prepare,
          memory,
          tell: (share) => tell({ datasetId: id, stepId: step.id, share }),
        })
        chain.reports.push({
          stepId: step.id,
          rows: stage.result.dataset.rowCount,
          problem: stage.problem,
          remark: stage.remark,
          note: stage.note,
        })
      }
      chain.stages.push(stage.result)
    }
    under.delete(id)
    chain.result = stage.result
    const prepared = { last: stage, chain }
    done.set(id, prepared)
    return prepared
  }
  for (const entry of entries) prepare(entry.id)
  return new Map([...done].map(([id, { chain }]) => [id, chain]))
}

function carryOut(
  step: PrepStep,
  from: Stage,
  {
    prepare,
    memory,
    tell,
  }: {
    prepare: (id: string) => { last: Stage } | null
    memory: StageMemory
    tell: (share: number) => void
  },
): Stage {
  const others = new Map(stepNeeds(step).map((id) => [id, prepare(id)?.last ?? null]))
  const key = JSON.stringify([
    step.type,
    step.settings,
    [...others].map(([id, stage]) => [id, stage && numberOf(stage)]),
  ])
  return memory(from, key, () => {
    tell(0)
    const said = { remark: null as string | null, note: null as string | null }
    const sayingMore = (which: 'remark' | 'note') => (words: string) =>
      void (said[which] = [said[which], words].filter(Boolean).join(' '))
    const [remark, note] = [sayingMore('remark'), sayingMore('note')]
    try {
      return {
        result: stepKindOf(step.type).apply(
          step.settings,
          from.result,
          (id) => others.get(id)?.result ?? null,
          { tell, remark, note },
        ),
        problem: null,
        ...said,
      }
    } catch (error) {
      if (!(error instanceof StepProblem)) console.error(error)
      return {
        result: from.result,
        problem: error instanceof Error ? error.message : String(error),
        remark: null,
        note: null,
      }
    }
  })
}

/**
 * Prepared datasets with what the folio says of them now; entries whose steps were not carried out yet are
 * left out.
 */
export function describeChains(entries: DatasetEntry[], chains: Map<string, Chain>): Map<string, Prepared> {
  const datasetOf = (id: string) => chains.get(id)?.result.dataset ?? null
  return new Map(
    entries.flatMap((entry) => {
      const chain = chains.get(entry.id)
      return chain
        ? [
            [
              entry.id,
              described(chain.result, chain.reports, {
                entry,
                entries,
                datasetOf,
                datasetIds: [...chains.keys()],
              }),
            ] as const,
          ]
        : []
    }),
  )
}

/** The stages of one dataset, described in the same way. */
export const describeStages = (entry: DatasetEntry, entries: DatasetEntry[], { stages }: Chain): Prepared[] =>
  stages.map((stage) => described(stage, [], { entry, entries, datasetOf: () => null, datasetIds: [] }))

function described(
  result: Preparing,
  reports: StepReport[],
  {
    entry,
    entries,
    datasetOf,
    datasetIds,
  }: {
    entry: DatasetEntry
    entries: DatasetEntry[]
    datasetOf: Prepared['datasetOf']
    datasetIds: readonly string[]
  },
): Prepared {
  const metas = new Map<string, FieldMeta>()
  const fieldMeta = (field: string): FieldMeta => {
    const meta = metas.get(field) ?? metaOf(result, entries, field)
    metas.set(field, meta)
    return meta
  }
  return { ...result, entry, reports, fieldMeta, datasetOf, datasetIds }
}

/** Both at once, for whoever has all contents at hand. */
export const prepareDatasets = (entries: DatasetEntry[], contents: Contents): Map<string, Prepared> =>
  describeChains(entries, carryOutSteps(entries, contents))

function metaOf({ dataset, origins, made }: Preparing, entries: DatasetEntry[], field: string): FieldMeta {
  const origin = origins.get(field)
  const said = origin && entries.find((e) => e.id === origin.datasetId)?.fields[origin.key]
  if (said) return said
  const column = dataset.fields.find((f) => f.key === field)?.column
  return (
    made.get(field) ??
    (column ? proposeMeta(field, column) : { label: field || 'a field', unit: '', role: 'total' })
  )
}
