import path from 'node:path'
import { Worker } from 'node:worker_threads'
import { nanoid } from 'nanoid'
import type { Asks } from '@/core/data/reading'
import type { JobMessage, JobTask } from './protocol'

/**
 * What is told of a job while it runs and when it has ended. `result` is what its owner made of the outcome.
 */
export type JobState =
  | { status: 'running'; share: number; doing: string }
  | { status: 'done'; result: unknown }
  | { status: 'failed'; message: string; asks?: Asks | null }
  | { status: 'cancelled' }

type Job = {
  state: JobState
  worker: Worker
  listeners: Set<(state: JobState) => void>
  cleanUp: () => Promise<void>
}

const shared = globalThis as typeof globalThis & { keenPlotJobs?: Map<string, Job> }
const jobs = (shared.keenPlotJobs ??= new Map<string, Job>())

/** The worker is bundled beside the application by the build. */
const workerFile = (): string => path.join(process.cwd(), 'dist', 'job-worker.mjs')

type Outcome = Extract<JobMessage, { type: 'imported' | 'printed' }>

/**
 * Starts a job in a worker thread. `finish` turns the outcome into the result; `cleanUp` runs however the job
 * ends.
 */
export function startJob(
  task: JobTask,
  finish: (outcome: Outcome) => Promise<unknown>,
  cleanUp: () => Promise<void>,
): string {
  const id = nanoid(12)
  const worker = new Worker(workerFile(), {
    workerData: task,
    resourceLimits: { maxOldGenerationSizeMb: 4096 },
  })
  const job: Job = {
    state: { status: 'running', share: 0, doing: 'Starting' },
    worker,
    listeners: new Set(),
    cleanUp,
  }
  jobs.set(id, job)
  let settled = false
  worker.on('message', (message: JobMessage) => {
    if (message.type === 'progress')
      return publish(job, { status: 'running', share: message.share, doing: message.doing })
    if (settled) return
    settled = true
    if (message.type === 'failed')
      return void end(id, job, { status: 'failed', message: message.message, asks: message.asks })
    finish(message).then(
      (result) => end(id, job, { status: 'done', result }),
      (error: unknown) =>
        end(id, job, { status: 'failed', message: error instanceof Error ? error.message : String(error) }),
    )
  })
  worker.on('error', (error) => {
    if (!settled) void end(id, job, { status: 'failed', message: error.message })
    settled = true
  })
  worker.on('exit', () => {
    if (!settled) void end(id, job, { status: 'failed', message: 'The work stopped before it was finished.' })
    settled = true
  })
  return id
}

function publish(job: Job, state: JobState): void {
  if (job.state.status !== 'running') return
  job.state = state
  for (const listener of job.listeners) listener(state)
}

async function end(id: string, job: Job, state: JobState): Promise<void> {
  await job.cleanUp().catch((error: unknown) => console.error(error))
  publish(job, state)
  // Late listeners still learn how it ended.
  setTimeout(() => jobs.delete(id), 60_000).unref()
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

export async function cancelJob(id: string): Promise<boolean> {
  const job = jobs.get(id)
  if (!job) return false
  publish(job, { status: 'cancelled' })
  await job.worker.terminate()
  await job.cleanUp()
  return true
}
