import { wrap, type Remote } from 'comlink'

/** A call that was under way when its worker died, or was stopped. Asked again it is answered by a new one. */
export class WorkerStopped extends Error {
  override name = 'WorkerStopped'
}

/** As much of a worker as is needed to watch over it. */
export type Watched = Pick<Worker, 'terminate' | 'addEventListener' | 'postMessage'>

export type Supervised<Api> = {
  /** The worker's calls; the worker is started with the first one. */
  calls: () => Remote<Api>
  /** A number that changes with every start: what an older worker was told, the new one does not know. */
  generation: () => number
  /** Ends the worker. Calls under way fail with `WorkerStopped`; the next call starts a new one. */
  stop: () => void
}

type Running = { worker: Watched; fail: Set<(error: Error) => void>; calls: unknown }

/**
 * Watches over a worker: when it dies, whoever waits for it is told, and the next call starts it again. `died`
 * hears of every death that nobody asked for. A worker that fails without doing anything in between is not
 * started for ever: the third failure in a row is passed on as it is.
 */
export function supervise<Api>(
  start: () => Watched,
  died: () => void = () => undefined,
  connect: (worker: Watched) => Remote<Api> = (worker) => wrap<Api>(worker as Worker),
): Supervised<Api> {
  let running: Running | null = null
  let generation = 0
  let failures = 0

  function end(one: Running, error: Error): void {
    if (running === one) running = null
    one.worker.terminate()
    for (const fail of one.fail) fail(error)
    one.fail.clear()
  }

  function begin(): Running {
    const worker = start()
    const one: Running = { worker, fail: new Set(), calls: null }
    const onDeath = (event: Event): void => {
      if (running !== one) return
      event.preventDefault?.()
      failures++
      const words = 'message' in event && event.message ? String(event.message) : 'The worker stopped.'
      end(one, failures < 3 ? new WorkerStopped(words) : new Error(words))
      died()
    }
    worker.addEventListener('error', onDeath)
    worker.addEventListener('messageerror', onDeath)
    one.calls = guarded(connect(worker), one)
    generation++
    return one
  }

  /** Every call also ends when the worker does. */
  const guarded = (remote: Remote<Api>, one: Running): unknown =>
    new Proxy(
      {},
      {
        get:
          (_, name: string) =>
          (...args: unknown[]): Promise<unknown> =>
            new Promise((resolve, reject) => {
              one.fail.add(reject)
              const call = (remote as Record<string, (...args: unknown[]) => Promise<unknown>>)[name](...args)
              call.then(
                (value) => {
                  failures = 0
                  one.fail.delete(reject)
                  resolve(value)
                },
                (error: unknown) => {
                  one.fail.delete(reject)
                  reject(error as Error)
                },
              )
            }),
      },
    )

  return {
    calls: () => (running ??= begin()).calls as Remote<Api>,
    generation: () => generation + (running ? 0 : 1),
    stop: () => void (running && end(running, new WorkerStopped('The work was stopped.'))),
  }
}
