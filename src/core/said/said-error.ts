/**
 * An error whose words are for a person: what is wrong, where, and what to do. Whatever else is thrown is a
 * fault of the program or of a library, and its words are never shown.
 */
export class SaidError extends Error {
  override name = 'SaidError'
}
