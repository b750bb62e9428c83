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
