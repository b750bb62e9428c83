/** An error that a person or a program outside is told about, as a problem detail (RFC 9457). */
export class Problem extends Error {
  override name = 'Problem'

  /**
   * The application is bundled in several pieces, each with a class of its own, and what is shared between them (the
   * database, the pool) throws that of whichever came first: a problem is known by its name.
   */
  static override [Symbol.hasInstance](one: unknown): boolean {
    return one instanceof Error && one.name === 'Problem'
  }

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
