import path from 'node:path'
import { pool, type Pool } from 'workerpool'
import { heapMb } from './limits'
import type { TaskEnd, TaskEvent } from './protocol'

/** The processes' program is bundled beside the application by the build. */
const program = (): string => path.join(process.cwd(), 'dist', 'tasks', 'process.mjs')

/** How a process came to its end in the middle of a task. */
export class ProcessGone extends Error {
  override name = 'ProcessGone'
  constructor(readonly hadStarted: boolean) {
    super('The process ended before its task.')
  }
}

/**
 * Whether an error says so. It is known by its name: processes rest in one pool for the whole server, of which a build
 * has several copies of this class.
 */
export const isProcessGone = (error: unknown): error is ProcessGone =>
  error instanceof Error && error.name === 'ProcessGone' && 'hadStarted' in error

/** One process that carries out one task at a time, and that can be killed at any moment. */
export type Runner = {
  run: (
    task: { name: string; input: unknown; scratch: string },
    onEvent: (event: TaskEvent) => void,
  ) => Promise<TaskEnd>
  /** Ends the process; a task under way ends with ProcessGone. */
  kill: () => void
}

/** Starts a process; a `resident` one stays while it has nothing to do, and gives way to nobody. */
export function startRunner({ resident = false } = {}): Runner {
  const one: Pool = pool(program(), {
    workerType: 'process',
    maxWorkers: 1,
    workerTerminateTimeout: 100,
    forkOpts: {
      execArgv: [`--max-old-space-size=${heapMb()}`],
      serialization: 'advanced',
      // What the command line set for the server itself is not for its processes.
      env: { ...process.env, NODE_OPTIONS: '', KEEN_PLOT_RESIDENT: resident ? '1' : '' },
    },
  })
  let pid: number | null = null
  return {
    async run({ name, input, scratch }, onEvent) {
      let hadStarted = false
      try {
        return (await one.exec('carryOut', [name, input, scratch], {
          on: (event: TaskEvent) => {
            if (event.type === 'started') {
              hadStarted = true
              pid = event.pid
            }
            onEvent(event)
          },
        })) as TaskEnd
      } catch {
        throw new ProcessGone(hadStarted)
      }
    },
    kill() {
      if (pid === null) return void one.terminate(true)
      try {
        process.kill(pid, 'SIGKILL')
      } catch {
        // It is gone already.
      }
    },
  }
}
