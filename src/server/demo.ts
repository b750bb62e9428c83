import { readFileSync } from 'node:fs'
import sharp from 'sharp'
import { dotsPerInch } from '@/core/scene/units'
import { writePng } from '@/render/raster/bitmap'
import { sheetScene } from '@/render/sheet'
import { demoFile } from './config'
import { loadContent } from './contents'
import type { Database } from './database'
import { openFolioFile, putThumbnail, type OpenedFolio } from './folios'

/** Puts a fresh copy of the demo on the shelf. */
export async function addDemo(db: Database): Promise<OpenedFolio> {
  const opened = await openFolioFile(db, readFileSync(demoFile, 'utf8'), true)
  thumbnail ??= drawThumbnail(opened)
  const picture = await thumbnail
  if (picture) await putThumbnail(db, opened.folio.id, picture)
  return opened
}

/** The same file gives the same picture; it is drawn once. */
let thumbnail: Promise<Buffer | null> | null = null

/** The demo is there when somebody opens the shelf for the first time; once it was deleted it stays away. */
export async function ensureDemo(db: Database): Promise<void> {
  if ((await db.folios.count()) === 0) await addDemo(db)
}

async function drawThumbnail({ folio }: OpenedFolio): Promise<Buffer | null> {
  const [sheet] = folio.sheets
  if (!sheet) return null
  const { scene, fonts } = sheetScene(folio, sheet.id, loadContent, { date: new Date() })
  const png = await writePng(scene, fonts, Math.max(40, dotsPerInch(640 / sheet.page.widthMm)))
  return sharp(png).resize({ width: 640 }).png({ palette: true }).toBuffer()
}
