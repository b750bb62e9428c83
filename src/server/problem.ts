/** An error that a person or a program outside is told about, as a problem detail (RFC 9457). */
export class Problem extends Error {
  override name = 'Problem'
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail = '',
    readonly more: Record<string, unknown> = {},
  ) {
    super(detail || title)
  }
}

export const notFound = (what: string): Problem =>
  new Problem(404, `There is no such ${what}`, `It may have been deleted in another window.`)

export function problemResponse(error: unknown): Response {
  const problem =
    error instanceof Problem
      ? error
      : new Problem(
          500,
          'Something went wrong on the server',
          error instanceof Error ? error.message : String(error),
        )
  if (problem.status >= 500) console.error(error)
  return new Response(
    JSON.stringify({
      type: 'about:blank',
      title: problem.title,
      status: problem.status,
      detail: problem.detail,
      ...problem.more,
    }),
    {
      status: problem.status,
      headers: { 'content-type': 'application/problem+json' },
    },
  )
}
