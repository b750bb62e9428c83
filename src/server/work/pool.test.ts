import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  utimesSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { numberColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { proposeMeta } from '@/core/data/field-meta'
import { writeDataset } from '@/formats/writers/registry'
import { laneProcesses } from './limits'
import { ownKey } from './owner'
import { carryOut } from './pool'
import { TaskFailure } from './protocol'
import { clearScratch, newScratch, removeScratch } from './scratch'

const folder = mkdtempSync(path.join(tmpdir(), 'keen-pool-'))
beforeAll(() => {
  process.env.KEEN_PLOT_DATA = folder
  process.env.KEEN_PLOT_TASK_MB = '500'
})
afterAll(() => rmSync(folder, { recursive: true, force: true, maxRetries: 5 }))

const file = (name: string, content: string | Uint8Array): string => {
  const at = path.join(folder, name)
  writeFileSync(at, content)
  return at
}
const scratchOf = () => {
  const own = path.join(folder, 'scratch', ownKey())
  return existsSync(own) ? readdirSync(own) : []
}
const importing = (at: string, more = {}) =>
  carryOut('importFile', { file: at, fileName: path.basename(at), options: {} }, more, async ({ datasets }) =>
    datasets.map(({ rowCount }) => rowCount),
  )

/** A table that takes a while to read. */
const long = `a,b\n${Array.from({ length: 900_000 }, (_, i) => `${i},x${i % 1000}`).join('\n')}\n`

describe('a task in a process of its own', () => {
  it('hands over its result and leaves nothing', async () => {
    expect(await importing(file('small.csv', 'a\n1\n2\n'))).toEqual([2])
    expect(scratchOf()).toEqual([])
  })

  it('that is refused says so in its own words; what was not foreseen in ours', async () => {
    const refused = importing(file('cut.geojson', '{"type":'))
    await expect(refused).rejects.toThrow('not complete JSON')
    await expect(refused).rejects.toMatchObject({ isJudgement: true })
    const gone = importing(path.join(folder, 'nowhere.csv'))
    await expect(gone).rejects.toBeInstanceOf(TaskFailure)
    await expect(gone).rejects.toMatchObject({ isJudgement: false })
    await expect(gone).rejects.not.toThrow('ENOENT')
    expect(scratchOf()).toEqual([])
  })

  it('ends at once when it is cancelled, wherever it is, again and again', async () => {
    const at = file('long.csv', long)
    for (const afterMs of [0, 20, 60, 150, 300, 500]) {
      const abort = new AbortController()
      const running = importing(at, { signal: abort.signal })
      setTimeout(() => abort.abort(), afterMs)
      await expect(running).rejects.toMatchObject({ name: 'AbortError' })
      expect(scratchOf()).toEqual([])
    }
    expect(await importing(file('after.csv', 'a\n1\n'))).toEqual([1])
  })

  it('ends at once when it is cancelled while it reads a database', async () => {
    const rowCount = 60_000
    const coords = Float64Array.from({ length: 2 * rowCount }, (_, i) => (i * 7) % 90)
    const points: Dataset = {
      rowCount,
      fields: [{ key: 'n', column: numberColumn(Array.from({ length: rowCount }, (_, i) => i)) }],
      geometry: {
        kind: 'points',
        coords,
        featureStarts: Uint32Array.from({ length: rowCount + 1 }, (_, i) => i),
      },
    }
    const fieldMeta = () => proposeMeta('n', numberColumn([]))
    const request = { dataset: points, name: 'p', fieldMeta, fieldNames: 'short', crs: 'EPSG:4326' } as const
    const at = file('points.gpkg', (await writeDataset('gpkg', request)).bytes)
    for (let afterMs = 0; afterMs < 600; afterMs += 60) {
      const abort = new AbortController()
      const running = importing(at, { signal: abort.signal })
      setTimeout(() => abort.abort(), afterMs)
      await expect(running).rejects.toMatchObject({ name: 'AbortError' })
      expect(scratchOf()).toEqual([])
    }
    expect(await importing(at)).toEqual([rowCount])
  })

  it('is begun again in another process where a resting one has ended, whichever copy of the code it came from', async () => {
    // As another part of a build has them: the same name, another class.
    class ProcessGone extends Error {
      override name = 'ProcessGone'
      readonly hadStarted = false
    }
    let asked = 0
    const ended = {
      run: () => {
        asked++
        return Promise.reject(new ProcessGone('The process ended before its task.'))
      },
      kill: () => undefined,
    }
    const { keenPlotLanes } = globalThis as unknown as { keenPlotLanes: { long: { rested: object[] } } }
    keenPlotLanes.long.rested.push(ended)
    expect(await importing(file('again.csv', 'a\n1\n'))).toEqual([1])
    expect(asked).toBe(1)
    expect(keenPlotLanes.long.rested).not.toContain(ended)
  })

  it('that takes too long is stopped, and the next one goes on', async () => {
    await expect(importing(file('slow.csv', long), { limitMs: 150 })).rejects.toThrow(
      'took longer than 0.15 seconds',
    )
    expect(await importing(file('next.csv', 'a\n1\n'))).toEqual([1])
    expect(scratchOf()).toEqual([])
  })

  it('that takes too much memory is stopped, says so, and the next one goes on', async () => {
    // Every cell another word: the words of 5 million cells are more than a process may hold.
    const rows = Array.from({ length: 600 }, (_, r) =>
      Array.from({ length: 8000 }, (__, c) => `${r}w${c}`).join(','),
    )
    const words = await importing(file('words.csv', `${rows.join('\n')}\n`)).catch((e: Error) => e.message)
    expect(words).toContain('more memory than the 0.5 GB')
    expect(await importing(file('then.csv', 'a\n1\n'))).toEqual([1])
    expect(scratchOf()).toEqual([])
  })

  it('that is cancelled while it waits is gone at once, and the others move up', async () => {
    const slow = file('busy.csv', long)
    const running = Array.from({ length: laneProcesses.long }, () => importing(slow))
    const abort = new AbortController()
    const places: number[] = []
    const waiting = importing(slow, { signal: abort.signal })
    const behind = importing(file('behind.csv', 'a\n1\n'), { onWaiting: (n: number) => places.push(n) })
    const began = performance.now()
    setTimeout(() => abort.abort(), 50)
    await expect(waiting).rejects.toMatchObject({ name: 'AbortError' })
    expect(performance.now() - began).toBeLessThan(400)
    expect(places.at(-1)).toBe(0)
    await Promise.all(running)
    expect(await behind).toEqual([1])
    expect(scratchOf()).toEqual([])
  })

  it('waits its turn with all others, and is told how many come before it', async () => {
    const at = file('turn.csv', 'a\n1\n')
    let most = 0
    const jobs = Array.from({ length: 50 }, () =>
      importing(at, { onWaiting: (ahead: number) => (most = Math.max(most, ahead)) }),
    )
    expect(await Promise.all(jobs)).toEqual(Array(50).fill([1]))
    expect(most).toBeGreaterThanOrEqual(49 - laneProcesses.long)
    expect(scratchOf()).toEqual([])
  })
})

describe('what servers that are gone left', () => {
  const place = path.join(folder, 'scratch')
  const datasets = path.join(folder, 'datasets')
  /** A server on the folder: whether it is alive is told by its file. */
  const server = (key: string, alive: object | null, ageMs = 0) => {
    const own = path.join(place, key)
    mkdirSync(path.join(own, 'task'), { recursive: true })
    mkdirSync(datasets, { recursive: true })
    writeFileSync(path.join(datasets, `a.pack.${key}-abcdefgh.part`), 'half')
    if (alive) writeFileSync(path.join(own, 'alive'), JSON.stringify(alive))
    const when = new Date(Date.now() - ageMs)
    for (const file of [path.join(own, 'alive'), own]) if (existsSync(file)) utimesSync(file, when, when)
  }

  it('is cleared away; what others are at stays, in other containers as well', async () => {
    const own = await newScratch()
    // Another container has other numbers of processes: there, one that does not run here is alive.
    server('container1', { pid: 4_194_300, place: 'elsewhere' })
    server('container2', { pid: 1, place: 'elsewhere' }, 3_600_000)
    server('beginning1', null)
    server('longgone11', null, 3_600_000)
    await clearScratch()
    const { place: here } = JSON.parse(readFileSync(path.join(place, ownKey(), 'alive'), 'utf8')) as {
      place: string
    }
    server('killed1111', { pid: 4_194_300, place: here })
    server('parent1111', { pid: process.ppid, place: here })
    mkdirSync(path.join(place, '4711'), { recursive: true })
    writeFileSync(path.join(datasets, 'b.pack.4711-x1.part'), 'half')
    for (const file of [path.join(place, '4711'), path.join(datasets, 'b.pack.4711-x1.part')])
      utimesSync(file, new Date(0), new Date(0))
    writeFileSync(path.join(datasets, 'whole.pack'), 'whole')
    await clearScratch()
    const alive = ['container1', 'beginning1', 'parent1111']
    expect(readdirSync(place).sort()).toEqual([...alive, ownKey()].sort())
    expect(readdirSync(datasets).sort()).toEqual(
      [...alive.map((key) => `a.pack.${key}-abcdefgh.part`), 'whole.pack'].sort(),
    )
    expect(existsSync(own)).toBe(true)
    await removeScratch(own)
  })
})
