import { rename, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import { nanoid } from 'nanoid'
import { z } from 'zod'
import { mimeTypes, PrintSettings } from '@/core/print/settings'
import { dataFolder } from './config'
import { contentFilesOf } from './contents'
import { pictureFilesOf } from './pictures'
import type { Database } from './database'
import { openFolio } from './documents'
import { startJob } from './jobs/jobs'
import { notFound, Problem } from './problem'

export const PrintRequest = PrintSettings.extend({ sheetId: z.string() })
export type PrintRequest = z.infer<typeof PrintRequest>

export type PrintCard = {
  id: string
  sheetName: string
  settings: PrintRequest
  revision: number
  fileName: string
  bytes: number
  madeAt: string
}

/**
 * Draws the saved folio's sheet into a file, in a job; the print is listed once the file is complete. Returns
 * the job's id.
 */
export async function startPrint(db: Database, folioId: string, request: PrintRequest): Promise<string> {
  const { document, name, facts, revision } = await openFolio(db, folioId)
  const sheet = facts.sheets.find((s) => s.id === request.sheetId)
  if (!sheet) throw notFound('sheet')
  const id = nanoid(12)
  const madeAt = new Date()
  return startJob(
    {
      name: 'printSheet',
      input: {
        document,
        sheetId: sheet.id,
        settings: PrintSettings.parse(request),
        contentFiles: contentFilesOf(facts),
        pictureFiles: pictureFilesOf(facts.pictures),
        date: madeAt,
      },
    },
    async ({ file, bytes }) => {
      await rename(file, printPath(id))
      const fileName = `${`${name} ${sheet.name}`.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '')}.${request.format}`
      const settings = JSON.stringify(request)
      const card = { id, folioId, sheetName: sheet.name, settings, revision, fileName, bytes, madeAt }
      try {
        return cardOf(await db.write(() => db.prints.create(card)))
      } catch (error) {
        await rm(printPath(id), { force: true })
        throw error
      }
    },
    { undo: (card) => deletePrint(db, card.id) },
  )
}

const printPath = (id: string): string => path.join(dataFolder('prints'), `${id}.print`)

type Row = {
  id: string
  sheetName: string
  settings: string
  revision: number
  fileName: string
  bytes: number
  madeAt: Date
}
const cardOf = ({ id, sheetName, settings, revision, fileName, bytes, madeAt }: Row): PrintCard => ({
  id,
  sheetName,
  settings: PrintRequest.parse(JSON.parse(settings)),
  revision,
  fileName,
  bytes,
  madeAt: madeAt.toISOString(),
})

export async function listPrints(db: Database, folioId: string): Promise<PrintCard[]> {
  return (await db.prints.findAll({ where: { folioId }, order: [['madeAt', 'DESC']] })).map(cardOf)
}

/** @throws Problem 404 for no such print, 410 where its file is gone */
export async function readPrint(
  db: Database,
  id: string,
): Promise<{ file: string; bytes: number; fileName: string; mime: string }> {
  const row = await db.prints.findByPk(id)
  if (!row) throw notFound('print')
  const file = printPath(row.id)
  const found = await stat(file).catch(() => null)
  if (!found)
    throw new Problem(410, 'The file of this print is gone', 'Print the sheet again with the same settings.')
  return { file, bytes: found.size, fileName: row.fileName, mime: mimeTypes[cardOf(row).settings.format] }
}

export async function deletePrint(db: Database, id: string): Promise<void> {
  const row = await db.prints.findByPk(id)
  if (!row) throw notFound('print')
  await db.write(() => row.destroy())
  await rm(printPath(id), { force: true })
}
