import { createHash, timingSafeEqual } from 'node:crypto'
import { jwtVerify, SignJWT } from 'jose'
import { nanoid } from 'nanoid'
import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible'
import { Problem } from '../problem'
import { endAllSessions, endSession, wasEnded, type Session } from './ended'

/** A session lasts so long; then the word is asked for again. */
const sessionDays = 14
const cookieName = 'keen-session'

/** The word that a team shares; without one, as on one's own machine, nobody is asked. */
const secret = (): string | null => process.env.KEEN_PLOT_SECRET?.trim() || null

export const asksForWord = (): boolean => secret() !== null

const digest = (text: string): Buffer => createHash('sha256').update(text).digest()

/** Sessions are signed with a key made from the word: another word ends them all. */
const signingKey = (word: string): Uint8Array => digest(`keen-plot session\n${word}`)

const perAddress = new RateLimiterMemory({ points: 10, duration: 900 })
const overall = new RateLimiterMemory({ points: 100, duration: 900 })

const addressOf = ({ headers }: Request): string =>
  (headers.get('x-forwarded-for') ?? '').split(',')[0].trim() || 'unknown'

/** @throws Problem 429 after too many tries */
async function countTry(request: Request): Promise<void> {
  try {
    await perAddress.consume(addressOf(request))
    await overall.consume('all')
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error
    const minutes = Math.ceil(error.msBeforeNext / 60_000)
    throw new Problem(
      429,
      'Too many tries',
      `Wait ${minutes === 1 ? 'a minute' : `${minutes} minutes`} and try again.`,
    )
  }
}

/**
 * Opens a session for whoever knows the word. Returns the cookie that carries it.
 * @throws Problem 403 for another word, 404 where none is asked for, 429 after too many tries
 */
export async function signIn(request: Request, word: string): Promise<string> {
  const expected = secret()
  if (expected === null) throw new Problem(404, 'No word is asked for here')
  await countTry(request)
  if (!timingSafeEqual(digest(word), digest(expected)))
    throw new Problem(403, 'This is not the word', 'Ask whoever set up this server.')
  await perAddress.delete(addressOf(request))
  const token = await new SignJWT({ opened: Date.now() })
    .setProtectedHeader({ alg: 'HS256' })
    .setJti(nanoid())
    .setIssuedAt()
    .setExpirationTime(`${sessionDays}d`)
    .sign(signingKey(expected))
  return cookie(request, token, sessionDays * 86_400)
}

/**
 * Ends the session of a request, or all that there are. Returns the cookie that takes its place.
 * @param everywhere whether all sessions end; that takes one
 * @throws Problem 401 where somebody without a session would end all
 */
export async function signOut(request: Request, everywhere: boolean): Promise<string> {
  const session = await sessionOf(request)
  if (everywhere && secret() !== null && !session)
    throw new Problem(401, 'You are not signed in', 'Open the start page and give the word of this server.')
  if (session) await (everywhere ? endAllSessions() : endSession(session, sessionDays * 86_400_000))
  return cookie(request, '', 0)
}

function cookie(request: Request, value: string, maxAge: number): string {
  const encrypted =
    request.headers.get('x-forwarded-proto') === 'https' || new URL(request.url).protocol === 'https:'
  return `${cookieName}=${value}; Path=/; HttpOnly; SameSite=Strict; Max-Age=${maxAge}${encrypted ? '; Secure' : ''}`
}

/** Whether a request belongs to a session, or none is needed. */
export const isSignedIn = async (request: Request): Promise<boolean> =>
  secret() === null || (await sessionOf(request)) !== null

/** The session of a request; null where there is none, or none any more. */
async function sessionOf(request: Request): Promise<Session | null> {
  const word = secret()
  const token = new RegExp(`(?:^|;\\s*)${cookieName}=([^;]+)`).exec(request.headers.get('cookie') ?? '')?.[1]
  if (word === null || !token) return null
  const { payload } = await jwtVerify(token, signingKey(word), { algorithms: ['HS256'] }).catch(() => ({
    payload: null,
  }))
  if (typeof payload?.jti !== 'string' || typeof payload.opened !== 'number') return null
  // Whoever knows the word can sign a session of their own making; its id becomes the name of a file.
  if (!/^[\w-]{21}$/.test(payload.jti)) return null
  const session = { id: payload.jti, openedAt: payload.opened }
  return (await wasEnded(session)) ? null : session
}
