import { createHash } from 'node:crypto'
import { mkdtempSync, readdirSync, renameSync, rmSync, utimesSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { SignJWT } from 'jose'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { asksForWord, isSignedIn, signIn, signOut } from './session'

const request = (headers: Record<string, string> = {}, url = 'http://plots.example/api/session'): Request =>
  new Request(url, { method: 'POST', headers })
let address = 0
/** Tries are counted by address; each test comes from one of its own. */
const from = (headers: Record<string, string> = {}) =>
  request({ 'x-forwarded-for': `10.1.0.${address}`, ...headers })

const data = mkdtempSync(path.join(tmpdir(), 'keen-sessions-'))
const before = process.env.KEEN_PLOT_DATA
beforeAll(() => void (process.env.KEEN_PLOT_DATA = data))
afterAll(() => {
  process.env.KEEN_PLOT_DATA = before
  rmSync(data, { recursive: true })
})

beforeEach(() => {
  address++
  process.env.KEEN_PLOT_SECRET = 'weather vane'
})
afterEach(() => {
  delete process.env.KEEN_PLOT_SECRET
})

describe('a session', () => {
  it('is needed only where a word is set', async () => {
    expect([asksForWord(), await isSignedIn(request())]).toEqual([true, false])
    process.env.KEEN_PLOT_SECRET = '  '
    expect([asksForWord(), await isSignedIn(request())]).toEqual([false, true])
    await expect(signIn(from(), 'weather vane')).rejects.toMatchObject({ status: 404 })
  })

  it('opens for the word, in a cookie that scripts cannot read, and ends with another word', async () => {
    const cookie = await signIn(from(), 'weather vane')
    expect(cookie).toMatch(
      /^keen-session=[\w-]+\.[\w-]+\.[\w-]+; Path=\/; HttpOnly; SameSite=Strict; Max-Age=1209600$/,
    )
    const own = cookie.split(';')[0]
    expect(await isSignedIn(request({ cookie: `theme=dark; ${own}` }))).toBe(true)
    expect(await isSignedIn(request({ cookie: `x${own}` }))).toBe(false)
    process.env.KEEN_PLOT_SECRET = 'another'
    expect(await isSignedIn(request({ cookie: own }))).toBe(false)
    expect(await signOut(request(), false)).toContain('Max-Age=0')
    process.env.KEEN_PLOT_SECRET = 'weather vane'
    expect(await signIn(from({ 'x-forwarded-proto': 'https' }), 'weather vane')).toMatch(/; Secure$/)
  })

  it('is ended by leaving, for all servers on the folder and after a restart; others go on', async () => {
    const [mine, other] = await Promise.all(
      [0, 1].map(async () => (await signIn(from(), 'weather vane')).split(';')[0]),
    )
    const isOpen = (cookie: string) => isSignedIn(request({ cookie }))
    await signOut(request({ cookie: mine }), false)
    expect([await isOpen(mine), await isOpen(other)]).toEqual([false, true])
    vi.resetModules()
    const another = await import('./session')
    expect(await another.isSignedIn(request({ cookie: mine }))).toBe(false)
    expect(await another.isSignedIn(request({ cookie: other }))).toBe(true)
  })

  it('is ended with all others by leaving everywhere, which takes one; a new one opens', async () => {
    const open = async () => (await signIn(from(), 'weather vane')).split(';')[0]
    const cookies = [await open(), await open()]
    await expect(signOut(request(), true)).rejects.toMatchObject({ status: 401 })
    await signOut(request({ cookie: cookies[0] }), true)
    for (const cookie of cookies) {
      expect(await isSignedIn(request({ cookie }))).toBe(false)
      await expect(signOut(request({ cookie }), true)).rejects.toMatchObject({ status: 401 })
    }
    vi.resetModules()
    const another = await import('./session')
    expect(await another.isSignedIn(request({ cookie: cookies[1] }))).toBe(false)
    expect(await isSignedIn(request({ cookie: await open() }))).toBe(true)
  })

  it('that was ended stays so while its folder is away, and what is left of old ones is let go', async () => {
    const cookie = (await signIn(from(), 'weather vane')).split(';')[0]
    await signOut(request({ cookie }), false)
    const folder = path.join(data, 'sessions')
    const [mine] = readdirSync(folder).filter((name) => name.endsWith('.ended'))
    renameSync(folder, `${folder}-away`)
    expect(await isSignedIn(request({ cookie }))).toBe(false)
    rmSync(folder, { recursive: true, force: true })
    renameSync(`${folder}-away`, folder)
    utimesSync(path.join(folder, mine), 1e9, 1e9)
    await signOut(request({ cookie: (await signIn(from(), 'weather vane')).split(';')[0] }), false)
    expect(readdirSync(folder)).not.toContain(mine)
  })

  it('is not had by making one up: no signature, another algorithm, another key', async () => {
    const part = (value: object) => Buffer.from(JSON.stringify(value)).toString('base64url')
    const body = part({ iat: 1, exp: 4_000_000_000 })
    for (const head of [{ alg: 'none' }, { alg: 'HS256' }])
      for (const signature of ['', 'AAAA'])
        expect(await isSignedIn(request({ cookie: `keen-session=${part(head)}.${body}.${signature}` }))).toBe(
          false,
        )
  })

  it('of one’s own making is none where its id could lead elsewhere, also for whoever knows the word', async () => {
    const key = createHash('sha256').update('keen-plot session\nweather vane').digest()
    const made = async (id: string) =>
      `keen-session=${await new SignJWT({ opened: Date.now() }).setProtectedHeader({ alg: 'HS256' }).setJti(id).sign(key)}`
    expect(await isSignedIn(request({ cookie: await made('x'.repeat(21)) }))).toBe(true)
    for (const id of ['../../../elsewhere/././', '', 'x', `${'x'.repeat(20)}/`, `${'x'.repeat(20)}\0`]) {
      const cookie = await made(id)
      expect([id, await isSignedIn(request({ cookie }))]).toEqual([id, false])
      await signOut(request({ cookie }), false)
    }
    expect(readdirSync(path.dirname(data)).filter((name) => name.endsWith('.ended'))).toEqual([])
  })

  it('cannot be tried for by the dozen; the right word clears the count', async () => {
    const tries = from()
    const status = (word: string) =>
      signIn(tries, word).then(
        () => 204,
        (error: { status: number }) => error.status,
      )
    for (let i = 0; i < 9; i++) expect(await status('guess')).toBe(403)
    expect(await status('weather vane')).toBe(204)
    for (let i = 0; i < 10; i++) expect(await status('guess')).toBe(403)
    expect(await status('weather vane')).toBe(429)
    await expect(signIn(tries, 'x')).rejects.toMatchObject({
      detail: expect.stringMatching(/^Wait \d+ minutes/),
    })
  })
})
