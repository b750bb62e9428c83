import { z } from 'zod'
import { describe, expect, it } from 'vitest'
import { readBody, readJson, route } from './guard'
import { notFound } from './problem'

const request = (headers: Record<string, string> = {}, body?: string) =>
  new Request('http://localhost:3000/api/x', {
    method: body === undefined ? 'GET' : 'POST',
    headers: { host: 'localhost:3000', ...headers },
    body,
  })
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
    await expect(readBody(request({}, 'x'.repeat(2000)), 1000)).rejects.toMatchObject({ status: 413 })
    expect((await readBody(request({}, 'abc'), 1000)).length).toBe(3)
  })

  it('that are not what was asked for are explained', async () => {
    const schema = z.object({ name: z.string() })
    await expect(readJson(request({}, '{'), schema)).rejects.toMatchObject({
      status: 400,
      title: 'The request is not JSON',
    })
    await expect(readJson(request({}, '{"name": 4}'), schema)).rejects.toMatchObject({
      status: 400,
      detail: expect.stringContaining('At name'),
    })
    expect(await readJson(request({}, '{"name": "a"}'), schema)).toEqual({ name: 'a' })
  })
})
