import { ApiProblem } from './api'

/** What the bar says of a save that failed. */
export function failureWords(error: unknown): string {
  if (!(error instanceof ApiProblem)) return `The folio could not be saved: ${String(error)}`
  switch (error.more.code) {
    case 'disk-full':
      return 'The disk is full; nothing is lost, saving goes on when there is room'
    case 'read-only':
      return 'The data folder cannot be written to; nothing is lost, saving goes on when it can'
    default:
      return `${error.title}; your work stays in this window and is saved as soon as it can be`
  }
}
