import type { z } from 'zod'
import { issueWords } from '@/core/said/issue-words'
import { problemResponse } from './calm'
import { checkOrigin } from './door/hosts'
import { dataPolicy } from './door/policy'
import { isSignedIn } from './door/session'
import { textExcess } from './json-bounds'
import { notFound, Problem } from './problem'

type Params = Record<string, string>

/** What stands in a path: ids and names of files, never anything that leads elsewhere. */
const plainParam = /^[\w-][\w.-]{0,99}$/

/**
 * Wraps a route: checks where the request comes from and who sends it, and turns whatever is thrown into a
 * problem detail. `open` routes are for whoever has not signed in yet.
 */
export function route(
  work: (request: Request, params: Params) => Promise<Response>,
  { open = false }: { open?: boolean } = {},
): (request: Request, context: { params: Promise<Params> }) => Promise<Response> {
  return async (request, context) => {
    const answer = await answerOf(request, context, { work, open })
    answer.headers.set('content-security-policy', dataPolicy)
    return answer
  }
}

async function answerOf(
  request: Request,
  context: { params: Promise<Params> },
  { work, open }: { work: (request: Request, params: Params) => Promise<Response>; open: boolean },
): Promise<Response> {
  try {
    checkOrigin(request)
    if (!open && !(await isSignedIn(request)))
      throw new Problem(401, 'You are not signed in', 'Open the start page and give the word of this server.')
    const params = (await context.params) ?? {}
    if (Object.values(params).some((param) => !plainParam.test(param))) throw notFound('thing')
    const answer = await work(request, params)
    if (request.method !== 'HEAD') return answer
    // Nobody takes the body of this answer: what it would be read from is let go.
    await answer.body?.cancel()
    return new Response(null, answer)
  } catch (error) {
    return problemResponse(error)
  }
}

/**
 * The body of a request piece by piece, up to a size.
 * @throws Problem 415 where it is not of the type, 413 where it is larger
 */
export async function* bodyOf(
  request: Request,
  { type, maxBytes }: { type: string; maxBytes: number },
): AsyncGenerator<Uint8Array> {
  checkType(request, type)
  const tooLarge = () =>
    new Problem(
      413,
      'The file is too large',
      `Up to ${Math.round(maxBytes / 1024 / 1024)} MB can be taken in.`,
    )
  if (Number(request.headers.get('content-length') ?? 0) > maxBytes) throw tooLarge()
  let size = 0
  const reader = request.body?.getReader()
  while (reader) {
    const { done, value } = await reader.read()
    if (done) return
    size += value.length
    if (size > maxBytes) throw tooLarge()
    yield value
  }
}

function checkType({ headers }: Request, type: string): void {
  const given = (headers.get('content-type') ?? '').split(';')[0].trim().toLowerCase()
  if (given !== type)
    throw new Problem(
      415,
      'The body of the request is not of the right type',
      `Send it as ${type}${given ? `, not as ${given}` : ''}.`,
    )
}

/**
 * The whole body of a request.
 * @throws Problem 413, 415
 */
export async function readBody(
  request: Request,
  expected: { type: string; maxBytes: number },
): Promise<Uint8Array> {
  const pieces: Uint8Array[] = []
  for await (const piece of bodyOf(request, expected)) pieces.push(piece)
  return Buffer.concat(pieces)
}

/** An answer that is JSON already. */
export const jsonText = (json: string, status = 200): Response =>
  new Response(json, { status, headers: { 'content-type': 'application/json' } })

const sentence = (words: string): string => `${words.charAt(0).toUpperCase()}${words.slice(1)}.`

/**
 * The JSON body of a request, checked.
 * @throws Problem 400, 413, 415
 */
export async function readJson<T>(request: Request, schema: z.ZodType<T>, maxBytes = 1_000_000): Promise<T> {
  let json: unknown
  const bytes = await readBody(request, { type: 'application/json', maxBytes })
  const excess = textExcess(bytes)
  if (excess) throw new Problem(400, 'The request cannot be understood', sentence(excess))
  try {
    json = JSON.parse(new TextDecoder().decode(bytes))
  } catch {
    throw new Problem(400, 'The request is not JSON')
  }
  const parsed = schema.safeParse(json)
  if (!parsed.success)
    throw new Problem(400, 'The request cannot be understood', sentence(issueWords(parsed.error)))
  return parsed.data
}
