// What somebody, or a program, could do to a server: each is carried out again and again, and leaves nothing behind.
import { execFileSync } from 'node:child_process'
import { readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { octets, pause } from './besieged.mjs'

/** A GeoPackage of many points, as any program writes it. */
function points(count) {
  const rows = Array.from({ length: count }, (_, i) => `${i},${(i % 360) - 180},${(i % 170) - 85},${i % 97}`)
  const csv = path.join(tmpdir(), `siege-${process.pid}.csv`)
  const file = path.join(tmpdir(), `siege-${process.pid}.gpkg`)
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

const demoFile = readFileSync('demo/a-country-that-reads.keen.json')
// Made before a server runs: it takes a while, and nothing is heard meanwhile.
const gpkg = points(400_000)
const csv = Buffer.from(`a;b\n${'1,5;x\n'.repeat(400_000)}`)
const json = 'application/json'
const brackets = (bytes) => Buffer.from('['.repeat(bytes))
const nothings = (bytes) => Buffer.from(`[${'{},'.repeat(bytes / 3)}{}]`)

/** A body that comes a few bytes at a time, for as long as it is taken. */
const trickling = (bytes, everyMs) =>
  new ReadableStream({
    async pull(controller) {
      await pause(everyMs)
      controller.enqueue(bytes)
    },
  })

/** A drawing that is allowed and takes long to draw. */
const slowDrawing = Buffer.from(
  `<svg xmlns="http://www.w3.org/2000/svg" width="4000" height="4000"><filter id="f"><feGaussianBlur stdDeviation="60"/></filter>${'<circle cx="2000" cy="2000" r="1900" filter="url(#f)" opacity="0.1"/>'.repeat(400)}</svg>`,
)
const wide = Buffer.from(
  JSON.stringify({
    type: 'FeatureCollection',
    features: Array.from({ length: 200 }, (_, i) => ({
      type: 'Feature',
      geometry: { type: 'Point', coordinates: [i % 90, i % 45] },
      properties: Object.fromEntries(Array.from({ length: 1500 }, (__, k) => [`p${i}_${k}`, k])),
    })),
  }),
)

/** What is needed by all: a folio, and files that are brought in again and again. */
export async function prepared(server) {
  const { folio } = await server.send('POST', '/api/demo')
  const table = await server.send('POST', '/api/imports?name=table.csv', csv, octets)
  await server.follow(table.jobId)
  const many = await server.send('POST', '/api/imports?name=points.gpkg', gpkg, octets)
  await server.follow(many.jobId)
  return { folio, table, many }
}

const jobs = ({ folio, table, many }, { send }) => ({
  'import of 400,000 points': () => send('POST', `/api/imports/${many.uploadId}`, {}),
  'import of a table': () => send('POST', `/api/imports/${table.uploadId}`, {}),
  'import with an upload': () => send('POST', '/api/imports?name=a.csv', csv, octets),
  print: () => send('POST', `/api/folios/${folio.id}/prints`, { sheetId: folio.sheets[0].id, format: 'pdf' }),
  'export of a dataset': () =>
    send('POST', `/api/folios/${folio.id}/datasets/readers`, {
      ...{ format: 'gpkg', names: 'short', crs: 'EPSG:4326' },
    }),
  'saving a folio file': () => send('POST', `/api/folios/${folio.id}/file`, { withFine: true }),
  'opening a folio file': () => send('POST', '/api/folios/open', demoFile, octets),
})

/** A job that is cancelled somewhere, one in twenty runs to its end; what comes of it is removed again. */
const jobScenario = (name) => ({
  name,
  async run(server, things, { chance, check }) {
    const { jobId } = await jobs(things, server)[name]()
    const { status, result } = await server.follow(jobId, chance() < 0.05 ? undefined : chance() * 250)
    check(status === 'done' || status === 'cancelled', `${name} ended as ${status}.`)
    const shelf = await server.send('GET', '/api/folios')
    const strangers = shelf.filter(({ id }) => id !== things.folio.id && id !== result?.id)
    check(strangers.length === 0, `${strangers.length} folios of cancelled openings are on the shelf.`)
    if (name === 'opening a folio file' && status === 'done')
      await server.send('DELETE', `/api/folios/${result.id}`)
    if (name === 'print' && status === 'done') await server.send('DELETE', `/api/prints/${result.id}`)
  },
})

/** What is sent is refused in words, with one of the given answers. */
const refusedScenario = (name, statuses, begin) => ({
  name,
  async run(server, things, { check }) {
    const response = await begin(server, things)
    const body = await response.text()
    check(statuses.includes(response.status), `${name}: answered ${response.status} ${body.slice(0, 200)}`)
  },
})

const refused = [
  refusedScenario('a template of brackets', [422], ({ ask }) =>
    ask('POST', '/api/templates', brackets(5_000_000), { type: octets }),
  ),
  refusedScenario('a template of things that are none', [422], ({ ask }) =>
    ask('POST', '/api/templates', nothings(8_000_000), { type: octets }),
  ),
  refusedScenario('a template that is too large', [413], ({ ask }) =>
    ask('POST', '/api/templates', Buffer.alloc(20_000_000, 0x5b), { type: octets }),
  ),
  refusedScenario('a save of brackets', [400], ({ ask }, { folio }) =>
    ask('PUT', `/api/folios/${folio.id}`, brackets(5_000_000), { type: json }),
  ),
  refusedScenario('a save of things that are none', [400], ({ ask }, { folio }) =>
    ask(
      'PUT',
      `/api/folios/${folio.id}`,
      Buffer.concat([
        Buffer.from('{"baseRevision":1,"label":"","folio":{"sheets":'),
        nothings(15_000_000),
        Buffer.from('}}'),
      ]),
      { type: json },
    ),
  ),
  refusedScenario('a save that is too large', [413], ({ ask }, { folio }) =>
    ask('PUT', `/api/folios/${folio.id}`, Buffer.alloc(22_000_000, 0x20), { type: json }),
  ),
  refusedScenario('a picture that is none', [422, 415, 400], ({ ask }) =>
    ask('POST', '/api/pictures?name=a.png', brackets(3_000_000), { type: octets }),
  ),
]

/** A job that fails in words of ours. */
const failing = (name, fileName, bytes, address = '/api/imports?name=') => ({
  name,
  async run({ send, follow }, _, { check }) {
    const { jobId } = await send('POST', `${address}${fileName}`, bytes, octets)
    const { status, message = '' } = await follow(jobId)
    check(status === 'failed', `${name} ended as ${status}.`)
    check(!/not foreseen|broke off/.test(message), `${name} was answered with: ${message}`)
  },
})

/** Every address that sends a file: only its head is asked for. */
const heads = {
  name: 'heads of files',
  async run({ ask, descriptors }, { folio }, { check }) {
    const before = descriptors()
    const addresses = [
      ...folio.datasets.map(({ source }) => `/api/contents/${source.contentId}`),
      `/api/folios/${folio.id}`,
      `/api/folios/${folio.id}/thumbnail`,
      '/api/backups/copy',
    ]
    for (let i = 0; i < 100; i++) {
      const address = addresses[i % addresses.length]
      const response = await ask('HEAD', address)
      check(response.ok, `HEAD ${address}: ${response.status}`)
    }
    await pause(200)
    const held = descriptors() - before
    check(held < 20, `${held} files are held open after 100 heads.`)
  },
}

/** Uploads and drawings that are broken off somewhere. */
const aborted = {
  name: 'aborted uploads',
  async run({ ask }, { folio }, { chance, check }) {
    const ways = [
      ['/api/pictures?name=slow.svg', slowDrawing],
      ['/api/templates', trickling(Buffer.alloc(2000, 0x20), 5)],
      ['/api/imports?name=a.csv', trickling(Buffer.from('1,5;x\n'.repeat(1000)), 5)],
      ['/api/folios/open', trickling(Buffer.alloc(50_000, 0x20), 5)],
    ]
    await Promise.all(
      ways.map(async ([address, body]) => {
        const ends = new AbortController()
        const asked = ask('POST', address, body, { type: octets, signal: ends.signal }).catch(() => null)
        await pause(50 + chance() * 400)
        ends.abort()
        await asked
      }),
    )
    const began = performance.now()
    const answer = await ask('GET', `/api/folios/${folio.id}`)
    check(answer.ok && performance.now() - began < 2000, 'Aborted uploads hold up others.')
    await answer.arrayBuffer()
  },
}

/** Many connections that send next to nothing. */
const slow = {
  name: 'bodies that trickle',
  async run({ ask, send }, { folio }, { check }) {
    const ends = new AbortController()
    const asked = Array.from({ length: 40 }, (_, i) =>
      ask(
        i % 2 ? 'POST' : 'PUT',
        i % 2 ? '/api/folios/open' : `/api/folios/${folio.id}`,
        trickling(Buffer.from(' '), 100),
        { type: i % 2 ? octets : json, signal: ends.signal },
      ).catch(() => null),
    )
    const began = performance.now()
    for (let i = 0; i < 5; i++) await send('GET', '/api/folios')
    check(performance.now() - began < 2500, 'Bodies that trickle hold up others.')
    await pause(1000)
    ends.abort()
    await Promise.all(asked)
  },
}

/** A hundred saves of a megabyte, one after another. */
const saves = {
  name: 'saves of a megabyte',
  async run({ send }, { folio }, { check, note }) {
    const opened = await send('GET', `/api/folios/${folio.id}`)
    const layer = opened.folio.maps[0].layers[0]
    const style = { symbology: layer.symbology, labels: null, opacity: layer.opacity, blend: layer.blend }
    const each = JSON.stringify(style).length + 30
    const count = Math.round((1_000_000 - JSON.stringify(opened.folio).length) / each)
    const styles = Array.from({ length: count }, (_, i) => ({ ...style, id: `s${i}`, name: `Style ${i}` }))
    let { revision } = opened
    const times = []
    for (let i = 0; i <= 100; i++) {
      const began = performance.now()
      const saved = await send('PUT', `/api/folios/${folio.id}`, {
        ...{ baseRevision: revision, label: 'Saved', saveKey: `${revision}` },
        folio: { ...opened.folio, styles: i === 100 ? [] : styles, author: `save ${i}` },
      })
      times.push(performance.now() - began)
      revision = saved.revision
    }
    const sorted = times.slice(0, 100).sort((a, b) => a - b)
    note(`100 saves of 1 MB: half within ${sorted[50].toFixed(0)} ms, 95 within ${sorted[94].toFixed(0)} ms`)
    check(sorted[94] < 500, `95 of 100 saves took up to ${sorted[94].toFixed(0)} ms.`)
  },
}

export const scenarios = [
  ...Object.keys(jobs({}, {})).map(jobScenario),
  ...refused,
  failing('an import of 300,000 properties', 'wide.geojson', wide),
  failing('an import of brackets', 'deep.geojson', brackets(5_000_000)),
  failing('a folio file of brackets', '', brackets(5_000_000), '/api/folios/open'),
  failing('a folio file of things that are none', '', nothings(20_000_000), '/api/folios/open'),
  heads,
  aborted,
  slow,
  saves,
]
