import type { Remote } from 'comlink'
import { describe, expect, it } from 'vitest'
import { supervise, WorkerStopped, type Watched } from './supervised'

type Api = { add: (n: number) => number; wait: () => number }

/** A worker that counts what it is told, and dies when asked to. */
function stage() {
  const workers: { die: (words: string) => void; ended: boolean }[] = []
  let deaths = 0
  const start = (): Watched => {
    const listeners: ((event: Event) => void)[] = []
    const one = {
      ended: false,
      die: (words: string) => listeners.forEach((hear) => hear({ message: words } as unknown as Event)),
    }
    workers.push(one)
    return {
      terminate: () => void (one.ended = true),
      postMessage: () => undefined,
      addEventListener: (type: string, hear: unknown) => {
        if (type === 'error') listeners.push(hear as (event: Event) => void)
      },
    }
  }
  const connect = (): Remote<Api> => {
    let sum = 0
    return {
      add: (n: number) => Promise.resolve((sum += n)),
      wait: () => new Promise(() => undefined),
    } as unknown as Remote<Api>
  }
  const supervised = supervise<Api>(start, () => deaths++, connect)
  return { supervised, workers, deaths: () => deaths }
}

describe('a worker that is watched over', () => {
  it('is started with the first call, once', async () => {
    const { supervised, workers } = stage()
    expect(workers).toHaveLength(0)
    expect(await supervised.calls().add(2)).toBe(2)
    expect(await supervised.calls().add(3)).toBe(5)
    expect(workers).toHaveLength(1)
  })

  it('that dies fails what is under way, and a new one with nothing told answers the next call', async () => {
    const { supervised, workers, deaths } = stage()
    await supervised.calls().add(2)
    const before = supervised.generation()
    const waiting = supervised.calls().wait()
    workers[0].die('out of memory')
    await expect(waiting).rejects.toThrow(WorkerStopped)
    expect([workers[0].ended, deaths()]).toEqual([true, 1])
    expect(supervised.generation()).toBe(before + 1)
    expect(await supervised.calls().add(3)).toBe(3)
    expect(supervised.generation()).toBe(before + 1)
    expect(workers).toHaveLength(2)
  })

  it('that dies again and again without an answer says so', async () => {
    const { supervised, workers } = stage()
    for (const time of [0, 1]) {
      const waiting = supervised.calls().wait()
      workers[time].die('no such file')
      await expect(waiting).rejects.toThrow(WorkerStopped)
    }
    const waiting = supervised.calls().wait()
    workers[2].die('no such file')
    await expect(waiting).rejects.not.toThrow(WorkerStopped)
  })

  it('stopped on purpose is no death', async () => {
    const { supervised, deaths } = stage()
    const waiting = supervised.calls().wait()
    supervised.stop()
    await expect(waiting).rejects.toThrow('The work was stopped.')
    expect(deaths()).toBe(0)
  })
})
