import { Problem } from '../problem'

const localNames = new Set(['localhost', '127.0.0.1', '[::1]'])

/**
 * Other names this server may be called by, for a team's server: `KEEN_PLOT_HOSTS=plots.example,10.0.0.7`.
 */
const allowedHosts = (): Set<string> =>
  new Set([
    ...localNames,
    ...(process.env.KEEN_PLOT_HOSTS ?? '')
      .split(',')
      .map((host) => host.trim().toLowerCase())
      .filter(Boolean),
  ])

const hostName = (host: string): string => host.replace(/:\d+$/, '').toLowerCase()

/** Whether the server may be called by this name. A page whose own name leads here (DNS rebinding) is not let in. */
export const isOurName = (host: string): boolean => allowedHosts().has(hostName(host))

const isSafe = (method: string): boolean => method === 'GET' || method === 'HEAD'

/**
 * Refuses requests that a foreign page could have sent: under another name, from another origin, or, where they
 * would change something, without saying from where.
 * @throws Problem 403
 */
export function checkOrigin({ headers, method }: Request): void {
  const host = headers.get('host') ?? ''
  if (!isOurName(host))
    throw new Problem(
      403,
      'This name is not one of this server’s',
      'Open Keen Plot under localhost, or add the name to KEEN_PLOT_HOSTS.',
    )
  const foreign = new Problem(403, 'Requests from other sites are not taken')
  const site = headers.get('sec-fetch-site')
  if (site === 'cross-site' || (!isSafe(method) && site !== null && site !== 'same-origin')) throw foreign
  const origin = headers.get('origin')
  if (origin === null) {
    if (isSafe(method)) return
    throw new Problem(
      403,
      'A request that changes something must say where it comes from',
      'Send the header Origin with the address of this server.',
    )
  }
  if (hostOfOrigin(origin) !== host.toLowerCase()) throw foreign
}

/** The host of an origin; null for “null” and whatever else is none. */
function hostOfOrigin(origin: string): string | null {
  try {
    return new URL(origin).host || null
  } catch {
    return null
  }
}
