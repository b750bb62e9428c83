import { availableParallelism } from 'node:os'
import type { TaskName } from './tasks/registry'

const minute = 60_000

/** Memory that a process may hold while it carries out one task, everything included, in megabytes. */
export const processMb = (): number => Number(process.env.KEEN_PLOT_TASK_MB ?? 1500)

/** Its heap of values ends a little before, so that it is tidied harder when the end is near. */
export const heapMb = (): number => Math.round(processMb() * 0.93)

/** A process that holds more than this when its task is done makes way for a fresh one. */
export const restBytes = 500_000_000
/** A process without work ends after so long. */
export const idleMs = 2 * minute

/** Where a task waits: short ones do not stand behind long ones, and saves behind nothing else. */
export type Lane = 'saves' | 'short' | 'long'
export const laneProcesses: Record<Lane, number> = {
  saves: 1,
  short: 2,
  long: Math.max(2, Math.min(4, availableParallelism() - 1)),
}

/** How long each task may take once it has begun, and which lane it goes. */
export const taskLimits: Record<TaskName, { lane: Lane; ms: number }> = {
  importFile: { lane: 'long', ms: 20 * minute },
  checkBorders: { lane: 'long', ms: 20 * minute },
  printSheet: { lane: 'long', ms: 20 * minute },
  exportDataset: { lane: 'long', ms: 20 * minute },
  openFolioFile: { lane: 'long', ms: 10 * minute },
  saveFolioFile: { lane: 'long', ms: 10 * minute },
  packEverything: { lane: 'long', ms: 60 * minute },
  readEverything: { lane: 'long', ms: 60 * minute },
  checkSave: { lane: 'saves', ms: minute / 6 },
  readDocument: { lane: 'short', ms: minute / 3 },
  readTemplate: { lane: 'short', ms: minute / 3 },
  readTemplates: { lane: 'short', ms: minute / 3 },
  writeTemplate: { lane: 'short', ms: minute / 3 },
  readPicture: { lane: 'short', ms: minute / 2 },
  firstRows: { lane: 'short', ms: minute },
}
