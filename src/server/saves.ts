import type { FolioDocument } from '@/core/folio/document'
import type { Database } from './database'
import { columnsOf, rowOf, textOf, versionOf } from './documents'
import { Problem } from './problem'
import { thinRefused, thinRevisions } from './revisions'
import { carryOut } from './work/pool'
import { TaskFailure } from './work/protocol'

/** Old versions are thinned with every so many saves. */
const thinEvery = 20

export type Saved = { revision: number; savedAt: string }

/** What is said of a save: what it was made from, what it is, and a key by which it is known when it is sent again. */
export type SaveMarks = { baseRevision: number; label: string; saveKey?: string }

/**
 * Saves a folio as it was sent, once it has been checked in the process for saves.
 * @throws Problem 400 saying what is wrong with it; 409 as `saveWritten`
 */
export async function saveSent(
  db: Database,
  id: string,
  bytes: Uint8Array,
  signal?: AbortSignal,
): Promise<Saved> {
  let checked
  try {
    checked = await carryOut('checkSave', { id, bytes }, { signal }, async (save) => save)
  } catch (error) {
    if (error instanceof TaskFailure) throw new Problem(400, 'The folio cannot be saved', error.message)
    throw error
  }
  return saveWritten(db, id, checked, checked)
}

/**
 * Saves a folio that was made from `baseRevision` and has been written under its id. A save that has been taken
 * already is answered again.
 * @throws Problem 409 when another save came first; what was sent is kept as a refused version, named in the
 * problem.
 */
export async function saveWritten(
  db: Database,
  id: string,
  written: FolioDocument,
  { baseRevision, label, saveKey }: SaveMarks,
): Promise<Saved> {
  const columns = columnsOf(written)
  const version = await versionOf(written.document, written.refs)
  return db.write(async () => {
    const before = saveKey && (await db.revisions.findOne({ where: { folioId: id, saveKey, kind: 'saved' } }))
    if (before) return { revision: before.number, savedAt: before.savedAt.toISOString() }
    const savedAt = new Date()
    const saved = await db.sequelize.transaction(async (transaction) => {
      const [changed] = await db.folios.update(
        { ...columns, revision: baseRevision + 1, changedAt: savedAt },
        { where: { id, revision: baseRevision, deletedAt: null }, transaction },
      )
      if (!changed) return false
      await db.revisions.create(
        { ...version, folioId: id, number: baseRevision + 1, kind: 'saved', label, savedAt, saveKey },
        { transaction },
      )
      if (baseRevision % thinEvery === 0) await thinRevisions(db, id, { now: savedAt, transaction })
      return true
    })
    if (saved) return { revision: baseRevision + 1, savedAt: savedAt.toISOString() }
    const current = await rowOf(db, id)
    const kept = await keepRefused(db, id, { base: baseRevision, written, version, savedAt })
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
  {
    base,
    written,
    version,
    savedAt,
  }: {
    base: number
    written: FolioDocument
    version: Awaited<ReturnType<typeof versionOf>>
    savedAt: Date
  },
): Promise<number> {
  const last = await db.revisions.findOne({ where: { folioId, kind: 'refused' }, order: [['id', 'DESC']] })
  if (last && (await textOf(last)) === written.document) return last.id
  const row = await db.revisions.create({
    ...version,
    folioId,
    number: base,
    kind: 'refused',
    label: `Changes to revision ${base} that came too late`,
    savedAt,
  })
  await thinRefused(db, folioId)
  return row.id
}
