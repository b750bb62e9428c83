// Opens, cancels and repeats every kind of long work against a running server of its own: it must live, answer
// throughout, and leave no file and no process behind; its memory must stay where it was.
//   node scripts/siege.mjs [--rounds 500] [--saves 0] [--prints 0]
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { parseArgs } from 'node:util'
import { startServer } from './serve.mjs'

const { values } = parseArgs({
  options: {
    rounds: { type: 'string', default: '500' },
    saves: { type: 'string', default: '0' },
    prints: { type: 'string', default: '0' },
  },
})
const [rounds, saves, prints] = [values.rounds, values.saves, values.prints].map(Number)
const data = mkdtempSync(path.join(tmpdir(), 'keen-siege-'))
/** A GeoPackage of many points, as any program writes it. */
function points(count) {
  const rows = Array.from({ length: count }, (_, i) => `${i},${(i % 360) - 180},${(i % 170) - 85},${i % 97}`)
  const csv = path.join(data, 'points.csv')
  const file = path.join(data, 'points.gpkg')
  writeFileSync(csv, `id,lon,lat,value\n${rows.join('\n')}\n`)
  execFileSync('ogr2ogr', [
    ...['-f', 'GPKG', file, csv, '-oo', 'X_POSSIBLE_NAMES=lon', '-oo', 'Y_POSSIBLE_NAMES=lat'],
    ...['-a_srs', 'EPSG:4326', '-nln', 'points'],
  ])
  const bytes = readFileSync(file)
  rmSync(csv)
  rmSync(file)
  return bytes
}

// Before the server runs: what is made here takes a while.
const octets = 'application/octet-stream'
const demoFile = readFileSync('demo/a-country-that-reads.keen.json')
const gpkg = points(400_000)
const csv = Buffer.from(`a;b\n${'1,5;x\n'.repeat(400_000)}`)
const server = await startServer(data)
const { url } = server
process.on('uncaughtException', (error) => {
  console.error(error)
  server.child.kill('SIGKILL')
  process.exit(1)
})
const faults = []
const check = (holds, words) => {
  if (!holds) faults.push(words)
}

const send = async (method, address, body, type = 'application/json') => {
  const response = await fetch(`${url}${address}`, {
    method,
    headers: { origin: url, ...(body === undefined ? {} : { 'content-type': type }) },
    body: body === undefined || type !== 'application/json' ? body : JSON.stringify(body),
  })
  if (!response?.ok) throw new Error(`${method} ${address}: ${response.status} ${await response.text()}`)
  return response.status === 204 ? null : response.json()
}
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms))
let state = 7
const chance = () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647

/** Follows a job to its end; where `cancelAfter` is given, cancels it then. */
async function follow(jobId, cancelAfter) {
  if (cancelAfter !== undefined) {
    await pause(cancelAfter)
    await fetch(`${url}/api/jobs/${jobId}`, { method: 'DELETE', headers: { origin: url } })
  }
  const events = await (await fetch(`${url}/api/jobs/${jobId}`)).text()
  return JSON.parse(events.trim().split('\n\n').at(-1).slice('data: '.length))
}

const { folio } = await send('POST', '/api/demo')
const keptTable = await send('POST', '/api/imports?name=table.csv', csv, octets)
await follow(keptTable.jobId)
const keptPoints = await send('POST', '/api/imports?name=points.gpkg', gpkg, octets)
await follow(keptPoints.jobId)

const kinds = {
  'import of a GeoPackage of 400,000 points': () => send('POST', `/api/imports/${keptPoints.uploadId}`, {}),
  'import of a table': () => send('POST', `/api/imports/${keptTable.uploadId}`, {}),
  'import with an upload': () => send('POST', '/api/imports?name=a.csv', csv, octets),
  print: () =>
    send('POST', `/api/folios/${folio.id}/prints`, {
      sheetId: folio.sheets[0].id,
      format: 'pdf',
      dpi: 300,
      svgText: 'embedded',
    }),
  'export of a dataset': () =>
    send('POST', `/api/folios/${folio.id}/datasets/readers`, {
      format: 'gpkg',
      names: 'short',
      crs: 'EPSG:4326',
    }),
  'saving a folio file': () => send('POST', `/api/folios/${folio.id}/file`, { withFine: true }),
  'opening a folio file': () => send('POST', '/api/folios/open', demoFile, octets),
}

const rss = () =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.child.pid}/status`, 'utf8'))[1]) / 1024
const children = () => {
  const listed = execFileSync('ps', ['-o', 'pid=,args=', '--ppid', String(server.child.pid)], {
    encoding: 'utf8',
  })
  return listed
    .trim()
    .split('\n')
    .filter((line) => line.includes('tasks/process.mjs'))
}

// Somebody else works in another window all the while.
const answers = []
let besieged = true
const other = (async () => {
  while (besieged) {
    const began = performance.now()
    const response = await fetch(`${url}/api/folios/${folio.id}/revisions`).catch(() => null)
    check(response?.ok, 'The server did not answer somebody else.')
    await response?.arrayBuffer()
    answers.push(performance.now() - began)
    await pause(50)
  }
})()

let base = 0
for (const [name, start] of Object.entries(kinds)) {
  const ends = {}
  const began = performance.now()
  for (let round = 0; round < rounds; round++) {
    const { jobId } = await start()
    // One in fifty runs to its end; the others are cancelled somewhere.
    const { status } = await follow(jobId, round % 50 === 49 ? undefined : chance() * 250)
    ends[status] = (ends[status] ?? 0) + 1
    check(status === 'done' || status === 'cancelled', `A job of ${name} ended as ${status}.`)
    if (!base && round === Math.min(20, rounds - 1)) base = rss()
  }
  const words = Object.entries(ends).map(([end, count]) => `${count} ${end}`)
  console.log(
    `${name.padEnd(42)} ${words.join(', ')}; ${((performance.now() - began) / 1000).toFixed(0)} s; server at ${rss().toFixed(0)} MB`,
  )
}

if (prints || saves) {
  const opened = await send('GET', `/api/folios/${folio.id}`)
  let { revision } = opened
  const print = async () => {
    const { jobId } = await kinds.print()
    check((await follow(jobId)).status === 'done', 'A print failed.')
  }
  for (let i = 0; i < 10; i++) await print()
  const after = rss()
  for (let i = 0; i < saves; i++) {
    const saved = await send('PUT', `/api/folios/${folio.id}`, {
      baseRevision: revision,
      folio: { ...opened.folio, author: `save ${i}` },
      label: 'Saved',
      saveKey: `k${i}`,
    })
    revision = saved.revision
    if (prints && i % Math.max(1, Math.floor(saves / prints)) === 0) await print()
  }
  const now = rss()
  console.log(
    `${saves} saves and ${prints} prints: server at ${after.toFixed(0)} MB after ten prints, ${now.toFixed(0)} MB at the end (${(now / after).toFixed(2)} ×)`,
  )
  check(now < 1.3 * after, 'The memory of the server has grown.')
}

besieged = false
await other
answers.sort((a, b) => a - b)
console.log(
  `Somebody else was answered ${answers.length} times: half within ${answers[answers.length >> 1].toFixed(0)} ms, the slowest after ${answers.at(-1).toFixed(0)} ms.`,
)
check(answers.at(-1) < 1000, 'Somebody else waited for more than a second.')
const scratch = path.join(data, 'scratch', String(server.child.pid))
const left = readdirSync(scratch).flatMap((folder) => readdirSync(path.join(scratch, folder)))
check(
  left.every((name) => name === 'file'),
  `Files are left: ${left.join(', ')}.`,
)
const drafts = ['datasets', 'uploads', 'prints'].flatMap((place) =>
  readdirSync(path.join(data, place)).filter((name) => name.endsWith('.part')),
)
check(drafts.length === 0, `Drafts are left: ${drafts.join(', ')}.`)
check(children().length <= 4, `Processes are left: ${children().length}.`)
if (base) {
  console.log(`Memory of the server: ${base.toFixed(0)} MB at the start, ${rss().toFixed(0)} MB at the end.`)
  check(rss() < 1.5 * base + 50, 'The memory of the server has grown.')
}
const own = children().map((line) => Number(line.trim().split(' ')[0]))
await server.stop()
await pause(2000)
const outliving = own.filter((pid) => {
  try {
    process.kill(pid, 0)
    return true
  } catch {
    return false
  }
})
check(outliving.length === 0, `${outliving.length} processes outlive the server.`)
rmSync(data, { recursive: true, force: true })
for (const words of new Set(faults))
  console.error(`✗ ${words} (${faults.filter((w) => w === words).length} times)`)
console.log(faults.length ? 'The server did not hold.' : 'The server held.')
process.exit(faults.length ? 1 : 0)
