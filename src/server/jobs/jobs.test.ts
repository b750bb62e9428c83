import { initialPrint } from '@/core/print/settings'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openDatabase, type Database } from '../database'
import { addDemo } from '../demo'
import { createFolio, opened } from '../testing/folios'
import { clearUploads, firstRows, keepUpload, startImport, type ImportResult } from '../imports'
import { deletePrint, listPrints, readPrint, startPrint, type PrintCard } from '../prints'
import { statesOf } from '../testing/jobs'
import { cancelJob, watchJob } from './jobs'

const folder = mkdtempSync(path.join(tmpdir(), 'keen-jobs-'))
let db: Database
beforeAll(async () => {
  process.env.KEEN_PLOT_DATA = folder
  db = await openDatabase(folder)
})
afterAll(async () => {
  await db.sequelize.close()
  rmSync(folder, { recursive: true })
})

const bytesOf = (name: string) => new Uint8Array(readFileSync(path.join('demo/data', name)))
const packs = () =>
  existsSync(path.join(folder, 'datasets')) ? readdirSync(path.join(folder, 'datasets')) : []

describe('an import', () => {
  it('tells its progress and ends with stored datasets', async () => {
    const states = await statesOf(
      await startImport(db, await keepUpload('districts.topojson', bytesOf('districts.topojson'))),
    )
    expect(states.filter((s) => s.status === 'running').length).toBeGreaterThan(1)
    const last = states[states.length - 1]
    if (last.status !== 'done') throw new Error(`It ended as ${last.status}.`)
    const [result] = last.result as ImportResult[]
    expect(result).toMatchObject({
      name: 'Districts',
      rowCount: 164,
      geometry: 'areas',
      format: 'TopoJSON',
      fileName: 'districts.topojson',
    })
    expect(packs()).toEqual([`${result.contentId}.pack`])
    expect(await db.datasets.findByPk(result.contentId)).toMatchObject({ rowCount: 164, geometry: 'areas' })
  })

  it('of the same rows again stores nothing twice; of a bad file nothing at all', async () => {
    await statesOf(
      await startImport(db, await keepUpload('districts.topojson', bytesOf('districts.topojson'))),
    )
    expect(packs()).toHaveLength(1)
    const states = await statesOf(
      await startImport(db, await keepUpload('cut.geojson', bytesOf('lakes.geojson').subarray(0, 500))),
    )
    expect(states[states.length - 1]).toMatchObject({
      status: 'failed',
      message: expect.stringContaining('cut.geojson is not complete JSON'),
    })
    expect(packs()).toHaveLength(1)
    expect(await db.datasets.count()).toBe(1)
  })

  it('can be cancelled, and leaves nothing behind', async () => {
    const before = packs().length
    const id = await startImport(
      db,
      await keepUpload('big.csv', new TextEncoder().encode(`a,b\n${'1,2\n'.repeat(2_000_000)}`)),
    )
    const ended = statesOf(id)
    // In the middle of reading, not before it has begun.
    await new Promise<void>((resolve) =>
      watchJob(id, (state) => state.status === 'running' && state.doing === 'Reading' && resolve()),
    )
    await new Promise((resolve) => setTimeout(resolve, 30))
    expect(await cancelJob(id)).toBe(true)
    const states = await ended
    expect(states.map(({ status }) => status)).toContain('running')
    expect(states.at(-1)).toEqual({ status: 'cancelled' })
    expect(packs()).toHaveLength(before)
    expect(await cancelJob('nowhere')).toBe(false)
  })
})

describe('a kept file', () => {
  it('shows its first rows as they would be read', async () => {
    const id = await keepUpload(
      'alt.csv',
      new TextEncoder().encode(`a;b\n1,5;x\n${'2,5;y\n'.repeat(90_000)}`),
    )
    expect(await firstRows(id, { options: {}, part: 0 })).toEqual({
      keys: ['a', 'b'],
      rows: [['1.5', 'x'], ...Array.from({ length: 5 }, () => ['2.5', 'y'])],
    })
    await expect(firstRows(id, { options: { delimiter: ',' }, part: 0 })).rejects.toMatchObject({
      status: 422,
      detail: expect.stringContaining('Is ‘,’ the right delimiter?'),
    })
    await expect(firstRows('nowhere', { options: {}, part: 0 })).rejects.toMatchObject({ status: 404 })
    await expect(firstRows(id, { options: { encoding: 'no such' }, part: 0 })).rejects.toMatchObject({
      status: 422,
    })
  })

  it('is cleared away after a month unless a folio refers to it', async () => {
    const [used, spare] = [
      await keepUpload('used.csv', new TextEncoder().encode('a\n1\n')),
      await keepUpload('spare.csv', new TextEncoder().encode('a\n1\n')),
    ]
    const { folio } = opened(await addDemo(db))
    await createFolio(db, {
      ...folio,
      id: 'uses',
      datasets: folio.datasets.map((entry, i) =>
        i ? entry : { ...entry, source: { ...entry.source, uploadId: used } },
      ),
    })
    const there = () => readdirSync(path.join(folder, 'uploads'))
    expect(await clearUploads(db)).toBe(0)
    expect(await clearUploads(db, Date.now() + 40 * 86_400_000)).toBeGreaterThan(0)
    expect(there()).toContain(used)
    expect(there()).toContain(`${used}.name`)
    expect(there()).not.toContain(spare)
    expect(there()).not.toContain(`${spare}.name`)
  })
})

describe('a print', () => {
  it('is listed with its settings and revision, read, and deleted', async () => {
    const { id, facts } = await addDemo(db)
    const request = { ...initialPrint, sheetId: facts.sheets[0].id, format: 'png' as const, dpi: 60 }
    const last = (await statesOf(await startPrint(db, id, request))).at(-1)
    if (last?.status !== 'done') throw new Error(`It ended as ${last?.status}.`)
    const card = last.result as PrintCard
    expect(card).toMatchObject({
      sheetName: 'Loans, A4',
      settings: request,
      revision: 1,
      fileName: 'A-country-that-reads-Loans-A4.png',
    })
    expect(await listPrints(db, id)).toEqual([card])
    const { bytes, mime } = await readPrint(db, card.id)
    expect([bytes, mime]).toEqual([card.bytes, 'image/png'])
    await deletePrint(db, card.id)
    expect(await listPrints(db, id)).toEqual([])
    await expect(readPrint(db, card.id)).rejects.toMatchObject({ status: 404 })
  })

  it('of a sheet that is not there is refused', async () => {
    const { id } = await addDemo(db)
    await expect(startPrint(db, id, { ...initialPrint, sheetId: 'nowhere' })).rejects.toMatchObject({
      status: 404,
    })
  })
})
