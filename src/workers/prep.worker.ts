import './no-eval'
import { expose } from 'comlink'
import type { Dataset } from '@/core/data/dataset'
import type { DatasetEntry } from '@/core/data/entry'
import { carryOutSteps, createStageMemory, type Doing } from '@/core/data/prepare'
import { unpackDataset } from '@/formats/pack/pack'
import { createSender, type Parcel } from './parcels'
import { withFetchedTiles } from './fetched-tiles'

const loading = new Map<string, Promise<Dataset>>()
const loaded = new Map<string, Dataset>()
const send = createSender()
const memory = createStageMemory(256 * 2 ** 20)

function load(id: string): Promise<Dataset> {
  const known = loading.get(id)
  if (known) return known
  const work = fetch(`/api/contents/${id}`).then(async (response) => {
    if (!response.ok) throw new Error('The rows of a dataset could not be loaded.')
    const dataset = await withFetchedTiles(unpackDataset(new Uint8Array(await response.arrayBuffer())), id)
    loaded.set(id, dataset)
    return dataset
  })
  loading.set(id, work)
  work.catch(() => loading.delete(id))
  return work
}

const betweenTellsMs = 100

/**
 * Carries out the prep steps of all datasets whose rows can be loaded; `problem` says what could not. The
 * stages in between are sent for the dataset `staged` only.
 */
async function prepare(
  entries: DatasetEntry[],
  staged: string | null,
  tell: (doing: Doing) => void,
): Promise<{ parcel: Parcel; problem: string | null }> {
  const arrived = await Promise.allSettled(entries.map(({ source }) => load(source.contentId)))
  const failed = arrived.find((result) => result.status === 'rejected')
  let [told, step] = [0, '']
  const chains = carryOutSteps(entries, (id) => loaded.get(id) ?? null, {
    memory,
    tell: (doing) => {
      const now = Date.now()
      if (doing.stepId === step && now - told < betweenTellsMs) return
      ;[told, step] = [now, doing.stepId]
      tell(doing)
    },
  })
  for (const [id, chain] of chains) if (id !== staged) chains.set(id, { ...chain, stages: [] })
  const used = new Set(entries.map(({ source }) => source.contentId))
  for (const id of loaded.keys()) if (!used.has(id)) drop(id)
  return {
    parcel: send(chains),
    problem: failed ? String(failed.reason instanceof Error ? failed.reason.message : failed.reason) : null,
  }
}

/** Sources that were read anew stay for a while, for undo; the oldest go first. */
const keptSources = 12
const spare: string[] = []
function drop(id: string): void {
  if (!spare.includes(id)) spare.push(id)
  if (spare.length <= keptSources) return
  const oldest = spare.shift() as string
  loaded.delete(oldest)
  loading.delete(oldest)
}

const prepApi = { prepare }
export type PrepApi = typeof prepApi

expose(prepApi)
