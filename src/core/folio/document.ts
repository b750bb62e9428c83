import { FolioError } from './folio-error'
import type { Folio } from './schema'

/** A folio is words and numbers; rows and shapes are kept apart. */
export const mostDocumentBytes = 20 * 1024 * 1024

/** What has to be known of a folio to serve it, so that its document need not be read for that. */
export type FolioFacts = {
  sheets: { id: string; name: string }[]
  datasets: {
    id: string
    name: string
    fileName: string
    contentId: string
    geometry: Folio['datasets'][number]['geometry']
  }[]
  /** Ids of its pictures. */
  pictures: string[]
}

export const factsOf = ({ sheets, datasets, pictures }: Folio): FolioFacts => ({
  sheets: sheets.map(({ id, name }) => ({ id, name })),
  datasets: datasets.map(({ id, name, geometry, source: { fileName, contentId } }) => ({
    ...{ id, name, geometry },
    ...{ fileName, contentId },
  })),
  pictures: pictures.map(({ id }) => id),
})

/** A folio that was read, as it is stored. */
export type FolioDocument = {
  document: string
  name: string
  facts: FolioFacts
  /** Ids of stored rows, pictures and files that stand anywhere in it, with blanks between them. */
  refs: string
}

/**
 * A folio as it is stored; `id` is put in place of its own.
 * @param folio as the schema gave it
 * @throws FolioError where it is larger than a folio may be
 */
export function documentOf(folio: Folio, id = folio.id): FolioDocument {
  const document = JSON.stringify({ ...folio, id })
  const bytes = document.length > mostDocumentBytes / 4 ? new TextEncoder().encode(document).length : 0
  if (bytes > mostDocumentBytes)
    throw new FolioError(
      `This folio is too large: ${Math.ceil(bytes / 1e6)} MB without its rows, of ${Math.floor(mostDocumentBytes / 1e6)} MB at most.`,
    )
  return { document, name: folio.name, facts: factsOf(folio), refs: refsIn(document) }
}

/** Ids of stored things in the text of a folio, whether or not it can be read. */
export function refsIn(document: string): string {
  const found = new Set<string>()
  for (const [id] of document.matchAll(/[0-9a-f]{32}/g)) found.add(id)
  for (const [, id] of document.matchAll(/"uploadId":"([\w-]{16})"/g)) found.add(id)
  return [...found].join(' ')
}
