import { mkdtempSync, readdirSync, readlinkSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { z } from 'zod'
import { describe, expect, it, vi } from 'vitest'
import { readBody, readJson, route } from './guard'
import { notFound, Problem } from './problem'
import { sendFile } from './send-file'

/** Whether a descriptor of this process is of a file. */
function isOpen(fd: string, file: string): boolean {
  try {
    return readlinkSync(`/proc/self/fd/${fd}`) === file
  } catch {
    return false
  }
}

const request = (headers: Record<string, string> = {}, body?: string) =>
  new Request('http://localhost:3000/api/x', {
    method: body === undefined ? 'GET' : 'POST',
    headers: { host: 'localhost:3000', ...headers },
    body,
  })
const octets = { 'content-type': 'application/octet-stream' }
const json = { 'content-type': 'application/json; charset=utf-8' }
const answer = async (req: Request, work = async () => Response.json({ ok: true })) => {
  const response = await route(work)(req, { params: Promise.resolve({}) })
  return { status: response.status, type: response.headers.get('content-type'), body: await response.json() }
}

describe('requests', () => {
  it('from this page are let through', async () => {
    expect((await answer(request())).status).toBe(200)
    expect((await answer(request({ origin: 'http://localhost:3000' }))).status).toBe(200)
    expect((await answer(request({ host: '127.0.0.1:3000' }))).status).toBe(200)
  })

  it('under a foreign name or from a foreign page are refused as problem details', async () => {
    const named = await answer(request({ host: 'elsewhere.example' }))
    expect(named).toMatchObject({
      status: 403,
      type: 'application/problem+json',
      body: { status: 403, title: 'This name is not one of this server’s' },
    })
    expect((await answer(request({ origin: 'http://elsewhere.example' }))).status).toBe(403)
    expect((await answer(request({ origin: 'http://localhost:4000' }))).status).toBe(403)
    expect((await answer(request({ origin: 'null' }))).status).toBe(403)
    expect((await answer(request({ 'sec-fetch-site': 'cross-site' }))).status).toBe(403)
  })

  it('that would change something must say where they come from', async () => {
    const own = { origin: 'http://localhost:3000' }
    expect((await answer(request({}, '{}'))).status).toBe(403)
    expect((await answer(request(own, '{}'))).status).toBe(200)
    expect((await answer(request({ ...own, 'sec-fetch-site': 'same-origin' }, '{}'))).status).toBe(200)
    for (const site of ['cross-site', 'same-site', 'none'])
      expect((await answer(request({ ...own, 'sec-fetch-site': site }, '{}'))).status).toBe(403)
  })

  it('for the head of an answer let go of what its body would be read from', async () => {
    const folder = mkdtempSync(path.join(tmpdir(), 'keen-head-'))
    const file = path.join(folder, 'large')
    writeFileSync(file, new Uint8Array(5_000_000))
    const open = () => readdirSync('/proc/self/fd').filter((fd) => isOpen(fd, file)).length
    for (let i = 0; i < 30; i++) {
      const head = new Request('http://localhost:3000/api/x', {
        method: 'HEAD',
        headers: { host: 'localhost:3000' },
      })
      const response = await route(async () => sendFile({ file, bytes: 5_000_000, mime: 'x/y' }))(head, {
        params: Promise.resolve({}),
      })
      expect([response.status, response.body]).toEqual([200, null])
      expect(response.headers.get('content-length')).toBe('5000000')
    }
    await expect.poll(open).toBe(0)
    rmSync(folder, { recursive: true })
  })

  it('with parts of the path that are no ids lead nowhere', async () => {
    for (const id of ['a\0b', '../..', 'a/b', '', 'x'.repeat(200), '.hidden']) {
      const response = await route(async () => Response.json({}))(request(), {
        params: Promise.resolve({ id }),
      })
      expect([id, response.status]).toEqual([id, 404])
    }
  })

  it('are answered as the problem that was thrown, also by another piece of the bundle', async () => {
    vi.resetModules()
    const other = await import('./problem')
    expect(other.Problem).not.toBe(Problem)
    const thrown = new other.Problem(503, 'The database was moved or removed', '', { code: 'database-moved' })
    const { status, body } = await answer(request(), async () => {
      throw thrown
    })
    expect(status).toBe(503)
    expect(body).toMatchObject({ code: 'database-moved' })
    const { TaskFailure } = await import('./work/protocol')
    expect(new Problem(400, 'x') instanceof TaskFailure).toBe(false)
    expect(Object.assign(new Error('x'), { name: 'Other' }) instanceof other.Problem).toBe(false)
  })

  it('are answered in our words whatever is thrown', async () => {
    const words = async (thrown: unknown) => {
      const { status, body } = await answer(request(), async () => {
        throw thrown
      })
      return { status, said: JSON.stringify(body) }
    }
    const unforeseen = await words(new TypeError("Cannot read properties of null (reading '/home/me')"))
    expect(unforeseen.status).toBe(500)
    expect(unforeseen.said).not.toMatch(/Cannot read|\/home/)
    const full = Object.assign(new Error('no space'), { code: 'ENOSPC', path: '/home/me/data' })
    expect(await words(full)).toMatchObject({
      status: 507,
      said: expect.stringContaining('The disk is full'),
    })
    const wrapped = Object.assign(new Error('x'), {
      parent: Object.assign(new Error('y'), { code: 'SQLITE_FULL' }),
    })
    expect((await words(wrapped)).said).toContain('"code":"disk-full"')
    expect((await words(Object.assign(new Error('x'), { code: 'SQLITE_CORRUPT' }))).said).toContain('damaged')
    expect((await words(Object.assign(new Error('x'), { code: 'EROFS' }))).said).toContain('read-only')
  })

  it('for what is not there, and unforeseen errors, are answered in the same form', async () => {
    expect(
      await answer(request(), async () => {
        throw notFound('folio')
      }),
    ).toMatchObject({ status: 404, body: { title: 'There is no such folio' } })
  })
})

describe('bodies', () => {
  it('over the limit are refused, whatever their header says', async () => {
    await expect(
      readBody(request(octets, 'x'.repeat(2000)), { type: 'application/octet-stream', maxBytes: 1000 }),
    ).rejects.toMatchObject({ status: 413 })
    expect(
      (await readBody(request(octets, 'abc'), { type: 'application/octet-stream', maxBytes: 1000 })).length,
    ).toBe(3)
  })

  it('that are not what was asked for are explained', async () => {
    const schema = z.object({ name: z.string() })
    await expect(readJson(request(json, '{'), schema)).rejects.toMatchObject({
      status: 400,
      title: 'The request is not JSON',
    })
    await expect(readJson(request(json, '{"name": 4}'), schema)).rejects.toMatchObject({
      status: 400,
      detail: expect.stringContaining('At name'),
    })
    await expect(readJson(request({ 'content-type': 'text/plain' }, '{}'), schema)).rejects.toMatchObject({
      status: 415,
    })
    const deep = `${'['.repeat(1_000_000)}${']'.repeat(1_000_000)}`
    await expect(readJson(request(json, deep), schema, 1e7)).rejects.toMatchObject({
      status: 400,
      detail: expect.stringContaining('levels deep'),
    })
    expect(await readJson(request(json, '{"name": "a"}'), schema)).toEqual({ name: 'a' })
  })
})
