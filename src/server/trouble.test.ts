import { initialPrint } from '@/core/print/settings'
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { calmProblem } from './calm'
import { contentFile, contentFilesOf } from './contents'
import { writeDurably } from './write-durably'
import { openDatabase, type Database } from './database'
import { startExport } from './dataset-files'
import { addDemo } from './demo'
import { startSavingFile } from './folio-files'
import { createFolio, newFolio, opened, openFolio, saveFolio } from './testing/folios'
import { startPrint } from './prints'
import { onEveryConnection } from './testing/connections'

const folder = mkdtempSync(path.join(tmpdir(), 'keen-trouble-'))
let db: Database
beforeAll(async () => {
  process.env.KEEN_PLOT_DATA = folder
  db = await openDatabase(folder)
})
afterAll(async () => {
  await db.sequelize.close()
  rmSync(folder, { recursive: true, force: true, maxRetries: 5 })
})
const problemOf = async (work: Promise<unknown>) =>
  calmProblem(
    await work.then(
      () => new Error('No problem was met.'),
      (error: unknown) => error,
    ),
  )

it('a database that cannot be written to refuses saves calmly and takes them afterwards', async () => {
  const { folio } = await createFolio(db, newFolio('Read only'))
  const save = () => saveFolio(db, folio.id, { baseRevision: 1, folio, label: 'Saved', saveKey: 'k' })
  const release = onEveryConnection(db, 'PRAGMA query_only = 1')
  expect(await problemOf(save())).toMatchObject({
    status: 503,
    title: 'The data folder cannot be written to',
    more: { code: 'read-only' },
  })
  expect((await openFolio(db, folio.id)).revision).toBe(1)
  release()
  await db.sequelize.query('PRAGMA query_only = 0')
  expect((await save()).revision).toBe(2)
})

it('a database that is none is said to be damaged, and nothing is done to it', async () => {
  const other = path.join(folder, 'other')
  mkdirSync(other)
  const file = path.join(other, 'keen-plot.sqlite')
  const junk = Buffer.alloc(20_000, 'not a database at all ')
  writeFileSync(file, junk)
  expect(await problemOf(openDatabase(other))).toMatchObject({
    status: 503,
    title: 'The database is damaged',
    detail: expect.stringContaining('The shelf offers the backups'),
  })
  expect(readFileSync(file).equals(junk)).toBe(true)
})

it('rows that are missing from the store are named, whatever is wanted of them', async () => {
  const { facts, ...demo } = await addDemo(db)
  const { folio } = opened({ facts, ...demo })
  const [entry] = folio.datasets
  rmSync(contentFile(entry.source.contentId))
  const expected = {
    status: 410,
    title: `The rows of “${entry.name}” are missing from the store`,
    detail: expect.stringContaining(`Bring ${entry.source.fileName} in again`),
  }
  const print = { ...initialPrint, sheetId: folio.sheets[0].id }
  expect(await problemOf(startPrint(db, folio.id, print))).toMatchObject(expected)
  expect(await problemOf(startSavingFile(db, folio.id))).toMatchObject(expected)
  const form = { format: 'csv', names: 'short', crs: 'EPSG:4326' } as const
  const where = { folioId: folio.id, datasetId: entry.id }
  expect(await problemOf(startExport(db, where, form))).toMatchObject(expected)
  expect(() => contentFilesOf(facts)).toThrow('Bring')
  // The folio itself opens as before.
  expect((await openFolio(db, folio.id)).folio.name).toBe(folio.name)
})

it('a file that cannot be written whole leaves nothing of itself', async () => {
  const file = path.join(folder, 'datasets', 'x.pack')
  async function* untilFull(): AsyncGenerator<Uint8Array> {
    yield new Uint8Array(100_000)
    throw Object.assign(new Error('no space left on device'), { code: 'ENOSPC' })
  }
  expect(await problemOf(writeDurably(file, untilFull()))).toMatchObject({
    status: 507,
    more: { code: 'disk-full' },
  })
  expect(existsSync(file)).toBe(false)
  expect(readdirSync(path.dirname(file)).filter((name) => name.endsWith('.part'))).toEqual([])
})
