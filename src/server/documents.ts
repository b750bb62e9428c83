import { createHash } from 'node:crypto'
import { refsIn, type FolioDocument, type FolioFacts } from '@/core/folio/document'
import { documentPrint } from '@/core/folio/schema-print'
import type { Folio } from '@/core/folio/schema'
import type { Database } from './database'
import type { FolioRow, RevisionRow } from './models'
import { packText, unpackText } from './packed-text'
import { notFound, Problem } from './problem'
import { carryOut } from './work/pool'
import { TaskFailure } from './work/protocol'
import type { TaskInput } from './work/tasks/registry'

/**
 * Documents as they are stored. The server itself reads none: what it has to know of one stands beside it, as long
 * as the text is still the one of that digest; everything else is read in a process of its own.
 */

/** A folio as it is stored, and as a window gets it. */
export type OpenedFolio = {
  id: string
  document: string
  name: string
  facts: FolioFacts
  revision: number
  changedAt: string
}

/** What a window gets of a folio. */
export type FolioInWindow = { folio: Folio; revision: number; changedAt: string }

/** An opened folio as the JSON of `FolioInWindow`, which its document is put into as it is. */
export const inWindow = ({ document, revision, changedAt }: OpenedFolio): string =>
  `{"folio":${document},"revision":${revision},"changedAt":${JSON.stringify(changedAt)}}`

const digestOf = (document: string): string => createHash('sha256').update(document).digest('hex')

/** Reads a stored document in a process of its own. @throws TaskFailure saying what is wrong with it */
export const readApart = (input: TaskInput<'readDocument'>): Promise<FolioDocument> =>
  carryOut('readDocument', input, {}, async (read) => read)

/** As `readApart`; null where the document is damaged. That a process broke off says nothing of the document. */
const readIfWhole = (document: string): Promise<FolioDocument | null> =>
  readApart({ document }).catch((error: unknown) => {
    if (error instanceof TaskFailure && error.isJudgement) return null
    throw error
  })

/** The columns that stand for a document which was written by this build. */
export const columnsOf = ({ document, name, facts, refs }: FolioDocument) => ({
  ...{ document, name, refs },
  facts: JSON.stringify(facts),
  sheetCount: facts.sheets.length,
  condition: 'whole' as const,
  writtenBy: documentPrint,
  digest: digestOf(document),
})

/** The columns of a version: its text, packed. */
export const versionOf = async (
  document: string,
  refs: string,
): Promise<{ document: string; packed: Buffer; refs: string }> => ({
  document: '',
  packed: await packText(document),
  refs,
})

/** The text of a version; empty where it cannot be unpacked. */
export const textOf = async ({
  document,
  packed,
}: Pick<RevisionRow, 'document' | 'packed'>): Promise<string> =>
  packed === null ? document : unpackText(packed).catch(() => '')

/** @throws Problem 404 */
export async function rowOf(db: Database, id: string): Promise<FolioRow> {
  const row = await db.folios.findOne({ where: { id, deletedAt: null } })
  if (!row) throw notFound('folio')
  return row
}

/** Whether what is known of a document is known of the one that is there. */
const isKnown = ({ document, writtenBy, digest }: FolioRow): boolean =>
  writtenBy === documentPrint && digest === digestOf(document)

/** A stored document as this build writes it; null where it is damaged. */
async function readRow(db: Database, row: FolioRow): Promise<FolioDocument | null> {
  const { id, document, name, facts, refs } = row
  if (isKnown(row) && facts !== null)
    return { document, name, facts: JSON.parse(facts) as FolioFacts, refs: refs ?? '' }
  const read = await readIfWhole(document)
  // What earlier builds wrote stays as it is until the folio is saved.
  await db
    .write(() => db.folios.update(knownOf(read, document), { where: { id, revision: row.revision } }))
    .catch((error: unknown) => console.error(error))
  return read
}

/** What is known of a stored document once it was read. */
function knownOf(read: FolioDocument | null, document: string) {
  if (!read) return { condition: 'damaged' as const, sheetCount: 0, writtenBy: null, digest: null }
  const { facts, refs } = read
  return read.document === document
    ? columnsOf(read)
    : { condition: 'whole' as const, sheetCount: facts.sheets.length, refs }
}

/** @throws Problem 404; 422 where the document is damaged, with its last version that can be read */
export async function openFolio(db: Database, id: string): Promise<OpenedFolio> {
  const row = await rowOf(db, id)
  const read = await readRow(db, row)
  if (!read) throw await damageOf(db, row)
  const { document, name, facts } = read
  return { id, document, name, facts, revision: row.revision, changedAt: row.changedAt.toISOString() }
}

/** Looks whether the document of a folio can be read, for the shelf. */
export async function lookAt(db: Database, id: string): Promise<void> {
  const row = await db.folios.findByPk(id)
  if (row) await readRow(db, row)
}

/** What is offered in place of a damaged folio. */
export type Damage = { name: string; lastGood: RevisionCard | null }

async function damageOf(db: Database, { id, name }: FolioRow): Promise<Problem> {
  const lastGood = (await lastGoodVersion(db, id))?.card ?? null
  return new Problem(
    422,
    'This folio is damaged',
    lastGood
      ? `What is stored of it cannot be read. Revision ${lastGood.number}, saved ${lastGood.savedAt}, is whole.`
      : 'What is stored of it cannot be read, and no earlier version of it is whole.',
    { damage: { name, lastGood } satisfies Damage },
  )
}

async function lastGoodVersion(
  db: Database,
  folioId: string,
): Promise<{ card: RevisionCard; read: FolioDocument } | null> {
  const ids = await db.revisions.findAll({
    where: { folioId, kind: 'saved' },
    order: [['id', 'DESC']],
    attributes: ['id'],
  })
  for (const { id } of ids) {
    const row = await db.revisions.findByPk(id)
    const read = row && (await readIfWhole(await textOf(row)))
    if (row && read) return { card: revisionCardOf(row), read }
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
  if (await readRow(db, row)) throw new Problem(409, 'This folio is not damaged')
  const good = await lastGoodVersion(db, id)
  if (!good) throw new Problem(409, 'No version of this folio is whole')
  const written = await readApart({ document: good.read.document, id })
  const now = new Date()
  const [aside, again] = await Promise.all([
    versionOf(row.document, `${row.refs ?? ''} ${refsIn(row.document)}`),
    versionOf(written.document, written.refs),
  ])
  await db.write(() =>
    db.sequelize.transaction(async (transaction) => {
      const common = { folioId: id, savedAt: now }
      const asFound = `Damaged, as it was found at revision ${row.revision}`
      await db.revisions.create(
        { ...common, ...aside, number: row.revision, kind: 'refused', label: asFound },
        { transaction },
      )
      const label = `Brought back from revision ${good.card.number}`
      const revision = row.revision + 1
      await db.revisions.create(
        { ...common, ...again, number: revision, kind: 'saved', label },
        { transaction },
      )
      await row.update({ ...columnsOf(written), revision, changedAt: now }, { transaction })
    }),
  )
  return openFolio(db, id)
}

export type RevisionCard = {
  id: number
  number: number
  kind: 'saved' | 'refused'
  label: string
  savedAt: string
}

export const revisionCardOf = ({ id, number, kind, label, savedAt }: RevisionRow): RevisionCard => ({
  ...{ id, number, kind, label },
  savedAt: savedAt.toISOString(),
})

/** A version's document as this build writes it, as JSON. @throws Problem 404, 422 where it is damaged */
export async function openRevision(db: Database, id: string, revisionId: number): Promise<string> {
  const row = await db.revisions.findOne({ where: { folioId: id, id: revisionId } })
  if (!row) throw notFound('version')
  const read = await readIfWhole(await textOf(row))
  if (!read) throw new Problem(422, 'This version is damaged', 'Choose another one.')
  return read.document
}
