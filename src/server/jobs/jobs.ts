import { nanoid } from 'nanoid'
import type { Asks } from '@/core/data/reading'
import { calmProblem } from '../calm'
import { carryOut } from '../work/pool'
import { TaskFailure } from '../work/protocol'
import type { TaskInput, TaskName, TaskResult } from '../work/tasks/registry'

/**
 * What is told of a job while it waits, runs, and when it has ended. `result` is what its owner made of the
 * outcome; `ahead` jobs come before it.
 */
export type JobState =
  | { status: 'waiting'; ahead: number }
  | { status: 'running'; share: number; doing: string }
  | { status: 'done'; result: unknown }
  | { status: 'failed'; message: string; asks?: Asks | null }
  | { status: 'cancelled' }

type Job = {
  state: JobState
  listeners: Set<(state: JobState) => void>
  abort: AbortController
  ended: Promise<void>
}

const shared = globalThis as typeof globalThis & { keenPlotJobs?: Map<string, Job> }
const jobs = (shared.keenPlotJobs ??= new Map<string, Job>())

/** So long late listeners still learn how a job ended. */
const rememberedMs = 60_000

const hasEnded = ({ status }: JobState): boolean => status !== 'running' && status !== 'waiting'

/**
 * Starts a task as a job. `finish` turns its result into what is told, while the folder in which the task
 * wrote is still there; `undo` takes that back where the job was cancelled meanwhile; `cleanUp` runs however the job
 * ends. Returns the job's id.
 */
export function startJob<N extends TaskName, Told>(
  { name, input }: { name: N; input: TaskInput<N> },
  finish: (result: TaskResult<N>) => Promise<Told>,
  {
    undo = async () => undefined,
    cleanUp = async () => undefined,
  }: { undo?: (told: Told) => Promise<void>; cleanUp?: () => Promise<void> } = {},
): string {
  const id = nanoid(12)
  const abort = new AbortController()
  const job: Job = {
    state: { status: 'running', share: 0, doing: 'Starting' },
    listeners: new Set(),
    abort,
    ended: Promise.resolve(),
  }
  jobs.set(id, job)
  const following = {
    signal: abort.signal,
    onProgress: (share: number, doing: string) => publish(job, { status: 'running', share, doing }),
    onWaiting: (ahead: number) => publish(job, { status: 'waiting', ahead }),
  }
  job.ended = carryOut(name, input, following, finish)
    .then(
      async (result): Promise<JobState> => {
        if (!abort.signal.aborted) return { status: 'done', result }
        await undo(result).catch((error: unknown) => console.error(error))
        return { status: 'cancelled' }
      },
      (error: unknown): JobState => (abort.signal.aborted ? { status: 'cancelled' } : failureOf(error)),
    )
    .then(async (state) => {
      await cleanUp().catch((error: unknown) => console.error(error))
      publish(job, state)
      setTimeout(() => jobs.delete(id), rememberedMs).unref()
    })
  return id
}

function failureOf(error: unknown): JobState {
  if (error instanceof TaskFailure) return { status: 'failed', message: error.message, asks: error.asks }
  const { title, detail } = calmProblem(error)
  return { status: 'failed', message: [title, detail].filter(Boolean).join('. ') }
}

function publish(job: Job, state: JobState): void {
  if (hasEnded(job.state)) return
  job.state = state
  for (const listener of job.listeners) listener(state)
}

/**
 * Calls `listen` with the present state and every later one; returns a function that stops it, or null for no
 * such job.
 */
export function watchJob(id: string, listen: (state: JobState) => void): (() => void) | null {
  const job = jobs.get(id)
  if (!job) return null
  listen(job.state)
  job.listeners.add(listen)
  return () => job.listeners.delete(listen)
}

/** Ends a job and waits until nothing of it is left; false for no such job. */
export async function cancelJob(id: string): Promise<boolean> {
  const job = jobs.get(id)
  if (!job) return false
  publish(job, { status: 'cancelled' })
  job.abort.abort()
  await job.ended
  return true
}
