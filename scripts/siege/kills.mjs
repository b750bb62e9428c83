// Kills the server again and again in the midst of saving, opening, importing, printing and backing up: after each
// restart everything that it had acknowledged must be there, and nothing half.
//   node scripts/siege/kills.mjs [--kills 1000] [--seed 7]
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { parseArgs } from 'node:util'
import sqlite3 from 'sqlite3'
import { besieged, chances, octets, pause } from './besieged.mjs'

const { values } = parseArgs({
  options: { kills: { type: 'string', default: '1000' }, seed: { type: 'string', default: '7' } },
})
const kills = Number(values.kills)
const chance = chances(Number(values.seed))
const data = mkdtempSync(path.join(tmpdir(), 'keen-kills-'))
const demoFile = readFileSync('demo/a-country-that-reads.keen.json')
const csv = Buffer.from(
  `name;loans\n${Array.from({ length: 60_000 }, (_, i) => `p${i};${i % 97}`).join('\n')}\n`,
)

const faults = []
const fault = (words) => {
  faults.push(words)
  console.error(`✗ ${words}`)
}

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
  async saving({ send }) {
    for (;;) {
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
    const { status, result } = await follow(jobId)
    if (status !== 'done') throw new Error(`Opening ended as ${status}.`)
    acknowledged.folios.set(result.id, true)
    counts.opening.acknowledged++
  },
  async importing({ send, follow }) {
    // Other bytes each time, so that rows are stored anew.
    const own = Buffer.concat([csv, Buffer.from(`last;${author++}\n`)])
    const { jobId } = await send('POST', '/api/imports?name=table.csv', own, octets)
    const { status, result } = await follow(jobId)
    if (status !== 'done') throw new Error(`Importing ended as ${status}.`)
    for (const { contentId } of result) acknowledged.contents.set(contentId, true)
    counts.importing.acknowledged++
  },
  async printing({ send, follow }) {
    const { jobId } = await send('POST', `/api/folios/${saved.folioId}/prints`, {
      sheetId: saved.document.sheets[0].id,
      format: 'pdf',
    })
    const { status, result } = await follow(jobId)
    if (status !== 'done') throw new Error(`Printing ended as ${status}.`)
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

/** What SQLite says of a database. */
const checked = (file) =>
  new Promise((resolve) => {
    const db = new sqlite3.Database(file, sqlite3.OPEN_READONLY, (error) => {
      if (error) return resolve(error.message)
      db.get('PRAGMA integrity_check', (wrong, row) => {
        db.close()
        resolve(wrong ? wrong.message : row.integrity_check)
      })
    })
  })

const began = performance.now()
for (const name of Object.keys(works)) counts[name] = { kills: 0, acknowledged: 0, unacknowledged: 0 }
let server = await besieged(data)
const { folio } = await server.send('POST', '/api/demo')
saved = { folioId: folio.id, document: folio }
acknowledged.revision = (await server.send('GET', `/api/folios/${folio.id}`)).revision
/** How long each work takes when nobody disturbs it: the kill falls somewhere within. */
const takes = { saving: 2500, opening: 3500, importing: 2500, printing: 3500, 'backing up': 300 }

for (let round = 0; round < kills; round++) {
  const name = Object.keys(works)[round % Object.keys(works).length]
  counts[name].kills++
  let killed = false
  const work = works[name](server).catch((error) => {
    if (!killed) fault(`${name} failed before any kill: ${error.message}`)
  })
  await pause(chance() * takes[name])
  killed = true
  server.child.kill('SIGKILL')
  await work
  server = await besieged(data)
  try {
    await look(server)
  } catch (error) {
    fault(`After kill ${round + 1} (${name}): ${error.message}`)
  }
  if ((round + 1) % 50 === 0)
    console.log(
      `${round + 1} kills, ${((performance.now() - began) / 60_000).toFixed(1)} min: ${JSON.stringify(counts)}`,
    )
}

// What was under way when a server died is cleared away by the next one, once it is known to be dead.
await pause(30_000)
const left = server.leftovers().filter((file) => file.endsWith('.part'))
await server.stop()
const verdict = await checked(path.join(data, 'keen-plot.sqlite'))
if (verdict !== 'ok') fault(`The database: ${verdict}`)
console.log(
  `${kills} kills in ${((performance.now() - began) / 60_000).toFixed(0)} min; drafts left: ${left.length}`,
)
for (const [name, { kills: times, acknowledged: told, unacknowledged }] of Object.entries(counts))
  console.log(
    `${name}: killed ${times} times, ${told} acknowledged, ${unacknowledged} carried out without an answer`,
  )
console.log(
  faults.length
    ? `${faults.length} faults.`
    : 'Nothing that was acknowledged is lost, nothing half is there.',
)
rmSync(data, { recursive: true, force: true })
process.exit(faults.length ? 1 : 0)
