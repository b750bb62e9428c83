import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, openAsBlob, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { strToU8, zipSync } from 'fflate'
import { numberColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { proposeMeta } from '@/core/data/field-meta'
import { readFolioFile, writeFolioFile } from '@/formats/folio-file/folio-file'
import { startServer, type Server } from '../scripts/serve.mjs'
import type { Ratio } from './measure'

const rowCount = 2_000_000
/** Others wait no longer than this while the server does its heaviest work. */
const mostMs = 200

/** A folio file of some 175 MB: the demo with two million points in place of its readers. */
function largeFolioFile(): string {
  const { folio, contents } = readFolioFile(readFileSync('demo/a-country-that-reads.keen.json', 'utf8'))
  const entry = folio.datasets.find(({ id }) => id === 'readers')
  if (!entry) throw new Error('The demo has readers.')
  const column = (of: (row: number) => number) =>
    numberColumn(Array.from({ length: rowCount }, (_, row) => of(row)))
  const fields = ['lon', 'lat', 'books', 'visits', 'fines', 'years', 'steps', 'cards'].map((key, i) => ({
    key,
    column: column((row) => Math.round(1e6 * Math.abs(Math.sin(row * (i + 1)))) / 1000),
  }))
  const points: Dataset = {
    rowCount,
    fields,
    geometry: {
      kind: 'points',
      coords: Float64Array.from({ length: 2 * rowCount }, (_, i) => Math.round(1e7 * Math.sin(i)) / 1e6),
      featureStarts: Uint32Array.from({ length: rowCount + 1 }, (_, i) => i),
    },
  }
  entry.fields = Object.fromEntries(fields.map(({ key, column: own }) => [key, proposeMeta(key, own)]))
  entry.steps = []
  return writeFolioFile({ folio, contents: new Map([...contents, [entry.source.contentId, points]]) })
}

/** A workbook of 30,000 rows and 60 columns. */
function workbook(): Uint8Array {
  const cells = Array.from({ length: 60 }, (_, c) => `<c><v>${c * 1.25}</v></c>`).join('')
  const rows = Array.from({ length: 30_000 }, (_, r) => `<row><c><v>${r}</v></c>${cells}</row>`).join('')
  return zipSync({
    'xl/workbook.xml': strToU8(
      '<workbook xmlns:r="r"><sheets><sheet name="Returns" r:id="a"/></sheets></workbook>',
    ),
    'xl/worksheets/sheet1.xml': strToU8(`<worksheet><sheetData>${rows}</sheetData></worksheet>`),
  })
}

const octets = 'application/octet-stream'

async function send<T>(
  { url }: Server,
  method: string,
  address: string,
  { body, type = 'application/json' }: { body?: BodyInit; type?: string } = {},
): Promise<T> {
  const headers = { origin: url, ...(body === undefined ? {} : { 'content-type': type }) }
  const response = await fetch(`${url}${address}`, { method, headers, body })
  if (!response.ok) throw new Error(`${method} ${address}: ${response.status} ${await response.text()}`)
  return (await response.json()) as T
}

type End = { status: string; message?: string; result?: { id?: string } }

async function follow({ url }: Server, jobId: string): Promise<End> {
  const text = await (await fetch(`${url}/api/jobs/${jobId}`)).text()
  const end = JSON.parse(text.trim().split('\n\n').at(-1)?.slice('data: '.length) ?? '{}') as End
  if (end.status !== 'done') throw new Error(`A job ended as ${end.status}: ${end.message ?? ''}`)
  return end
}

/** How long others wait at most while some work goes on: for the shelf, a folio, its versions, a page. */
async function slowestWhile(server: Server, folioId: string, work: () => Promise<unknown>): Promise<number> {
  const addresses = ['/api/folios', `/api/folios/${folioId}`, `/api/folios/${folioId}/revisions`, '/']
  let [slowest, going, turn] = [0, true, 0]
  const others = (async () => {
    while (going) {
      const began = performance.now()
      const response = await fetch(`${server.url}${addresses[turn++ % addresses.length]}`)
      await response.arrayBuffer()
      slowest = Math.max(slowest, performance.now() - began)
      await new Promise((resolve) => setTimeout(resolve, 20))
    }
  })()
  await work().finally(() => (going = false))
  await others
  return slowest
}

/** The longest that somebody else waits for an answer while the server does its heaviest work. */
export async function answeringRatios(): Promise<Ratio[]> {
  if (!existsSync('.next/BUILD_ID')) execFileSync('node', ['scripts/build.mjs'], { stdio: 'inherit' })
  const data = mkdtempSync(path.join(tmpdir(), 'keen-answering-'))
  // What is made here takes a while; the server starts afterwards.
  const large = largeFolioFile()
  console.log(`answering: a folio file of ${(large.length / 1e6).toFixed(0)} MB`)
  const book = workbook()
  writeFileSync(path.join(data, 'large.json'), large)
  const server = await startServer(data)
  try {
    const { folio } = await send<{ folio: { id: string } }>(server, 'POST', '/api/demo')
    const kept = await send<{ uploadId: string; jobId: string }>(server, 'POST', '/api/imports?name=b.xlsx', {
      body: book as BodyInit,
      type: octets,
    })
    await follow(server, kept.jobId)
    for (let i = 0; i < 20; i++) await (await fetch(server.url)).arrayBuffer()

    let opened = ''
    const ratios: Ratio[] = []
    const measure = async (name: string, work: () => Promise<unknown>) => {
      const began = performance.now()
      const slowest = await slowestWhile(server, folio.id, work)
      const seconds = ((performance.now() - began) / 1000).toFixed(1)
      ratios.push({
        name: `slowest answer while ${name}`,
        ratio: slowest / mostMs,
        budget: 1,
        base: `${mostMs} ms (the work took ${seconds} s)`,
      })
    }
    await measure('opening a folio file of 175 MB', async () => {
      const { jobId } = await send<{ jobId: string }>(server, 'POST', '/api/folios/open', {
        body: await openAsBlob(path.join(data, 'large.json')),
        type: octets,
      })
      opened = (await follow(server, jobId)).result?.id ?? ''
    })
    const exporting = (format: string) => async () => {
      const address = `/api/folios/${opened}/datasets/readers`
      const body = JSON.stringify({ format, names: 'short', crs: 'EPSG:4326' })
      await follow(server, (await send<{ jobId: string }>(server, 'POST', address, { body })).jobId)
    }
    await measure('exporting 2,000,000 rows as CSV', exporting('csv'))
    await measure('exporting 2,000,000 rows as GeoPackage', exporting('gpkg'))
    await measure('saving a folio file of 175 MB', async () => {
      const body = JSON.stringify({ withFine: true })
      const address = `/api/folios/${opened}/file`
      const { jobId } = await send<{ jobId: string }>(server, 'POST', address, { body })
      await follow(server, jobId)
    })
    await measure('reading first rows of a workbook', () =>
      send(server, 'POST', `/api/imports/${kept.uploadId}/first-rows`, { body: '{}' }),
    )
    return ratios
  } finally {
    await server.stop()
    rmSync(data, { recursive: true, force: true })
  }
}
