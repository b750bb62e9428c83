import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { asksForWord, isSignedIn, signIn, signOut } from './session'

const request = (headers: Record<string, string> = {}, url = 'http://plots.example/api/session'): Request =>
  new Request(url, { method: 'POST', headers })
let address = 0
/** Tries are counted by address; each test comes from one of its own. */
const from = (headers: Record<string, string> = {}) =>
  request({ 'x-forwarded-for': `10.1.0.${address}`, ...headers })

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
    expect(signOut(request())).toContain('Max-Age=0')
    process.env.KEEN_PLOT_SECRET = 'weather vane'
    expect(await signIn(from({ 'x-forwarded-proto': 'https' }), 'weather vane')).toMatch(/; Secure$/)
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
