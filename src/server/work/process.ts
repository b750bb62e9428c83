// A process of the pool: carries out one task after another, and ends itself where one takes too much.
import { setPriority } from 'node:os'
import { Worker } from 'node:worker_threads'
import workerpool from 'workerpool'
import { SaidError } from '@/core/said/said-error'
import { askedBy } from '@/formats/import-error'
import { calmProblem } from '../calm'
import { idleMs, processMb, restBytes } from './limits'
import { lastWordsFile, type TaskEnd, type TaskEvent } from './protocol'
import { tasks, type TaskName } from './tasks/registry'

/** The server answers first. */
const niceness = 10

/**
 * Looks at the memory of the whole process ten times a second, whatever its main thread is doing, and ends it
 * where it is too much, or where the server that it belongs to is gone.
 */
const watchSource = `
const { parentPort, workerData } = require('node:worker_threads')
const { writeFileSync } = require('node:fs')
let scratch = null
parentPort.on('message', (folder) => { scratch = folder })
setInterval(() => {
  if (process.ppid !== workerData.parent) process.kill(process.pid, 'SIGKILL')
  if (process.memoryUsage.rss() < workerData.maxBytes) return
  try { if (scratch) writeFileSync(scratch + '/${lastWordsFile}', 'memory') } catch {}
  process.kill(process.pid, 'SIGKILL')
}, 100)
`
const watch = new Worker(watchSource, {
  eval: true,
  workerData: { maxBytes: processMb() * 1_000_000, parent: process.ppid },
})
watch.unref()

const tell = (event: TaskEvent): void => workerpool.workerEmit(event)

const isResident = process.env.KEEN_PLOT_RESIDENT === '1'
let idle: NodeJS.Timeout | undefined
const rest = (): void => {
  const isLarge = process.memoryUsage.rss() > restBytes
  // A moment later, so that the answer is on its way.
  if (isLarge || !isResident) idle = setTimeout(() => process.exit(0), isLarge ? 20 : idleMs)
}

/** What is wrong with a file is said by its reader; what is wrong with the disk is known by its code. */
function wordsOf(error: unknown): { said: boolean; message: string } {
  if (error instanceof SaidError) return { said: true, message: error.message }
  const { title, detail, more } = calmProblem(error)
  return more.code
    ? { said: true, message: `${title}. ${detail}` }
    : { said: false, message: error instanceof Error ? error.message : String(error) }
}

async function carryOut(name: TaskName, input: unknown, scratch: string): Promise<TaskEnd> {
  clearTimeout(idle)
  watch.postMessage(scratch)
  // Whatever a library writes beside goes with the folder of the task.
  process.env.TMPDIR = scratch
  tell({ type: 'started', pid: process.pid })
  try {
    const task = (await tasks[name]()) as (given: unknown, context: object) => Promise<unknown>
    const progress = (share: number, doing: string) => tell({ type: 'progress', share, doing })
    return { ok: true, result: await task(input, { scratch, progress }) }
  } catch (error) {
    const said = error instanceof SaidError
    if (!said || error.cause) console.error(error)
    return { ok: false, ...wordsOf(error), asks: askedBy(error) }
  } finally {
    watch.postMessage(null)
    rest()
  }
}

if (!isResident) setPriority(niceness)
workerpool.worker({ carryOut })
rest()
