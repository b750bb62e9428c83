import { readFile } from 'node:fs/promises'
import path from 'node:path'
import pLimit, { type LimitFunction } from 'p-limit'
import { laneProcesses, processMb, taskLimits, type Lane } from './limits'
import { lastWordsFile, TaskFailure, type TaskEnd } from './protocol'
import { isProcessGone, startRunner, type Runner } from './runner'
import { newScratch, removeScratch } from './scratch'
import type { TaskInput, TaskName, TaskResult } from './tasks/registry'

export type Following = {
  /** Aborting it ends the process of the task. */
  signal?: AbortSignal
  /** How long it may take once it has begun, in place of what is usual. */
  limitMs?: number
  onProgress?: (share: number, doing: string) => void
  /** Called whenever the place in the queue changes; 0 is next. */
  onWaiting?: (ahead: number) => void
}

type Waiting = { tell: (ahead: number) => void }
type LaneState = { inTurn: LimitFunction; rested: Runner[]; waiting: Waiting[] }

const newLane = (lane: Lane): LaneState => ({ inTurn: pLimit(laneProcesses[lane]), rested: [], waiting: [] })

// One pool for the server, also when modules are loaded again while developing.
const shared = globalThis as typeof globalThis & { keenPlotLanes?: Record<Lane, LaneState> }
const lanes = (shared.keenPlotLanes ??= {
  saves: newLane('saves'),
  short: newLane('short'),
  long: newLane('long'),
})

/** A process that ends by itself while it rests may do so just when it is asked; then another one is. */
const mostStarts = 3

/**
 * Carries out a task in a process of its own, with limits of memory and time, and hands its result to `take`
 * together with the folder in which it wrote. Whatever happens, that folder is gone afterwards.
 * @throws TaskFailure in words for the person; the signal's reason where it was aborted
 */
export async function carryOut<N extends TaskName, T>(
  name: N,
  input: TaskInput<N>,
  following: Following,
  take: (result: TaskResult<N>, scratch: string) => Promise<T>,
): Promise<T> {
  following.signal?.throwIfAborted()
  const { lane } = taskLimits[name]
  const ms = following.limitMs ?? taskLimits[name].ms
  const { inTurn, waiting } = lanes[lane]
  const place: Waiting = { tell: (ahead) => following.onWaiting?.(ahead) }
  waiting.push(place)
  if (inTurn.activeCount >= laneProcesses[lane]) place.tell(waiting.length - 1)
  const leaveQueue = (): void => {
    const at = waiting.indexOf(place)
    if (at >= 0) waiting.splice(at, 1)
    waiting.forEach(({ tell }, ahead) => tell(ahead))
  }
  const turn = inTurn(async () => {
    following.signal?.throwIfAborted()
    leaveQueue()
    const scratch = await newScratch()
    try {
      const end = await runWithin({ name, input, scratch, lane, ms }, following)
      following.signal?.throwIfAborted()
      if (end.ok) return await take(end.result as TaskResult<N>, scratch)
      if (!end.said) console.error(`${name}: ${end.message}`)
      throw new TaskFailure(end.said ? end.message : unforeseen, end.asks, end.said)
    } finally {
      await removeScratch(scratch)
    }
  })
  // Who is cancelled while waiting does not wait for the turn to come.
  const left = new Promise<never>((_, reject) => {
    following.signal?.addEventListener('abort', () => {
      if (!waiting.includes(place)) return
      leaveQueue()
      reject(following.signal?.reason)
    })
  })
  return Promise.race([turn, left])
}

const unforeseen =
  'This could not be carried out: something came up that was not foreseen. If it is about a file, the file may be damaged.'

type Run = { name: string; input: unknown; scratch: string; lane: Lane; ms: number }

async function runWithin(run: Run, { signal, onProgress }: Following): Promise<TaskEnd> {
  const { rested } = lanes[run.lane]
  for (let start = 1; ; start++) {
    const runner = rested.pop() ?? startRunner({ resident: run.lane === 'saves' })
    let late = false
    let killed = false
    const kill = () => {
      killed = true
      runner.kill()
    }
    let timer: NodeJS.Timeout | undefined
    signal?.addEventListener('abort', kill)
    try {
      const end = await runner.run(run, (event) => {
        if (event.type === 'progress') return onProgress?.(event.share, event.doing)
        // It may have been aborted before its process had a number.
        if (signal?.aborted) return kill()
        timer = setTimeout(() => {
          late = true
          kill()
        }, run.ms)
      })
      signal?.throwIfAborted()
      rested.push(runner)
      return end
    } catch (error) {
      signal?.throwIfAborted()
      if (!isProcessGone(error)) throw error
      if (late) throw new TaskFailure(`This took longer than ${durationWords(run.ms)} and was stopped.`)
      if (!error.hadStarted && !killed && start < mostStarts) continue
      throw new TaskFailure(await lastWords(run.scratch))
    } finally {
      clearTimeout(timer)
      signal?.removeEventListener('abort', kill)
    }
  }
}

const durationWords = (ms: number): string =>
  ms < 60_000 ? `${ms / 1000} seconds` : `${Math.round(ms / 60_000)} minutes`

async function lastWords(scratch: string): Promise<string> {
  const words = await readFile(path.join(scratch, lastWordsFile), 'utf8').catch(() => '')
  return words === 'memory'
    ? `This needs more memory than the ${processMb() / 1000} GB that one piece of work may take. If it is about a file, bring it in in smaller parts.`
    : 'The work broke off before it was finished. If it is about a file, the file may be damaged.'
}
