import { nanoid } from 'nanoid'
import { documentOf, type FolioDocument } from '@/core/folio/document'
import { emptyFolio } from '@/core/folio/empty-folio'
import type { Database } from './database'
import {
  columnsOf,
  openFolio,
  readApart,
  revisionCardOf,
  rowOf,
  versionOf,
  type OpenedFolio,
  type RevisionCard,
} from './documents'
import { notFound } from './problem'
import { saveWritten } from './saves'

export type FolioCard = {
  id: string
  name: string
  isDemo: boolean
  changedAt: string
  revision: number
  /** Null where its document has not been looked at yet. */
  sheetCount: number | null
  hasThumbnail: boolean
  /** Its document cannot be read; earlier versions may be. */
  isDamaged: boolean
}

/** What stands on the shelf, the one changed last in front; no document is read for it. */
export async function listFolios(db: Database): Promise<FolioCard[]> {
  const rows = await db.folios.findAll({
    where: { deletedAt: null },
    order: [['changedAt', 'DESC']],
    attributes: ['id', 'name', 'isDemo', 'changedAt', 'revision', 'sheetCount', 'condition'],
  })
  const thumbnails = new Set(
    (await db.assets.findAll({ where: { kind: 'thumbnail' }, attributes: ['folioId'] })).map(
      (asset) => asset.folioId,
    ),
  )
  return rows.map(({ id, name, isDemo, changedAt, revision, sheetCount, condition }) => ({
    ...{ id, name, isDemo, revision, sheetCount },
    changedAt: changedAt.toISOString(),
    hasThumbnail: thumbnails.has(id),
    isDamaged: condition === 'damaged',
  }))
}

/** Puts a folio that was written under its id on the shelf. */
export async function putOnShelf(
  db: Database,
  id: string,
  written: FolioDocument,
  { isDemo = false } = {},
): Promise<void> {
  const now = new Date()
  const columns = columnsOf(written)
  const version = await versionOf(written.document, written.refs)
  await db.write(() =>
    db.sequelize.transaction(async (transaction) => {
      await db.folios.create({ ...columns, id, revision: 1, isDemo, changedAt: now }, { transaction })
      await db.revisions.create(
        { ...version, folioId: id, number: 1, kind: 'saved', label: 'Made', savedAt: now },
        { transaction },
      )
    }),
  )
}

/** Makes a folio with nothing in it. */
export async function makeFolio(db: Database, name: string): Promise<OpenedFolio> {
  const folio = emptyFolio(nanoid(12), name)
  await putOnShelf(db, folio.id, documentOf(folio))
  return openFolio(db, folio.id)
}

/** Takes back a folio that nobody has seen yet, with all that was stored of it. */
export async function forgetFolio(db: Database, id: string): Promise<void> {
  await db.write(() =>
    db.sequelize.transaction(async (transaction) => {
      await db.assets.destroy({ where: { folioId: id }, transaction })
      await db.revisions.destroy({ where: { folioId: id }, transaction })
      await db.folios.destroy({ where: { id }, transaction })
    }),
  )
}

/** The name of a folio on the shelf; null where there is none. */
export const nameOf = async (db: Database, id: string): Promise<string | null> =>
  (await db.folios.findOne({ where: { id, deletedAt: null }, attributes: ['name'] }))?.name ?? null

/** @throws Problem 404 for no such folio */
export async function checkFolio(db: Database, id: string): Promise<void> {
  if ((await db.folios.count({ where: { id, deletedAt: null } })) === 0) throw notFound('folio')
}

export async function listRevisions(db: Database, id: string): Promise<RevisionCard[]> {
  await checkFolio(db, id)
  const rows = await db.revisions.findAll({
    where: { folioId: id },
    order: [['id', 'DESC']],
    limit: 100,
    attributes: ['id', 'number', 'kind', 'label', 'savedAt'],
  })
  return rows.map(revisionCardOf)
}

export async function renameFolio(db: Database, id: string, name: string): Promise<void> {
  const { document, revision } = await openFolio(db, id)
  const written = await readApart({ document, name })
  await saveWritten(db, id, written, { baseRevision: revision, label: 'Renamed' })
}

export async function duplicateFolio(db: Database, id: string): Promise<OpenedFolio> {
  const { document, name } = await openFolio(db, id)
  const copy = nanoid(12)
  await putOnShelf(db, copy, await readApart({ document, id: copy, name: `${name.slice(0, 194)}, copy` }))
  const thumbnail = await db.assets.findOne({ where: { folioId: id, kind: 'thumbnail' } })
  if (thumbnail) await putThumbnail(db, copy, thumbnail.data)
  return openFolio(db, copy)
}

/** Takes a folio off the shelf; `restoreFolio` puts it back. */
export async function deleteFolio(db: Database, id: string): Promise<void> {
  const row = await rowOf(db, id)
  await db.write(() => row.update({ deletedAt: new Date() }))
}

export async function restoreFolio(db: Database, id: string): Promise<void> {
  const [changed] = await db.write(() => db.folios.update({ deletedAt: null }, { where: { id } }))
  if (!changed) throw notFound('folio')
}

export async function putThumbnail(db: Database, folioId: string, data: Buffer): Promise<void> {
  const asset = { id: `thumbnail-${folioId}`, folioId, kind: 'thumbnail', mime: 'image/png', data }
  await db.write(() => db.assets.upsert({ ...asset, storedAt: new Date() }))
}

export async function getThumbnail(db: Database, folioId: string): Promise<Buffer> {
  const asset = await db.assets.findOne({ where: { folioId, kind: 'thumbnail' } })
  if (!asset) throw notFound('thumbnail')
  return asset.data
}
