'use client'
import type { Remote } from 'comlink'
import type { Chain } from '@/core/data/prepare'
import { deltaOf } from '@/core/folio/delta'
import type { Folio } from '@/core/folio/schema'
import { createSender } from './parcels'
import { preparation, prepare } from './preparing'
import { restarts } from './restarts'
import type { SceneApi } from './scene.worker'
import { supervise, WorkerStopped } from './supervised'

const worker = supervise<SceneApi>(
  () => new Worker(new URL('./scene.worker.ts', import.meta.url), { type: 'module' }),
  () => {
    sent = null
    restarts.tell()
  },
)

/** What the worker was told last, by which all that follows is told. */
type Sent = {
  generation: number
  /** Which message it was: the worker takes a change only on top of the one before. */
  number: number
  folio: Folio
  chains: Map<string, Chain>
  pack: ReturnType<typeof createSender>
}

let sent: Sent | null = null
let arriving: Promise<void> = Promise.resolve()

/** Long steps are not waited for: what was prepared before is drawn until they are done. */
const patienceMs = 300

/**
 * Hands the folio to the worker with its prepared datasets; resolves when it has arrived. Only what changed
 * since the last time is sent. A worker that was started anew is told everything.
 */
async function sendFolio(folio: Folio): Promise<void> {
  const preparing = prepare(folio.datasets)
  if (preparation.get().of)
    await Promise.race([preparing, new Promise((resolve) => setTimeout(resolve, patienceMs))])
  else await preparing
  const { chains } = preparation.get()
  if (sent && sent.generation !== worker.generation()) sent = null
  if (sent?.folio === folio && sent.chains === chains) return arriving
  arriving = tell(folio, chains)
  return arriving
}

async function tell(folio: Folio, chains: Map<string, Chain>): Promise<void> {
  const before = sent
  const pack = before?.pack ?? createSender()
  // The stages in between are of no use for drawing.
  const bare = () => new Map([...chains].map(([id, chain]) => [id, { ...chain, stages: [] }]))
  const parcel = before?.chains === chains ? null : pack(bare())
  const calls = worker.calls()
  const number = (before?.number ?? 0) + 1
  const mine: Sent = { generation: worker.generation(), number, folio, chains, pack }
  sent = mine
  try {
    await (before
      ? calls.changeFolio(number, deltaOf(before.folio, folio), parcel)
      : calls.setFolio(number, folio, parcel ?? pack(bare())))
  } catch (error) {
    // Whatever arrived of it: the next message tells everything, so that this one spoils none after it.
    if (sent === mine) sent = null
    throw error
  }
}

/**
 * Asks the worker that composes and draws, once it has the folio. When it dies over the question, the one that
 * is started in its place is told everything and asked again, once.
 */
export async function ask<T>(folio: Folio, question: (worker: Remote<SceneApi>) => Promise<T>): Promise<T> {
  try {
    await sendFolio(folio)
    return await question(worker.calls())
  } catch (error) {
    if (!(error instanceof WorkerStopped)) throw error
    await sendFolio(folio)
    return question(worker.calls())
  }
}
