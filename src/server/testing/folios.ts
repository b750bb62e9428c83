import { nanoid } from 'nanoid'
import { documentOf } from '@/core/folio/document'
import { Folio, readFolio } from '@/core/folio/schema'
import { emptyFolio } from '@/core/folio/empty-folio'
import type { Database } from '../database'
import * as documents from '../documents'
import { putOnShelf } from '../folios'
import { saveWritten, type Saved, type SaveMarks } from '../saves'

/** Folios as values, as tests look at them; the server itself knows documents only. */

export const newFolio = (name: string): Folio => emptyFolio(nanoid(12), name)

/** A folio as it is stored, key by key as the schema has it. */
export const writtenAs = (folio: Folio, id: string) => documentOf(Folio.parse(folio), id)

export async function createFolio(db: Database, folio: Folio): Promise<documents.FolioInWindow> {
  await putOnShelf(db, folio.id, writtenAs(folio, folio.id))
  return openFolio(db, folio.id)
}

export const opened = ({
  document,
  revision,
  changedAt,
}: documents.OpenedFolio): documents.FolioInWindow => ({
  folio: readFolio(JSON.parse(document)),
  revision,
  changedAt,
})

export const openFolio = async (db: Database, id: string): Promise<documents.FolioInWindow> =>
  opened(await documents.openFolio(db, id))

export const openRevision = async (db: Database, id: string, revision: number): Promise<Folio> =>
  readFolio(JSON.parse(await documents.openRevision(db, id, revision)))

export const saveFolio = (
  db: Database,
  id: string,
  { folio, ...marks }: SaveMarks & { folio: Folio },
): Promise<Saved> => saveWritten(db, id, writtenAs(folio, id), marks)
