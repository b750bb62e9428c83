'use client'
import { proxy } from 'comlink'
import type { DatasetEntry } from '@/core/data/entry'
import type { Chain, Doing } from '@/core/data/prepare'
import { createReceiver } from './parcels'
import type { PrepApi } from './prep.worker'
import { restarts } from './restarts'
import { supervise, WorkerStopped, type Supervised } from './supervised'

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

type Work = { prep: Supervised<PrepApi>; receive: ReturnType<typeof createReceiver> }
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
  const prep = supervise<PrepApi>(
    () => new Worker(new URL('./prep.worker.ts', import.meta.url), { type: 'module' }),
    restarts.tell,
  )
  return { prep, receive: createReceiver() }
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
    const answer = await mine.prep
      .calls()
      .prepare(entries, staged, tell)
      .catch((error: unknown) => failed(mine, error))
    over = true
    underWay = null
    if (answer === 'again') wish ??= { entries, staged }
    if (answer === 'again' || !answer) change({ doing: null })
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

/** A worker that died is left behind and asked again once it is started anew; one that was stopped is not. */
function failed(mine: Work, error: unknown): 'again' | null {
  const asked = work !== mine
  if (work === mine) work = null
  if (asked) return null
  if (error instanceof WorkerStopped) return 'again'
  change({ problem: error instanceof Error ? error.message : String(error) })
  return null
}

/** Stops what is under way; what was prepared before stays. */
export function stopPreparing(): void {
  if (!work) return
  const mine = work
  work = null
  wish = null
  mine.prep.stop()
}
