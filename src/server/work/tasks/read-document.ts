import { documentOf, type FolioDocument } from '@/core/folio/document'
import { readFolio } from '@/core/folio/schema'
import { SaidError } from '@/core/said/said-error'
import { textExcess } from '../../json-bounds'

/**
 * Reads a folio as it is stored, brings it up to date, and writes it again: under another id or name where these are
 * given.
 * @throws SaidError, FolioError saying what is wrong with it
 */
export async function readDocument({
  document,
  id,
  name,
}: {
  document: string
  id?: string
  name?: string
}): Promise<FolioDocument> {
  const excess = textExcess(new TextEncoder().encode(document))
  if (excess) throw new SaidError(`This is no folio: ${excess}.`)
  let stored: unknown
  try {
    stored = JSON.parse(document)
  } catch {
    throw new SaidError('What is stored of this folio breaks off or is damaged.')
  }
  const folio = readFolio(stored)
  return documentOf(name === undefined ? folio : { ...folio, name }, id)
}
