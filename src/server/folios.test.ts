import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openDatabase, type Database } from './database'
import { addDemo, ensureDemo } from './demo'
import { recoverFolio } from './documents'
import {
  deleteFolio,
  duplicateFolio,
  getThumbnail,
  listFolios,
  listRevisions,
  renameFolio,
  restoreFolio,
} from './folios'
import { createFolio, newFolio, opened, openFolio, openRevision, saveFolio } from './testing/folios'
import { lookThroughDocuments } from './watch'
import { calmProblem } from './calm'
import { Problem } from './problem'
import { numberColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import type { Folio } from '@/core/folio/schema'
import { unpackDataset } from '@/formats/pack/pack'
import { adoptContent, clearContents, contentFile } from './contents'
import { startOpening, startSavingFile } from './folio-files'
import { keepSent } from './sent-file'
import { downloadOf, type DownloadCard } from './downloads'
import { onEveryConnection } from './testing/connections'
import { endOf } from './testing/jobs'
import { newScratch } from './work/scratch'
import { writePacked } from './work/tasks/packed'

const folder = mkdtempSync(path.join(tmpdir(), 'keen-server-'))
let db: Database
beforeAll(async () => {
  process.env.KEEN_PLOT_DATA = folder
  db = await openDatabase(folder)
})
afterAll(async () => {
  await db.sequelize.close()
  rmSync(folder, { recursive: true })
})

const made = (name: string) => createFolio(db, newFolio(name))
const problem = async (work: Promise<unknown>): Promise<Problem> => {
  const error = await work.then(
    () => null,
    (e: unknown) => e,
  )
  if (!(error instanceof Problem)) throw new Error(`No problem was met: ${String(error)}`)
  return error
}

describe('the database', () => {
  it('keeps a journal, waits for the disk and checks references', async () => {
    const pragma = async (name: string) =>
      Object.values(((await db.sequelize.query(`PRAGMA ${name}`))[0] as object[])[0])[0]
    expect(await pragma('journal_mode')).toBe('wal')
    expect(await pragma('synchronous')).toBe(2)
    await expect(
      db.revisions.create({
        folioId: 'nowhere',
        number: 1,
        kind: 'saved',
        label: '',
        document: '{}',
        savedAt: new Date(),
      }),
    ).rejects.toThrow(/FOREIGN KEY/)
  })

  it('is brought up to date once, and opened again as it is', async () => {
    const again = await openDatabase(folder)
    expect(await again.folios.count()).toBe(await db.folios.count())
    await again.sequelize.close()
  })
})

describe('saving', () => {
  it('counts revisions up and keeps each', async () => {
    const { folio } = await made('One')
    await saveFolio(db, folio.id, { baseRevision: 1, folio: { ...folio, author: 'A' }, label: 'Author' })
    await saveFolio(db, folio.id, { baseRevision: 2, folio: { ...folio, author: 'B' }, label: 'Author' })
    expect((await openFolio(db, folio.id)).revision).toBe(3)
    const revisions = await listRevisions(db, folio.id)
    expect(revisions.map((r) => [r.number, r.label])).toEqual([
      [3, 'Author'],
      [2, 'Author'],
      [1, 'Made'],
    ])
    expect((await openRevision(db, folio.id, revisions[1].id)).author).toBe('A')
  })

  it('against an old revision is refused, overwrites nothing and keeps what was sent, once', async () => {
    const { folio } = await made('Two')
    await saveFolio(db, folio.id, { baseRevision: 1, folio: { ...folio, author: 'first' }, label: 'x' })
    for (let i = 0; i < 2; i++) {
      const refused = await problem(
        saveFolio(db, folio.id, { baseRevision: 1, folio: { ...folio, author: 'late' }, label: 'x' }),
      )
      expect(refused).toMatchObject({ status: 409, more: { revision: 2 } })
    }
    expect((await openFolio(db, folio.id)).folio.author).toBe('first')
    const kept = (await listRevisions(db, folio.id)).filter((r) => r.kind === 'refused')
    expect(kept).toHaveLength(1)
    expect((await openRevision(db, folio.id, kept[0].id)).author).toBe('late')
  })

  it('by two at once lets exactly one through', async () => {
    const { folio } = await made('Three')
    const results = await Promise.allSettled(
      ['a', 'b', 'c'].map((author) =>
        saveFolio(db, folio.id, { baseRevision: 1, folio: { ...folio, author }, label: author }),
      ),
    )
    expect(results.filter((r) => r.status === 'fulfilled')).toHaveLength(1)
    expect((await openFolio(db, folio.id)).revision).toBe(2)
    expect((await listRevisions(db, folio.id)).filter((r) => r.kind === 'refused')).toHaveLength(2)
  })

  it('thins old versions and keeps those of today', async () => {
    const { folio } = await made('Four')
    const save = (n: number) =>
      saveFolio(db, folio.id, { baseRevision: n, folio: { ...folio, author: String(n) }, label: 'x' })
    for (let n = 1; n <= 10; n++) await save(n)
    const longAgo = new Date(Date.now() - 20 * 86_400_000)
    await db.revisions.update({ savedAt: longAgo }, { where: { folioId: folio.id } })
    for (let n = 11; n <= 21; n++) await save(n)
    const rows = await db.revisions.findAll({ where: { folioId: folio.id }, order: [['number', 'ASC']] })
    expect(rows.map(({ number }) => number)).toEqual([11, ...Array.from({ length: 11 }, (_, i) => i + 12)])
  })
})

describe('stored rows', () => {
  const storeContent = async (dataset: Dataset) =>
    adoptContent(db, await writePacked(dataset, path.join(await newScratch(), 'a')))
  const table = (n: number): Dataset => ({
    rowCount: 1,
    fields: [{ key: 'a', column: numberColumn([n]) }],
    geometry: { kind: 'none' },
  })
  const inDays = (days: number) => Date.now() + days * 86_400_000
  const there = async (id: string) => (await db.datasets.findByPk(id)) !== null

  it('go when nothing refers to them any more, and not before: no version, no folio off the shelf', async () => {
    const { folio: demo } = opened(await addDemo(db))
    const contents = demo.datasets.map(({ source }) => source.contentId)
    const spare = await storeContent(table(1))
    const inVersion = await storeContent(table(2))
    const inRefused = await storeContent(table(3))
    const inDeleted = await storeContent(table(4))
    const holding = (folio: Folio, contentId: string): Folio => ({
      ...folio,
      datasets: [{ ...demo.datasets[0], source: { ...demo.datasets[0].source, contentId } }],
    })
    const { folio } = await made('Rows')
    await saveFolio(db, folio.id, { baseRevision: 1, folio: holding(folio, inVersion), label: 'in' })
    await saveFolio(db, folio.id, { baseRevision: 2, folio, label: 'out' })
    const late = saveFolio(db, folio.id, { baseRevision: 1, folio: holding(folio, inRefused), label: 'late' })
    expect((await problem(late)).status).toBe(409)
    const other = await createFolio(db, holding(newFolio('Off the shelf'), inDeleted))
    await deleteFolio(db, other.folio.id)

    expect(await clearContents(db, inDays(1))).toBe(0)
    expect(await clearContents(db, inDays(3))).toBe(1)
    expect(await there(spare)).toBe(false)
    expect(() => contentFile(spare)).toThrow(Problem)
    for (const id of [...contents, inVersion, inRefused, inDeleted]) {
      expect(await there(id)).toBe(true)
      expect(unpackDataset(new Uint8Array(readFileSync(contentFile(id)))).rowCount).toBeGreaterThan(0)
    }
    expect(await clearContents(db, inDays(3))).toBe(0)
  })
})

describe('a save', () => {
  it('whose answer was lost is known when it is sent again', async () => {
    const { folio } = await made('Twice')
    const save = { baseRevision: 1, folio: { ...folio, author: 'A' }, label: 'Author', saveKey: 'k1' }
    const first = await saveFolio(db, folio.id, save)
    expect(await saveFolio(db, folio.id, save)).toEqual(first)
    expect((await openFolio(db, folio.id)).revision).toBe(2)
    expect((await problem(saveFolio(db, folio.id, { ...save, saveKey: 'k2' }))).status).toBe(409)
  })

  it('of twenty windows at once is taken without an error, by two servers at once as well', async () => {
    const other = await openDatabase(folder)
    const folios = await Promise.all(Array.from({ length: 20 }, (_, i) => made(`Window ${i}`)))
    let slowest = 0
    await Promise.all(
      folios.map(async ({ folio }, i) => {
        for (let revision = 1; revision <= 10; revision++) {
          const began = performance.now()
          await saveFolio(i % 2 ? db : other, folio.id, { baseRevision: revision, folio, label: 'Saved' })
          slowest = Math.max(slowest, performance.now() - began)
        }
      }),
    )
    for (const { folio } of folios) expect((await openFolio(db, folio.id)).revision).toBe(11)
    expect(slowest).toBeLessThan(1000)
    await other.sequelize.close()
  })
})

describe('a damaged folio', () => {
  it('leaves the shelf whole and is brought back as its last whole version was', async () => {
    const { folio } = await made('Damaged')
    await saveFolio(db, folio.id, { baseRevision: 1, folio: { ...folio, author: 'whole' }, label: 'Author' })
    await saveFolio(db, folio.id, { baseRevision: 2, folio: { ...folio, author: 'later' }, label: 'Author' })
    const cardOf = async () => (await listFolios(db)).find(({ id }) => id === folio.id)
    expect(await cardOf()).toMatchObject({ isDamaged: false })
    await db.folios.update({ document: '{"format":"keen-folio","vers' }, { where: { id: folio.id } })
    await db.revisions.update({ document: '[]', packed: null }, { where: { folioId: folio.id, number: 3 } })
    await lookThroughDocuments(db, 0)
    expect(await cardOf()).toMatchObject({ isDamaged: true, sheetCount: 0, name: 'Damaged' })
    expect(await problem(openFolio(db, folio.id))).toMatchObject({
      status: 422,
      title: 'This folio is damaged',
      more: { damage: { name: 'Damaged', lastGood: { number: 2 } } },
    })
    const back = opened(await recoverFolio(db, folio.id))
    expect([back.revision, back.folio.author]).toEqual([4, 'whole'])
    expect(await cardOf()).toMatchObject({ isDamaged: false })
    const aside = (await listRevisions(db, folio.id)).find(({ kind }) => kind === 'refused')
    expect(aside?.label).toBe('Damaged, as it was found at revision 3')
    expect((await problem(openRevision(db, folio.id, aside?.id ?? 0))).status).toBe(422)
    expect((await problem(recoverFolio(db, folio.id))).status).toBe(409)
  })

  it('of which nothing is whole says so', async () => {
    const { folio } = await made('Lost')
    await db.folios.update({ document: 'x' }, { where: { id: folio.id } })
    await db.revisions.update({ packed: Buffer.from('no packed text') }, { where: { folioId: folio.id } })
    expect((await problem(openFolio(db, folio.id))).detail).toContain('no earlier version')
    expect((await problem(recoverFolio(db, folio.id))).status).toBe(409)
  })
})

describe('a full disk', () => {
  it('refuses a save in calm words, loses nothing, and takes it when there is room again', async () => {
    const { folio: big } = opened(await addDemo(db))
    const { folio } = await made('Full')
    const [[pages]] = (await db.sequelize.query('PRAGMA page_count')) as [{ page_count: number }[], unknown]
    // It may grow no further, as on a disk without more room.
    const free = onEveryConnection(db, `PRAGMA max_page_count = ${pages.page_count}`)
    const save = (n: number) =>
      saveFolio(db, folio.id, {
        baseRevision: n,
        folio: { ...big, author: `${n}` },
        label: 'A',
        saveKey: `${n}`,
      })
    let taken = 1
    let refused: unknown = null
    while (refused === null && taken < 200)
      await save(taken).then(
        () => taken++,
        (error: unknown) => (refused = error),
      )
    expect(calmProblem(refused)).toMatchObject({
      status: 507,
      title: 'The disk is full',
      more: { code: 'disk-full' },
    })
    expect((await openFolio(db, folio.id)).revision).toBe(taken)
    free()
    const [[most]] = (await db.sequelize.query('PRAGMA max_page_count = 1000000')) as [object[], unknown]
    expect(most).toBeDefined()
    expect((await save(taken)).revision).toBe(taken + 1)
  })
})

describe('the shelf', () => {
  it('renames, duplicates, deletes and brings back', async () => {
    const { folio } = await made('Five')
    await renameFolio(db, folio.id, 'Fifth')
    const copy = await duplicateFolio(db, folio.id)
    expect(copy.name).toBe('Fifth, copy')
    await deleteFolio(db, folio.id)
    expect((await listFolios(db)).map((card) => card.id)).not.toContain(folio.id)
    expect((await problem(openFolio(db, folio.id))).status).toBe(404)
    await restoreFolio(db, folio.id)
    expect((await openFolio(db, folio.id)).folio.name).toBe('Fifth')
    expect((await problem(restoreFolio(db, 'nowhere'))).status).toBe(404)
  })

  it('puts the demo there only when the shelf has never held anything', async () => {
    const before = (await listFolios(db)).length
    await ensureDemo(db)
    expect(await listFolios(db)).toHaveLength(before)
    const demo = opened(await addDemo(db))
    expect((await getThumbnail(db, demo.folio.id)).subarray(1, 4).toString()).toBe('PNG')
  })

  it('reads the demo once, and again where its rows are gone', async () => {
    const first = opened(await addDemo(db))
    const since = performance.now()
    const second = opened(await addDemo(db))
    expect(performance.now() - since).toBeLessThan(2000)
    expect(second.folio.id).not.toBe(first.folio.id)
    expect(second.folio.datasets).toEqual(first.folio.datasets)
    expect(await getThumbnail(db, second.folio.id)).toEqual(await getThumbnail(db, first.folio.id))
    const file = contentFile(first.folio.datasets[0].source.contentId)
    rmSync(file)
    const third = opened(await addDemo(db))
    expect(existsSync(file)).toBe(true)
    expect(third.folio.datasets).toEqual(first.folio.datasets)
  })

  it('opens what it saved as a folio file, under an id of its own, storing the same rows once', async () => {
    const demo = opened(await addDemo(db))
    const stored = await db.datasets.count()
    const written = await endOf(await startSavingFile(db, demo.folio.id))
    if (written.status !== 'done') throw new Error(written.status)
    const { downloadId, fileName } = written.result as DownloadCard
    expect(fileName).toBe('A-country-that-reads.keen.json')
    const text = readFileSync(downloadOf(downloadId).file)
    const opening = await endOf(startOpening(db, await keepSent(text)))
    if (opening.status !== 'done') throw new Error(opening.status)
    const again = await openFolio(db, (opening.result as { id: string }).id)
    expect(again.folio.id).not.toBe(demo.folio.id)
    expect(again.folio.datasets).toEqual(demo.folio.datasets)
    expect(await db.datasets.count()).toBe(stored)
    const bad = await keepSent(new TextEncoder().encode('no folio'))
    expect(await endOf(startOpening(db, bad))).toMatchObject({
      status: 'failed',
      message: 'This is not a folio file: it is not complete JSON.',
    })
  })
})
