import { SaidError } from '../said/said-error'

/** A folio that cannot be read, said in words for the person. */
export class FolioError extends SaidError {
  override name = 'FolioError'
}
