import { nanoid } from 'nanoid'
import { LRUCache } from 'lru-cache'
import { col, fn } from 'sequelize'
import { emptyFolio, folioToJson, readFolio, type Folio } from '@/core/folio/schema'
import type { Database } from './database'
import type { FolioRow, RevisionRow } from './models'
import { notFound, Problem } from './problem'
import { thinRevisions } from './revisions'
import { carryOut } from './work/pool'
import { TaskFailure } from './work/protocol'

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
  /** Its document cannot be read; earlier versions may be. */
  isDamaged: boolean
}
export type OpenedFolio = { folio: Folio; revision: number; changedAt: string }

export async function listFolios(db: Database): Promise<FolioCard[]> {
  const rows = await db.folios.findAll({
    where: { deletedAt: null },
    order: [['changedAt', 'DESC']],
    attributes: ['id', 'name', 'isDemo', 'changedAt', 'revision', [fn('length', col('document')), 'size']],
  })
  const thumbnails = new Set(
    (await db.assets.findAll({ where: { kind: 'thumbnail' }, attributes: ['folioId'] })).map(
      (asset) => asset.folioId,
    ),
  )
  const cards: FolioCard[] = []
  for (const row of rows) {
    const { id, name, isDemo, changedAt, revision } = row
    const sheetCount = await sheetCountOf(db, id, `${id} ${revision} ${String(row.get('size' as never))}`)
    cards.push({
      ...{ id, name, isDemo, revision },
      changedAt: changedAt.toISOString(),
      sheetCount: sheetCount ?? 0,
      hasThumbnail: thumbnails.has(id),
      isDamaged: sheetCount === null,
    })
  }
  return cards
}

/** Whether documents could be read is known by their folio, revision and length. */
const sheetCounts = new LRUCache<string, { sheets: number | null }>({ max: 2000 })

/** How many sheets a folio has; null where its document cannot be read. */
async function sheetCountOf(db: Database, id: string, key: string): Promise<number | null> {
  const known = sheetCounts.get(key)
  if (known) return known.sheets
  const row = await db.folios.findByPk(id, { attributes: ['document'] })
  const folio = row && readDocument(row.document)
  const sheets = folio ? folio.sheets.length : null
  sheetCounts.set(key, { sheets })
  return sheets
}

/** A stored document; null where it is damaged. */
function readDocument(document: string): Folio | null {
  try {
    return readFolio(JSON.parse(document))
  } catch {
    return null
  }
}

export async function createFolio(db: Database, folio: Folio, isDemo = false): Promise<OpenedFolio> {
  const now = new Date()
  const document = folioToJson(folio)
  await db.write(() =>
    db.sequelize.transaction(async (transaction) => {
      await db.folios.create(
        { id: folio.id, name: folio.name, document, revision: 1, isDemo, changedAt: now },
        { transaction },
      )
      await db.revisions.create(
        { folioId: folio.id, number: 1, kind: 'saved', label: 'Made', document, savedAt: now },
        { transaction },
      )
    }),
  )
  return { folio, revision: 1, changedAt: now.toISOString() }
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

export const newFolio = (name: string): Folio => emptyFolio(nanoid(12), name)

async function rowOf(db: Database, id: string): Promise<FolioRow> {
  const row = await db.folios.findOne({ where: { id, deletedAt: null } })
  if (!row) throw notFound('folio')
  return row
}

/** @throws Problem 404 for no such folio */
export async function checkFolio(db: Database, id: string): Promise<void> {
  if ((await db.folios.count({ where: { id, deletedAt: null } })) === 0) throw notFound('folio')
}

/** @throws Problem 404; 422 where the document is damaged, with its last version that can be read */
export async function openFolio(db: Database, id: string): Promise<OpenedFolio> {
  const row = await rowOf(db, id)
  const folio = readDocument(row.document)
  if (!folio) throw await damageOf(db, row)
  return { folio, revision: row.revision, changedAt: row.changedAt.toISOString() }
}

/** What is offered in place of a damaged folio. */
export type Damage = { name: string; lastGood: RevisionCard | null }

async function damageOf(db: Database, { id, name }: FolioRow): Promise<Problem> {
  const lastGood = await lastGoodRevision(db, id)
  return new Problem(
    422,
    'This folio is damaged',
    lastGood
      ? `What is stored of it cannot be read. Revision ${lastGood.number}, saved ${lastGood.savedAt}, is whole.`
      : 'What is stored of it cannot be read, and no earlier version of it is whole.',
    { damage: { name, lastGood } satisfies Damage },
  )
}

async function lastGoodRevision(db: Database, folioId: string): Promise<RevisionCard | null> {
  const ids = await db.revisions.findAll({
    where: { folioId, kind: 'saved' },
    order: [['id', 'DESC']],
    attributes: ['id'],
  })
  for (const { id } of ids) {
    const row = await db.revisions.findByPk(id)
    if (row && readDocument(row.document)) return revisionCardOf(row)
  }
  return null
}

/**
 * Brings a damaged folio back as its last version that can be read was, as a revision of its own. What was
 * stored is kept aside as it is.
 * @throws Problem 409 where the folio is not damaged, or no version of it is whole
 */
export async function recoverFolio(db: Database, id: string): Promise<OpenedFolio> {
  const row = await rowOf(db, id)
  if (readDocument(row.document)) throw new Problem(409, 'This folio is not damaged')
  const good = await lastGoodRevision(db, id)
  const version = good && (await db.revisions.findByPk(good.id))
  if (!version) throw new Problem(409, 'No version of this folio is whole')
  const folio = readFolio(JSON.parse(version.document))
  const document = folioToJson({ ...folio, id })
  const now = new Date()
  await db.write(() =>
    db.sequelize.transaction(async (transaction) => {
      const aside = `Damaged, as it was found at revision ${row.revision}`
      const common = { folioId: id, savedAt: now }
      await db.revisions.create(
        { ...common, number: row.revision, kind: 'refused', label: aside, document: row.document },
        { transaction },
      )
      const label = `Brought back from revision ${version.number}`
      const revision = row.revision + 1
      await db.revisions.create(
        { ...common, number: revision, kind: 'saved', label, document },
        { transaction },
      )
      await row.update({ document, name: folio.name, revision, changedAt: now }, { transaction })
    }),
  )
  return openFolio(db, id)
}

type SaveMarks = { baseRevision: number; label: string; saveKey?: string }

/** A save: what it was made from, what it is, and a key by which it is known when it is sent again. */
export type Save = SaveMarks & { folio: Folio }

/** A save whose folio was checked: its document under the id that it is saved under, and its name. */
export type CheckedSave = SaveMarks & { document: string; name: string }

/** Saves a folio, as `saveChecked` does. */
export const saveFolio = (
  db: Database,
  id: string,
  { folio, ...marks }: Save,
): Promise<{ revision: number; savedAt: string }> =>
  saveChecked(db, id, { ...marks, document: folioToJson({ ...folio, id }), name: folio.name })

/**
 * Saves a folio as it was sent, once it has been checked in the process for saves.
 * @throws Problem 400 saying what is wrong with it; 409 as `saveChecked`
 */
export async function saveSent(
  db: Database,
  id: string,
  bytes: Uint8Array,
): Promise<{ revision: number; savedAt: string }> {
  let checked
  try {
    checked = await carryOut('checkSave', { id, bytes }, {}, async (save) => save)
  } catch (error) {
    if (error instanceof TaskFailure) throw new Problem(400, 'The folio cannot be saved', error.message)
    throw error
  }
  return saveChecked(db, id, checked)
}

/**
 * Saves a folio that was made from `baseRevision`. A save that has been taken already is answered again.
 * @throws Problem 409 when another save came first; what was sent is kept as a refused version, named in the
 * problem.
 */
export async function saveChecked(
  db: Database,
  id: string,
  { baseRevision, document, name, label, saveKey }: CheckedSave,
): Promise<{ revision: number; savedAt: string }> {
  return db.write(async () => {
    const before = saveKey && (await db.revisions.findOne({ where: { folioId: id, saveKey, kind: 'saved' } }))
    if (before) return { revision: before.number, savedAt: before.savedAt.toISOString() }
    const savedAt = new Date()
    const saved = await db.sequelize.transaction(async (transaction) => {
      const [changed] = await db.folios.update(
        { document, name, revision: baseRevision + 1, changedAt: savedAt },
        { where: { id, revision: baseRevision, deletedAt: null }, transaction },
      )
      if (!changed) return false
      await db.revisions.create(
        { folioId: id, number: baseRevision + 1, kind: 'saved', label, document, savedAt, saveKey },
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
  })
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
  await checkFolio(db, id)
  const rows = await db.revisions.findAll({
    where: { folioId: id },
    order: [['id', 'DESC']],
    limit: 100,
    attributes: ['id', 'number', 'kind', 'label', 'savedAt'],
  })
  return rows.map(revisionCardOf)
}

const revisionCardOf = ({ id, number, kind, label, savedAt }: RevisionRow): RevisionCard => ({
  ...{ id, number, kind, label },
  savedAt: savedAt.toISOString(),
})

export async function openRevision(db: Database, id: string, revisionId: number): Promise<Folio> {
  const row = await db.revisions.findOne({ where: { folioId: id, id: revisionId } })
  if (!row) throw notFound('version')
  const folio = readDocument(row.document)
  if (!folio) throw new Problem(422, 'This version is damaged', 'Choose another one.')
  return folio
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
