import {
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { open } from 'node:fs/promises'
import path from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { numberColumn } from '@/core/data/column'
import { calmProblem } from '../calm'
import { adoptContent, clearContents, contentFile } from '../contents'
import { closeOwn, database } from '../database'
import { downloadOf, type DownloadCard } from '../downloads'
import { listFolios, makeFolio, renameFolio } from '../folios'
import { endOf } from '../testing/jobs'
import { createFolio, newFolio, openFolio, saveFolio } from '../testing/folios'
import { keepSent } from '../sent-file'
import { newScratch } from '../work/scratch'
import { writePacked } from '../work/tasks/packed'
import { backupFile, backUpWhenDue, listBackups, makeBackup } from './backups'
import { sendCopy, startBringingBack, startPackingEverything } from './everything'
import { restoreBackup, restoreFrom } from './restore'
import { openDemo } from '../../../demo/open'

let folder = ''
const inFolder = (...names: string[]) => path.join(folder, ...names)
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'keen-backups-'))
  process.env.KEEN_PLOT_DATA = folder
})
afterEach(async () => {
  await closeOwn()
  rmSync(folder, { recursive: true, force: true, maxRetries: 5 })
})

const names = async () => (await listFolios(await database())).map(({ name }) => name).sort()
const problemOf = async (work: Promise<unknown>) =>
  calmProblem(
    await work.then(
      () => new Error('No problem was met.'),
      (error: unknown) => error,
    ),
  )
const rows = async (n: number) =>
  adoptContent(
    await database(),
    await writePacked(
      { rowCount: 1, fields: [{ key: 'a', column: numberColumn([n]) }], geometry: { kind: 'none' } },
      path.join(await newScratch(), 'rows'),
    ),
  )
/** A folio that refers to some rows. */
const holding = (name: string, contentId: string) => {
  const [entry] = openDemo().folio.datasets
  return { ...newFolio(name), datasets: [{ ...entry, source: { ...entry.source, contentId } }] }
}

describe('a backup', () => {
  it('is one file that holds what was there, is brought back, and so is what stood in its place', async () => {
    const db = await database()
    const first = await makeFolio(db, 'First')
    const { id, folios, reason } = await makeBackup(db, 'asked')
    expect([folios, reason]).toEqual([1, 'asked'])
    expect(readdirSync(inFolder('backups')).sort()).toEqual([`${id}.json`, `${id}.refs`, `${id}.sqlite`])
    await renameFolio(db, first.id, 'Renamed')
    await makeFolio(db, 'Second')
    expect(await restoreBackup(id)).toBeNull()
    expect(await names()).toEqual(['First'])
    // The same windows go on with it.
    await makeFolio(db, 'Third')
    expect(await names()).toEqual(['First', 'Third'])
    const before = (await listBackups()).find((one) => one.reason === 'restoring')
    await restoreBackup(before?.id ?? '')
    expect(await names()).toEqual(['Renamed', 'Second'])
  })

  it('is made once an hour, and not where nothing has changed', async () => {
    const db = await database()
    await makeFolio(db, 'One')
    const inHours = (hours: number) => backUpWhenDue(db, Date.now() + hours * 3_600_000)
    await inHours(0)
    await inHours(0)
    await inHours(2)
    expect(await listBackups()).toHaveLength(1)
    await makeFolio(db, 'Two')
    await inHours(0)
    expect(await listBackups()).toHaveLength(1)
    await inHours(2)
    expect((await listBackups()).map(({ folios }) => folios)).toEqual([2, 1])
  })

  it('keeps the rows that only it refers to', async () => {
    const db = await database()
    const [used, spare] = [await rows(1), await rows(2)]
    const { folio } = await createFolio(db, holding('Rows', used))
    const { id } = await makeBackup(db, 'asked')
    await db.revisions.destroy({ where: {} })
    await db.folios.destroy({ where: {} })
    await clearContents(db, Date.now() + 10 * 86_400_000)
    expect(existsSync(contentFile(used))).toBe(true)
    expect(() => contentFile(spare)).toThrow()
    await restoreBackup(id)
    expect((await openFolio(await database(), folio.id)).folio.datasets[0].source.contentId).toBe(used)
  })

  it('that is cut off or no database is refused, and nothing is changed', async () => {
    const db = await database()
    await makeFolio(db, 'Whole')
    const { id } = await makeBackup(db, 'asked')
    truncateSync(backupFile(id), 8192)
    expect((await problemOf(restoreBackup(id))).more.code).toBe('database-damaged')
    const other = inFolder('other')
    writeFileSync(other, 'no database at all, but as long as one might be '.repeat(100))
    expect((await problemOf(restoreFrom(other))).more.code).toBe('database-damaged')
    expect(await names()).toEqual(['Whole'])
  })
})

describe('a database that is lost', () => {
  /** What a server that was killed leaves: a database with a journal beside it. */
  const killed = async (damage: () => void) => {
    const db = await database()
    await makeFolio(db, 'Backed up')
    const { id } = await makeBackup(db, 'asked')
    await db.sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)')
    await makeFolio(db, 'Later')
    const wal = readFileSync(inFolder('keen-plot.sqlite-wal'))
    await closeOwn()
    writeFileSync(inFolder('keen-plot.sqlite-wal'), wal)
    damage()
    return id
  }

  it('by damage comes back from a backup, whose journal is not that of the damaged one', async () => {
    const junk = Buffer.alloc(30_000, 'junk ')
    const id = await killed(() => writeFileSync(inFolder('keen-plot.sqlite'), junk))
    expect((await problemOf(database())).more.code).toBe('database-damaged')
    const aside = await restoreBackup(id)
    expect(await names()).toEqual(['Backed up'])
    expect(readFileSync(inFolder(aside ?? '', 'keen-plot.sqlite')).includes('junk junk')).toBe(true)
  })

  it('by damage deep within is noticed when it is brought back', async () => {
    const db = await database()
    for (let i = 0; i < 30; i++) await makeFolio(db, `Folio ${i}`)
    const { id } = await makeBackup(db, 'asked')
    await closeOwn()
    const bytes = readFileSync(inFolder('keen-plot.sqlite'))
    bytes.fill(0xa5, bytes.length / 2)
    writeFileSync(inFolder('keen-plot.sqlite'), bytes)
    expect(await restoreBackup(id)).toContain('put-aside')
    expect(await names()).toHaveLength(30)
  })

  it('because it was taken away is not made anew; it comes back when it is put back', async () => {
    const id = await killed(() => renameSync(inFolder('keen-plot.sqlite'), inFolder('elsewhere')))
    expect(await problemOf(database())).toMatchObject({
      status: 503,
      title: 'The database is missing',
      more: { code: 'database-missing' },
    })
    expect(existsSync(inFolder('keen-plot.sqlite'))).toBe(false)
    renameSync(inFolder('elsewhere'), inFolder('keen-plot.sqlite'))
    expect(await names()).toContain('Backed up')
    await closeOwn()
    rmSync(inFolder('keen-plot.sqlite'))
    await restoreBackup(id)
    expect(await names()).toEqual(['Backed up'])
  })

  it('while it is open is said, read on from, copied out, and written again where it is put back', async () => {
    const db = await database()
    const { folio } = await createFolio(db, newFolio('Open'))
    renameSync(inFolder('keen-plot.sqlite'), inFolder('elsewhere'))
    const save = () => saveFolio(db, folio.id, { baseRevision: 1, folio, label: 'Saved', saveKey: 'k' })
    expect(await problemOf(save())).toMatchObject({ status: 503, more: { code: 'database-moved' } })
    expect(existsSync(inFolder('keen-plot.sqlite'))).toBe(false)
    expect(await names()).toEqual(['Open'])
    const copy = inFolder('copy.sqlite')
    writeFileSync(copy, new Uint8Array(await (await sendCopy(db)).arrayBuffer()))
    renameSync(inFolder('elsewhere'), inFolder('keen-plot.sqlite'))
    expect((await save()).revision).toBe(2)
    await restoreFrom(copy)
    expect((await openFolio(await database(), folio.id)).revision).toBe(1)
  })

  it('with its folder is not made anew either', async () => {
    const db = await database()
    const { folio } = await createFolio(db, newFolio('Open'))
    const moved = `${folder}-moved`
    renameSync(folder, moved)
    expect(
      await problemOf(saveFolio(db, folio.id, { baseRevision: 1, folio, label: 'Saved' })),
    ).toMatchObject({ more: { code: 'database-moved' } })
    expect((await problemOf(newScratch())).more.code).toBe('database-moved')
    expect(existsSync(folder)).toBe(false)
    const copy = await sendCopy(db)
    expect((await copy.arrayBuffer()).byteLength).toBe(Number(copy.headers.get('content-length')))
    renameSync(moved, folder)
    expect((await saveFolio(db, folio.id, { baseRevision: 1, folio, label: 'Saved' })).revision).toBe(2)
  })
})

describe('a copy of the database that nobody takes', () => {
  it('is closed once: what others have open meanwhile stays open', async () => {
    const db = await database()
    const rejected: unknown[] = []
    const hear = (reason: unknown) => void rejected.push(reason)
    process.on('unhandledRejection', hear)
    const others = []
    for (let i = 0; i < 20; i++) {
      const copy = await sendCopy(db)
      await copy.body?.cancel()
      // The number of a file that was closed is the next one's.
      others.push(await open(db.file))
    }
    await new Promise((resolve) => setTimeout(resolve, 100))
    for (const file of others) expect((await file.stat()).size).toBeGreaterThan(0)
    for (const file of others) await file.close()
    process.off('unhandledRejection', hear)
    expect(rejected).toEqual([])
  })
})

describe('a file of everything', () => {
  const packed = async () => {
    const ended = await endOf(await startPackingEverything(await database()))
    if (ended.status !== 'done') throw new Error(JSON.stringify(ended))
    return readFileSync(downloadOf((ended.result as DownloadCard).downloadId).file)
  }
  const bringBack = async (bytes: Uint8Array) =>
    endOf(
      startBringingBack(
        await keepSent(
          (async function* () {
            yield bytes
          })(),
        ),
      ),
    )

  it('brings all of it back on another machine, rows as well', async () => {
    const used = await rows(7)
    const { folio } = await createFolio(await database(), holding('Travels', used))
    const bytes = await packed()
    await closeOwn()
    const other = mkdtempSync(path.join(tmpdir(), 'keen-other-'))
    try {
      process.env.KEEN_PLOT_DATA = other
      await makeFolio(await database(), 'Was here')
      expect((await bringBack(bytes)).status).toBe('done')
      expect(await names()).toEqual(['Travels'])
      expect((await openFolio(await database(), folio.id)).folio.name).toBe('Travels')
      expect(existsSync(contentFile(used))).toBe(true)
      expect((await listBackups()).map(({ reason }) => reason)).toContain('restoring')
      await closeOwn()
    } finally {
      rmSync(other, { recursive: true, force: true, maxRetries: 5 })
      process.env.KEEN_PLOT_DATA = folder
    }
  })

  it('that is cut off, changed, or none is refused in words, and nothing is changed', async () => {
    const used = await rows(8)
    await createFolio(await database(), holding('Stays', used))
    const bytes = await packed()
    const changed = Buffer.from(bytes)
    const at = changed.indexOf(`datasets/${used}.pack`)
    changed[at + 512 + 20] ^= 1
    const cases: [Uint8Array, RegExp][] = [
      [bytes.subarray(0, bytes.length - 2048), /cut off|damaged/],
      [bytes.subarray(0, 20_000), /cut off|damaged/],
      [changed, /is not what it was/],
      [Buffer.from('no archive at all'), /no file of everything/],
      [Buffer.alloc(0), /no file of everything/],
    ]
    for (const [file, words] of cases) {
      const ended = await bringBack(file)
      expect(ended).toMatchObject({ status: 'failed', message: expect.stringMatching(words) })
    }
    expect(await names()).toEqual(['Stays'])
  })
})
