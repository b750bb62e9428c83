import { existsSync, mkdirSync } from 'node:fs'
import path from 'node:path'

/** Where everything is kept: the database and, beside it, the rows, pictures and prints as files. */
export function dataFolder(...inside: string[]): string {
  const folder = path.resolve(process.env.KEEN_PLOT_DATA ?? path.join(process.cwd(), 'data'), ...inside)
  mkdirSync(folder, { recursive: true })
  return folder
}

export const maxUploadBytes = 300 * 1024 * 1024
/** An archive, whose files are unpacked in memory: as much as may come out of it. */
export const maxArchiveBytes = 1024 * 1024 * 1024
/** A raster, which is read piece by piece and never held whole. */
export const maxRasterBytes = 8 * 1024 * 1024 * 1024
/** A photograph for a page. */
export const maxPictureBytes = 60 * 1024 * 1024
/** A template with its pictures. */
export const maxTemplateBytes = 8 * 1024 * 1024
/** A folio file holds its rows as text. */
export const maxFolioFileBytes = 450 * 1024 * 1024
/** A folio is words and numbers; rows and shapes are kept apart. */
export const maxFolioBytes = 20 * 1024 * 1024

/**
 * The folio file that ships as the demo: with all cells of its relief, which are made with the application, or, where
 * they were not, with those that are held.
 */
export function demoFile(): string {
  const [whole, committed] = [['made'], []].map((inside) =>
    path.resolve(process.cwd(), 'demo', ...inside, 'a-country-that-reads.keen.json'),
  )
  return existsSync(whole) ? whole : committed
}
