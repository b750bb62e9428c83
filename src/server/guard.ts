import type { z } from 'zod'
import { Problem, problemResponse } from './problem'

const localNames = new Set(['localhost', '127.0.0.1', '[::1]'])

/**
 * Other names this server may be called by, for a team's server: `KEEN_PLOT_HOSTS=plots.example,10.0.0.7`.
 */
const allowedHosts = (): Set<string> =>
  new Set([
    ...localNames,
    ...(process.env.KEEN_PLOT_HOSTS ?? '')
      .split(',')
      .map((host) => host.trim())
      .filter(Boolean),
  ])

const hostName = (host: string): string => host.replace(/:\d+$/, '')

/**
 * Refuses requests that a foreign page could have sent: an unknown Host (DNS rebinding) or an Origin other
 * than our own.
 * @throws Problem 403
 */
export function checkOrigin(request: Request): void {
  const host = request.headers.get('host') ?? ''
  if (!allowedHosts().has(hostName(host)))
    throw new Problem(
      403,
      'This name is not one of this server’s',
      `Open Keen Plot under localhost, or add ${hostName(host)} to KEEN_PLOT_HOSTS.`,
    )
  const origin = request.headers.get('origin')
  if (origin && new URL(origin).host !== host)
    throw new Problem(403, 'Requests from other sites are not taken')
}

type Params = Record<string, string>

/** Wraps a route: checks where the request comes from, turns whatever is thrown into a problem detail. */
export function route(
  work: (request: Request, params: Params) => Promise<Response>,
): (request: Request, context: { params: Promise<Params> }) => Promise<Response> {
  return async (request, context) => {
    try {
      checkOrigin(request)
      return await work(request, await context.params)
    } catch (error) {
      return problemResponse(error)
    }
  }
}

/**
 * The body of a request, read up to a size.
 * @throws Problem 413
 */
export async function readBody(request: Request, maxBytes: number): Promise<Uint8Array> {
  const tooLarge = () =>
    new Problem(
      413,
      'The file is too large',
      `Up to ${Math.round(maxBytes / 1024 / 1024)} MB can be taken in.`,
    )
  if (Number(request.headers.get('content-length') ?? 0) > maxBytes) throw tooLarge()
  const pieces: Uint8Array[] = []
  let size = 0
  const reader = request.body?.getReader()
  while (reader) {
    const { done, value } = await reader.read()
    if (done) break
    size += value.length
    if (size > maxBytes) throw tooLarge()
    pieces.push(value)
  }
  return Buffer.concat(pieces)
}

/**
 * The JSON body of a request, checked.
 * @throws Problem 400
 */
export async function readJson<T>(request: Request, schema: z.ZodType<T>, maxBytes = 1_000_000): Promise<T> {
  let json: unknown
  const bytes = await readBody(request, maxBytes)
  try {
    json = JSON.parse(new TextDecoder().decode(bytes))
  } catch {
    throw new Problem(400, 'The request is not JSON')
  }
  const parsed = schema.safeParse(json)
  if (!parsed.success)
    throw new Problem(
      400,
      'The request cannot be understood',
      `At ${parsed.error.issues[0].path.join(' › ') || 'the top'}: ${parsed.error.issues[0].message}`,
    )
  return parsed.data
}
