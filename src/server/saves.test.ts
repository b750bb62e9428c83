import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openDemo } from '../../demo/open'
import { folioToJson } from '@/core/folio/schema'
import { openDatabase, type Database } from './database'
import { startOpening } from './folio-files'
import { keepSent } from './sent-file'
import { saveSent } from './saves'
import { createFolio, newFolio, openFolio } from './testing/folios'
import { cancelJob, watchJob } from './jobs/jobs'
import { Problem } from './problem'
import { bringInTemplate } from './templates'

const folder = mkdtempSync(path.join(tmpdir(), 'keen-saves-'))
let db: Database
beforeAll(async () => {
  process.env.KEEN_PLOT_DATA = folder
  db = await openDatabase(folder)
})
afterAll(async () => {
  await db.sequelize.close()
  rmSync(folder, { recursive: true })
})

const bytes = (text: string) => new TextEncoder().encode(text)
const sent = (value: unknown) => bytes(JSON.stringify(value))
const problemOf = (work: Promise<unknown>): Promise<Problem | null> =>
  work.then(
    () => null,
    (error: unknown) => error as Problem,
  )

/** The longest time for which nothing else was answered while some work was under way, ms. */
async function longestPause(work: () => Promise<unknown>): Promise<number> {
  let [last, longest] = [performance.now(), 0]
  const look = () => {
    const now = performance.now()
    longest = Math.max(longest, now - last)
    last = now
  }
  const timer = setInterval(look, 5)
  await work()
  look()
  clearInterval(timer)
  return longest
}

describe('a save', () => {
  it('is checked and stored as it was sent, a folio of a megabyte fast', async () => {
    const { folio } = openDemo()
    const opened = await createFolio(db, { ...folio, id: 'large' })
    const body = (revision: number) =>
      sent({ baseRevision: revision, folio: { ...folio, id: 'large' }, label: 'Again' })
    // The first one starts the process.
    await saveSent(db, 'large', body(opened.revision))
    const times: number[] = []
    for (let i = 1; i <= 20; i++) {
      const began = performance.now()
      const { revision } = await saveSent(db, 'large', body(opened.revision + i))
      times.push(performance.now() - began)
      expect(revision).toBe(opened.revision + i + 1)
    }
    // Quiet machines need a tenth of this.
    expect(times.sort((a, b) => a - b)[10]).toBeLessThan(1000)
    expect((await openFolio(db, 'large')).folio.sheets.length).toBe(folio.sheets.length)
  })

  it('is written as any folio is, key by key', async () => {
    const { folio } = openDemo()
    // As a window may send it: in another order of keys.
    const turned = Object.fromEntries(Object.entries(folio).reverse())
    await createFolio(db, { ...folio, id: 'turned' })
    await saveSent(db, 'turned', sent({ baseRevision: 1, folio: turned, label: 'Turned' }))
    const row = await db.folios.findByPk('turned')
    expect(row?.document).toBe(folioToJson({ ...folio, id: 'turned' }))
  })

  it('of what is no folio is refused in words, and holds up nobody', async () => {
    const { folio } = await createFolio(db, newFolio('Small'))
    const flood = Array.from({ length: 300_000 }, () => ({}))
    const cases: [Uint8Array, RegExp][] = [
      [bytes('{"baseRevision":1'), /not JSON/],
      [bytes('['.repeat(100_000)), /more than 64 levels/],
      [sent({ baseRevision: 0, folio, label: '' }), /baseRevision/],
      [
        sent({ baseRevision: 1, folio: { ...folio, sheets: [{}] }, label: '' }),
        /at sheets › 0 › id, a value is/,
      ],
      [
        sent({ baseRevision: 1, folio: { ...folio, styles: flood }, label: '' }),
        /at styles, there are more than 200,000/,
      ],
      [sent({ baseRevision: 1, folio: { ...folio, maps: flood.slice(0, 9999) }, label: '' }), /at maps › 0/],
      [
        sent({ baseRevision: 1, folio: { ...folio, styles: flood.slice(0, 10_001) }, label: '' }),
        /at styles, there are more than 10,000/,
      ],
      [sent({ baseRevision: 1, folio: flood, label: '' }), /at the top, there are more/],
    ]
    const pause = await longestPause(async () => {
      for (const [body, words] of cases) {
        const problem = await problemOf(saveSent(db, folio.id, body))
        expect(problem).toMatchObject({ status: 400, title: 'The folio cannot be saved' })
        expect(problem?.detail).toMatch(words)
      }
    })
    expect(pause).toBeLessThan(1500)
    expect((await openFolio(db, folio.id)).revision).toBe(1)
  })

  it('of hundreds of thousands of parts that are none is refused at once', async () => {
    const { folio } = openDemo()
    const [sheet] = folio.sheets
    const parts = Array.from({ length: 300_000 }, () => ({}))
    await createFolio(db, { ...folio, id: 'flooded' })
    const body = sent({ baseRevision: 1, folio: { ...folio, sheets: [{ ...sheet, parts }] }, label: '' })
    const began = performance.now()
    expect((await problemOf(saveSent(db, 'flooded', body)))?.detail).toContain(
      'at sheets › 0 › parts, there are',
    )
    expect(performance.now() - began).toBeLessThan(5000)
  })
})

describe('an opening that is cancelled', () => {
  it('leaves nothing on the shelf, whenever that is', async () => {
    const { folio } = await createFolio(db, newFolio('Kept'))
    const file = sent({ format: 'keen-folio-file', version: 1, folio, contents: {} })
    const before = await db.folios.count()
    for (let i = 0; i < 12; i++) {
      const id = startOpening(db, await keepSent(file))
      // Sooner and later, up to the moment at which it is being put on the shelf.
      await new Promise((resolve) => setTimeout(resolve, i * 4))
      const ended = new Promise<string>((resolve) =>
        watchJob(id, ({ status }) => status !== 'running' && status !== 'waiting' && resolve(status)),
      )
      await cancelJob(id)
      if ((await ended) === 'cancelled') expect(await db.folios.count()).toBe(before)
      else await db.folios.destroy({ where: {}, limit: (await db.folios.count()) - before })
    }
  })
})

describe('a template that is sent', () => {
  it('is read beside the server: brackets without end and lists without things hold up nobody', async () => {
    const pause = await longestPause(async () => {
      for (const body of [
        '['.repeat(5_000_000),
        `[${'{},'.repeat(2_000_000)}{}]`,
        '{"format":"keen-template-file"}',
      ])
        for (const bare of [false, true])
          expect(await problemOf(bringInTemplate(bytes(body), { newId: () => 'x', bare }))).toMatchObject({
            status: 422,
          })
    })
    expect(pause).toBeLessThan(1500)
  })
})
