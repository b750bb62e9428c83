import { FolioError } from '@/core/folio/folio-error'
import { SaidError } from '@/core/said/said-error'
import { Problem } from './problem'
import { TaskFailure } from './work/protocol'

/** What may befall a disk or a database, and what is said of it. `code` goes out, so that the bar can tell. */
const troubles: { codes: RegExp; status: number; code: string; title: string; detail: string }[] = [
  {
    codes: /^(ENOSPC|EDQUOT|SQLITE_FULL)$/,
    status: 507,
    code: 'disk-full',
    title: 'The disk is full',
    detail: 'Nothing is lost. Saving goes on when there is room.',
  },
  {
    codes: /^(EACCES|EPERM|EROFS|SQLITE_READONLY|SQLITE_PERM|SQLITE_CANTOPEN)/,
    status: 503,
    code: 'read-only',
    title: 'The data folder cannot be written to',
    detail: 'Nothing is lost. Saving goes on when the folder can be written to again.',
  },
  {
    codes: /^(SQLITE_CORRUPT|SQLITE_NOTADB)/,
    status: 503,
    code: 'database-damaged',
    title: 'The database is damaged',
    detail:
      'The shelf offers the backups that were made of it. What was saved after the one that you choose is not in it; what is damaged is put aside as it is, with its journals.',
  },
  {
    codes: /^(SQLITE_BUSY|SQLITE_LOCKED)/,
    status: 503,
    code: 'busy',
    title: 'The database is busy',
    detail: 'Another program holds it. It is tried again in a moment; nothing is lost.',
  },
  {
    codes: /^(EIO|SQLITE_IOERR)/,
    status: 503,
    code: 'disk-error',
    title: 'The disk does not answer as it should',
    detail: 'Nothing that was saved before is touched. Look after the disk, then save again.',
  },
]

/** The code of an error of the system or the database, wherever its wrappers have put it. */
function codeOf(error: unknown): string {
  let at = error as { code?: unknown; parent?: unknown; original?: unknown; cause?: unknown } | undefined
  for (let depth = 0; at && depth < 5; depth++) {
    if (typeof at.code === 'string') return at.code
    at = (at.parent ?? at.original ?? at.cause) as typeof at
  }
  return ''
}

/**
 * Any error as a problem in our words. What a library says goes to the log only: it may name paths, and it
 * says nothing to the person.
 */
export function calmProblem(error: unknown): Problem {
  if (error instanceof Problem) return error
  if (error instanceof FolioError) return new Problem(422, 'This folio cannot be read', error.message)
  if (error instanceof SaidError || error instanceof TaskFailure)
    return new Problem(422, 'This cannot be done so', error.message)
  const code = codeOf(error)
  const trouble = troubles.find(({ codes }) => codes.test(code))
  if (trouble) return new Problem(trouble.status, trouble.title, trouble.detail, { code: trouble.code })
  return new Problem(
    500,
    'Something went wrong on the server',
    'It was not foreseen; what the server wrote into its log says more. Nothing that was saved is touched.',
  )
}

/** Whatever was thrown, as a problem detail (RFC 9457). */
export function problemResponse(error: unknown): Response {
  const { status, title, detail, more } = calmProblem(error)
  if (status >= 500) console.error(error)
  return new Response(JSON.stringify({ type: 'about:blank', title, status, detail, ...more }), {
    status,
    headers: { 'content-type': 'application/problem+json', 'cache-control': 'no-store' },
  })
}
