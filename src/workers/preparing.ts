'use client'
import { proxy, wrap, type Remote } from 'comlink'
import type { DatasetEntry } from '@/core/data/entry'
import type { Chain, Doing } from '@/core/data/prepare'
import { createReceiver } from './parcels'
import type { PrepApi } from './prep.worker'

/**
 * What is known of the prepared datasets: `of` are the entries they were prepared from; `doing` is set while
 * steps are carried out.
 */
export type Preparation = {
  of: DatasetEntry[] | null
  staged: string | null
  chains: Map<string, Chain>
  doing: (Doing & { since: number }) | null
  problem: string | null
}

type Work = { worker: Worker; api: Remote<PrepApi>; receive: ReturnType<typeof createReceiver> }
type Wish = { entries: DatasetEntry[]; staged: string | null }

let now: Preparation = { of: null, staged: null, chains: new Map(), doing: null, problem: null }
let work: Work | null = null
/** What is wanted next, and what is being worked on. */
let wish: Wish | null = null
let underWay: Wish | null = null
let running: Promise<void> | null = null
const listeners = new Set<() => void>()

function change(part: Partial<Preparation>): void {
  now = { ...now, ...part }
  for (const listener of listeners) listener()
}

export const preparation = {
  get: (): Preparation => now,
  subscribe(listener: () => void): () => void {
    listeners.add(listener)
    return () => listeners.delete(listener)
  },
}

function start(): Work {
  const worker = new Worker(new URL('./prep.worker.ts', import.meta.url), { type: 'module' })
  return { worker, api: wrap<PrepApi>(worker), receive: createReceiver() }
}

/**
 * Has the steps of datasets carried out in a worker; resolves when these, or later ones, are done. While it
 * works only the latest wish waits. `staged` is the dataset whose stages in between are wanted as well.
 */
export function prepare(entries: DatasetEntry[], staged: string | null = now.staged): Promise<void> {
  const asked = (other: Wish | null) => other?.entries === entries && other.staged === staged
  if (running && (asked(wish) || (!wish && asked(underWay)))) return running
  if (!wish && now.of === entries && now.staged === staged) return running ?? Promise.resolve()
  wish = { entries, staged }
  running ??= run().finally(() => (running = null))
  return running
}

async function run(): Promise<void> {
  while (wish) {
    const { entries, staged }: Wish = wish
    underWay = wish
    wish = null
    const mine = (work ??= start())
    const since = performance.now()
    // Progress comes by a way of its own and may arrive after the answer.
    let over = false
    const tell = proxy(
      (doing: Doing) =>
        void (!over && work === mine && change({ doing: { ...doing, since: now.doing?.since ?? since } })),
    )
    const answer = await Promise.race([mine.api.prepare(entries, staged, tell), stopped(mine)])
    over = true
    underWay = null
    if (!answer) change({ doing: null })
    else
      change({
        of: entries,
        staged,
        chains: mine.receive(answer.parcel),
        doing: null,
        problem: answer.problem,
      })
  }
}

const stops = new WeakMap<Work, () => void>()
const stopped = (mine: Work): Promise<null> => new Promise((resolve) => stops.set(mine, () => resolve(null)))

/** Stops what is under way; what was prepared before stays. */
export function stopPreparing(): void {
  if (!work) return
  const mine = work
  work = null
  wish = null
  mine.worker.terminate()
  stops.get(mine)?.()
}
