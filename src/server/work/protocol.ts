import type { Asks } from '@/core/data/reading'

/** What a task is given beside its input. */
export type TaskContext = {
  /** An empty folder for whatever it writes; it is removed when the task's owner has taken what it wants. */
  scratch: string
  /** `share` is between 0 and 1. */
  progress: (share: number, doing: string) => void
}

/** What a process says while it works. */
export type TaskEvent = { type: 'started'; pid: number } | { type: 'progress'; share: number; doing: string }

/** How a task ended. `said` tells whether the words are for the person. */
export type TaskEnd =
  { ok: true; result: unknown } | { ok: false; said: boolean; message: string; asks: Asks | null }

/** A task that could not be carried out, in words for the person who asked for it. */
export class TaskFailure extends Error {
  override name = 'TaskFailure'

  /** As a `Problem` it is known by its name: the pool is shared by pieces that have a class each. */
  static override [Symbol.hasInstance](one: unknown): boolean {
    return one instanceof Error && one.name === 'TaskFailure'
  }

  constructor(
    message: string,
    readonly asks: Asks | null = null,
    /** Whether the task itself judged what it was given; else it broke off, ran out of time or of memory. */
    readonly isJudgement = false,
  ) {
    super(message)
  }
}

/** The name of the file in which a process says why it ends itself. */
export const lastWordsFile = 'last-words'
export type LastWords = 'memory'
