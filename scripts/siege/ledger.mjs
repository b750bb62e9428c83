// What a server has acknowledged, and whether it is there: for whoever kills it, or fills its disk.
import { readFileSync } from 'node:fs'
import path from 'node:path'
import sqlite3 from 'sqlite3'
import { octets } from './besieged.mjs'

const demoFile = readFileSync('demo/a-country-that-reads.keen.json')
const csv = Buffer.from(
  `name;loans\n${Array.from({ length: 60_000 }, (_, i) => `p${i};${i % 97}`).join('\n')}\n`,
)

/** What SQLite says of a database. */
export const checked = (file) =>
  new Promise((resolve) => {
    const db = new sqlite3.Database(file, sqlite3.OPEN_READONLY, (error) => {
      if (error) return resolve(error.message)
      db.get('PRAGMA integrity_check', (wrong, row) => {
        db.close()
        resolve(wrong ? wrong.message : row.integrity_check)
      })
    })
  })

/** Keeps account of what a server on a folder acknowledges; `fault` hears what is wrong. */
export function ledger(data, fault) {
  /** What has been acknowledged, in words of the server's own answers. */
  const acknowledged = {
    revision: 0,
    author: -1,
    folios: new Map(),
    contents: new Map(),
    prints: new Set(),
    backup: '',
  }
  let saved = { folioId: '', document: null }
  let author = 0
  const counts = {}

  /** Each work begins and tells when the server has acknowledged it. */
  const works = {
    async saving({ send }, times = Infinity) {
      for (let i = 0; i < times; i++) {
        author++
        const { revision } = await send('PUT', `/api/folios/${saved.folioId}`, {
          baseRevision: acknowledged.revision,
          folio: { ...saved.document, author: `save ${author}` },
          label: 'Saved',
          saveKey: `k${author}`,
        })
        Object.assign(acknowledged, { revision, author })
        counts.saving.acknowledged++
      }
    },
    async opening({ send, follow }) {
      const { jobId } = await send('POST', '/api/folios/open', demoFile, octets)
      const { status, result, message } = await follow(jobId)
      if (status !== 'done') throw new Error(`Opening ${status}: ${message}`)
      acknowledged.folios.set(result.id, true)
      counts.opening.acknowledged++
    },
    async importing({ send, follow }) {
      // Other bytes each time, so that rows are stored anew.
      const own = Buffer.concat([csv, Buffer.from(`last;${author++}\n`)])
      const { jobId } = await send('POST', '/api/imports?name=table.csv', own, octets)
      const { status, result, message } = await follow(jobId)
      if (status !== 'done') throw new Error(`Importing ${status}: ${message}`)
      for (const { contentId } of result) acknowledged.contents.set(contentId, true)
      counts.importing.acknowledged++
    },
    async printing({ send, follow }) {
      const { jobId } = await send('POST', `/api/folios/${saved.folioId}/prints`, {
        sheetId: saved.document.sheets[0].id,
        format: 'pdf',
      })
      const { status, result, message } = await follow(jobId)
      if (status !== 'done') throw new Error(`Printing ${status}: ${message}`)
      acknowledged.prints.add(result.id)
      counts.printing.acknowledged++
    },
    async 'backing up'({ send }) {
      const { id } = await send('POST', '/api/backups')
      acknowledged.backup = id
      counts['backing up'].acknowledged++
    },
  }

  /** What was acknowledged is there, and all that is there is whole. */
  async function look({ send, ask }) {
    const { revision, folio } = await send('GET', `/api/folios/${saved.folioId}`)
    const now = Number(/^save (\d+)$/.exec(folio.author)?.[1] ?? -1)
    if (revision < acknowledged.revision || now < acknowledged.author)
      fault(
        `Save ${acknowledged.author} (revision ${acknowledged.revision}) is lost: ${revision}, ${folio.author}.`,
      )
    if (folio.sheets.length !== saved.document.sheets.length) fault('The saved folio is not whole.')
    // A save that was under way may have been carried out: the next one goes on from it.
    if (revision > acknowledged.revision) counts.saving.unacknowledged++
    Object.assign(acknowledged, { revision, author: now })

    const shelf = await send('GET', '/api/folios')
    const there = new Map(shelf.map((card) => [card.id, card]))
    for (const id of acknowledged.folios.keys()) if (!there.has(id)) fault(`The opened folio ${id} is lost.`)
    for (const [id, card] of there) {
      if (id === saved.folioId) continue
      const { folio: opened } = await send('GET', `/api/folios/${id}`)
      if (opened.sheets.length !== saved.document.sheets.length) fault(`The folio ${id} is not whole.`)
      for (const { source } of opened.datasets)
        if ((await ask('HEAD', `/api/contents/${source.contentId}`)).status !== 200)
          fault(`The folio ${card.name} lacks rows.`)
      if (!acknowledged.folios.has(id)) counts.opening.unacknowledged++
      await ask('DELETE', `/api/folios/${id}`)
      acknowledged.folios.delete(id)
    }

    for (const id of acknowledged.contents.keys()) {
      const answer = await ask('GET', `/api/contents/${id}`)
      if (answer.status !== 200 || (await answer.arrayBuffer()).byteLength < 100)
        fault(`The rows ${id} are lost.`)
      acknowledged.contents.delete(id)
    }

    const prints = await send('GET', `/api/folios/${saved.folioId}/prints`)
    for (const id of acknowledged.prints)
      if (!prints.some((one) => one.id === id)) fault(`The print ${id} is lost.`)
    for (const { id } of prints) {
      const file = Buffer.from(await (await ask('GET', `/api/prints/${id}`)).arrayBuffer())
      if (!file.subarray(0, 5).equals(Buffer.from('%PDF-')) || !file.subarray(-8).includes('%%EOF'))
        fault(`The print ${id} is half.`)
      if (!acknowledged.prints.has(id)) counts.printing.unacknowledged++
      await ask('DELETE', `/api/prints/${id}`)
      acknowledged.prints.delete(id)
    }

    const { backups } = await send('GET', '/api/backups')
    if (acknowledged.backup && !backups.some(({ id }) => id >= acknowledged.backup.slice(0, 19)))
      fault(`The backup ${acknowledged.backup} is lost.`)
    for (const { id } of backups.slice(0, 1))
      if ((await checked(path.join(data, 'backups', `${id}.sqlite`))) !== 'ok')
        fault(`The backup ${id} is half.`)
  }

  /** Puts the demo on the shelf, which is saved and printed from then on. */
  async function begin({ send }) {
    const { folio } = await send('POST', '/api/demo')
    saved = { folioId: folio.id, document: folio }
    acknowledged.revision = (await send('GET', `/api/folios/${folio.id}`)).revision
  }

  for (const name of Object.keys(works)) counts[name] = { tried: 0, acknowledged: 0, unacknowledged: 0 }
  return { works, look, begin, counts }
}
