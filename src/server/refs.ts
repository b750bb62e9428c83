import { refsIn } from '@/core/folio/document'
import type { Database } from './database'
import { textOf } from './documents'

/**
 * The ids of all stored rows, pictures and files that the folios of a database refer to: in a document, or in a version
 * kept of it, also where these are damaged. Texts are looked into only where what they refer to does not stand beside
 * them, one at a time: all of them together may be larger than memory.
 */
export async function refsOfDatabase(db: Database): Promise<Set<string>> {
  const used = new Set<string>()
  const add = (refs: string): void => {
    for (const id of refs.split(' ')) used.add(id)
  }
  for (const { id, refs } of await db.folios.findAll({ attributes: ['id', 'refs'] })) {
    if (refs !== null) add(refs)
    const row = refs === null && (await db.folios.findByPk(id, { attributes: ['document'] }))
    if (row) add(refsIn(row.document))
  }
  for (const { id, refs } of await db.revisions.findAll({ attributes: ['id', 'refs'] })) {
    if (refs !== null) add(refs)
    const row = refs === null && (await db.revisions.findByPk(id, { attributes: ['document', 'packed'] }))
    if (row) add(refsIn(await textOf(row)))
  }
  return used
}
