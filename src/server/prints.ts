import { readFile, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import { nanoid } from 'nanoid'
import { z } from 'zod'
import { readFolio } from '@/core/folio/schema'
import { mimeTypes, PrintSettings } from '@/core/print/settings'
import { dataFolder } from './config'
import { contentFile } from './contents'
import type { Database } from './database'
import { openFolio } from './folios'
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
  const { folio, revision } = await openFolio(db, folioId)
  const sheet = folio.sheets.find((s) => s.id === request.sheetId)
  if (!sheet) throw notFound('sheet')
  const id = nanoid(12)
  const draft = path.join(dataFolder('prints'), `${id}.part`)
  const contentFiles = Object.fromEntries(
    folio.datasets.map(({ source }) => [source.contentId, contentFile(source.contentId)]),
  )
  const madeAt = new Date()
  return startJob(
    {
      kind: 'print',
      folio: readFolio(folio),
      sheetId: sheet.id,
      settings: PrintSettings.parse(request),
      contentFiles,
      outFile: draft,
      date: madeAt.toISOString(),
    },
    async () => {
      const { rename } = await import('node:fs/promises')
      await rename(draft, printPath(id))
      const { size } = await stat(printPath(id))
      const fileName = `${`${folio.name} ${sheet.name}`.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '')}.${request.format}`
      const row = await db.prints.create({
        id,
        folioId,
        sheetName: sheet.name,
        settings: JSON.stringify(request),
        revision,
        fileName,
        bytes: size,
        madeAt,
      })
      return cardOf(row)
    },
    () => rm(draft, { force: true }),
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

export async function readPrint(
  db: Database,
  id: string,
): Promise<{ bytes: Buffer; fileName: string; mime: string }> {
  const row = await db.prints.findByPk(id)
  if (!row) throw notFound('print')
  try {
    return {
      bytes: await readFile(printPath(row.id)),
      fileName: row.fileName,
      mime: mimeTypes[cardOf(row).settings.format],
    }
  } catch {
    throw new Problem(410, 'The file of this print is gone', 'Print the sheet again with the same settings.')
  }
}

export async function deletePrint(db: Database, id: string): Promise<void> {
  const row = await db.prints.findByPk(id)
  if (!row) throw notFound('print')
  await row.destroy()
  await rm(printPath(id), { force: true })
}
