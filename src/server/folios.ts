import { nanoid } from 'nanoid'
import { emptyFolio, FolioError, folioToJson, readFolio, type Folio } from '@/core/folio/schema'
import { readFolioFile, writeFolioFile } from '@/formats/folio-file/folio-file'
import { loadContent, storeContent } from './contents'
import type { Database } from './database'
import type { FolioRow } from './models'
import { notFound, Problem } from './problem'
import { thinRevisions } from './revisions'

/** Old versions are thinned with every so many saves. */
const thinEvery = 20

export type FolioCard = {
  id: string
  name: string
  isDemo: boolean
  changedAt: string
  revision: number
  sheetCount: number
  hasThumbnail: boolean
}
export type OpenedFolio = { folio: Folio; revision: number; changedAt: string }

export async function listFolios(db: Database): Promise<FolioCard[]> {
  const rows = await db.folios.findAll({ where: { deletedAt: null }, order: [['changedAt', 'DESC']] })
  const thumbnails = new Set(
    (await db.assets.findAll({ where: { kind: 'thumbnail' }, attributes: ['folioId'] })).map(
      (asset) => asset.folioId,
    ),
  )
  return rows.map(({ id, name, isDemo, changedAt, revision, document }) => ({
    id,
    name,
    isDemo,
    changedAt: changedAt.toISOString(),
    revision,
    sheetCount: (JSON.parse(document) as Folio).sheets.length,
    hasThumbnail: thumbnails.has(id),
  }))
}

export async function createFolio(db: Database, folio: Folio, isDemo = false): Promise<OpenedFolio> {
  const now = new Date()
  const document = folioToJson(folio)
  await db.sequelize.transaction(async (transaction) => {
    await db.folios.create(
      { id: folio.id, name: folio.name, document, revision: 1, isDemo, changedAt: now },
      { transaction },
    )
    await db.revisions.create(
      { folioId: folio.id, number: 1, kind: 'saved', label: 'Made', document, savedAt: now },
      { transaction },
    )
  })
  return { folio, revision: 1, changedAt: now.toISOString() }
}

export const newFolio = (name: string): Folio => emptyFolio(nanoid(12), name)

async function rowOf(db: Database, id: string): Promise<FolioRow> {
  const row = await db.folios.findOne({ where: { id, deletedAt: null } })
  if (!row) throw notFound('folio')
  return row
}

export async function openFolio(db: Database, id: string): Promise<OpenedFolio> {
  const row = await rowOf(db, id)
  return {
    folio: readFolio(JSON.parse(row.document)),
    revision: row.revision,
    changedAt: row.changedAt.toISOString(),
  }
}

/**
 * Saves a folio that was made from `baseRevision`.
 * @throws Problem 409 when another save came first; what was sent is kept as a refused version, named in the
 * problem.
 */
export async function saveFolio(
  db: Database,
  id: string,
  { baseRevision, folio, label }: { baseRevision: number; folio: Folio; label: string },
): Promise<{ revision: number; savedAt: string }> {
  const document = folioToJson({ ...folio, id })
  const savedAt = new Date()
  const saved = await db.sequelize.transaction(async (transaction) => {
    const [changed] = await db.folios.update(
      { document, name: folio.name, revision: baseRevision + 1, changedAt: savedAt },
      { where: { id, revision: baseRevision, deletedAt: null }, transaction },
    )
    if (!changed) return false
    await db.revisions.create(
      { folioId: id, number: baseRevision + 1, kind: 'saved', label, document, savedAt },
      { transaction },
    )
    if (baseRevision % thinEvery === 0) await thinRevisions(db, id, { now: savedAt, transaction })
    return true
  })
  if (saved) return { revision: baseRevision + 1, savedAt: savedAt.toISOString() }
  const current = await rowOf(db, id)
  const kept = await keepRefused(db, id, { base: baseRevision, document, savedAt })
  throw new Problem(
    409,
    'This folio was changed in another window',
    `Revision ${current.revision} was saved ${current.changedAt.toISOString()}; these changes were made from revision ${baseRevision}.`,
    { revision: current.revision, changedAt: current.changedAt.toISOString(), keptAs: kept },
  )
}

/** Keeps what could not be saved; saving the same words again does not keep them twice. */
async function keepRefused(
  db: Database,
  folioId: string,
  { base, document, savedAt }: { base: number; document: string; savedAt: Date },
): Promise<number> {
  const last = await db.revisions.findOne({ where: { folioId, kind: 'refused' }, order: [['id', 'DESC']] })
  if (last?.document === document) return last.id
  const row = await db.revisions.create({
    folioId,
    number: base,
    kind: 'refused',
    label: `Changes to revision ${base} that came too late`,
    document,
    savedAt,
  })
  return row.id
}

export type RevisionCard = {
  id: number
  number: number
  kind: 'saved' | 'refused'
  label: string
  savedAt: string
}

export async function listRevisions(db: Database, id: string): Promise<RevisionCard[]> {
  await rowOf(db, id)
  const rows = await db.revisions.findAll({
    where: { folioId: id },
    order: [['id', 'DESC']],
    limit: 100,
    attributes: ['id', 'number', 'kind', 'label', 'savedAt'],
  })
  return rows.map((row) => ({
    id: row.id,
    number: row.number,
    kind: row.kind,
    label: row.label,
    savedAt: row.savedAt.toISOString(),
  }))
}

export async function openRevision(db: Database, id: string, revisionId: number): Promise<Folio> {
  const row = await db.revisions.findOne({ where: { folioId: id, id: revisionId } })
  if (!row) throw notFound('version')
  return readFolio(JSON.parse(row.document))
}

export async function renameFolio(db: Database, id: string, name: string): Promise<void> {
  const { folio, revision } = await openFolio(db, id)
  await saveFolio(db, id, { baseRevision: revision, folio: { ...folio, name }, label: 'Renamed' })
}

export async function duplicateFolio(db: Database, id: string): Promise<OpenedFolio> {
  const { folio } = await openFolio(db, id)
  const copy = await createFolio(db, { ...folio, id: nanoid(12), name: `${folio.name}, copy` })
  const thumbnail = await db.assets.findOne({ where: { folioId: id, kind: 'thumbnail' } })
  if (thumbnail) await putThumbnail(db, copy.folio.id, thumbnail.data)
  return copy
}

/** Takes a folio off the shelf; `restoreFolio` puts it back. */
export async function deleteFolio(db: Database, id: string): Promise<void> {
  const row = await rowOf(db, id)
  await row.update({ deletedAt: new Date() })
}

export async function restoreFolio(db: Database, id: string): Promise<void> {
  const [changed] = await db.folios.update({ deletedAt: null }, { where: { id } })
  if (!changed) throw notFound('folio')
}

/** Puts a folio file on the shelf, its rows into the store. It gets an id of its own. */
export async function openFolioFile(db: Database, text: string, isDemo = false): Promise<OpenedFolio> {
  const { folio, contents } = readAnyFolioFile(text)
  const stored = new Map<string, string>()
  for (const [id, dataset] of contents) stored.set(id, await storeContent(db, dataset))
  const datasets = folio.datasets.map((entry) => ({
    ...entry,
    source: { ...entry.source, contentId: stored.get(entry.source.contentId) ?? entry.source.contentId },
  }))
  return createFolio(db, { ...folio, id: nanoid(12), datasets }, isDemo)
}

function readAnyFolioFile(text: string): ReturnType<typeof readFolioFile> {
  try {
    return readFolioFile(text)
  } catch (error) {
    if (error instanceof FolioError) throw new Problem(422, 'This file cannot be opened', error.message)
    throw error
  }
}

/** A folio with its rows as one text. */
export async function saveFolioFile(db: Database, id: string): Promise<{ name: string; text: string }> {
  const { folio } = await openFolio(db, id)
  const contents = new Map(
    folio.datasets.map(({ source }) => [source.contentId, loadContent(source.contentId)]),
  )
  return { name: folio.name, text: writeFolioFile({ folio, contents }) }
}

export async function putThumbnail(db: Database, folioId: string, data: Buffer): Promise<void> {
  await db.assets.upsert({
    id: `thumbnail-${folioId}`,
    folioId,
    kind: 'thumbnail',
    mime: 'image/png',
    data,
    storedAt: new Date(),
  })
}

export async function getThumbnail(db: Database, folioId: string): Promise<Buffer> {
  const asset = await db.assets.findOne({ where: { folioId, kind: 'thumbnail' } })
  if (!asset) throw notFound('thumbnail')
  return asset.data
}
