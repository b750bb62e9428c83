import { existsSync, mkdirSync } from 'node:fs'
import path from 'node:path'
import { mostDocumentBytes } from '@/core/folio/document'
import { ownFiles } from '@/formats/limits'
import { Problem } from './problem'

export { ownFiles }

const rootFolder = (): string => path.resolve(process.env.KEEN_PLOT_DATA ?? path.join(process.cwd(), 'data'))

const shared = globalThis as typeof globalThis & { keenPlotRoots?: Set<string> }

/**
 * Where everything is kept: the database and, beside it, the rows, pictures and prints as files. It is made once; one
 * that is gone later was moved, and no empty one is put in its place.
 * @throws Problem 503 where it was moved
 */
export function dataFolder(...inside: string[]): string {
  const root = rootFolder()
  const known = (shared.keenPlotRoots ??= new Set())
  if (!existsSync(/* turbopackIgnore: true */ root)) {
    if (known.has(root))
      throw new Problem(
        503,
        'The data folder was moved or removed',
        'Nothing is written until it is where it was. The shelf can write a copy of the database.',
        { code: 'database-moved' },
      )
    mkdirSync(root, { recursive: true })
  }
  known.add(root)
  const [first, ...rest] = inside
  if (first === 'backups' && process.env.KEEN_PLOT_BACKUPS)
    return made(path.resolve(process.env.KEEN_PLOT_BACKUPS, ...rest))
  return made(path.resolve(root, ...inside))
}

function made(folder: string): string {
  // Asking is cheap; making one waits for whoever writes there.
  if (!existsSync(/* turbopackIgnore: true */ folder)) mkdirSync(folder, { recursive: true })
  return folder
}

/** Folders of stored files, each of which has its name only once it is complete. */
export const stores = [
  'datasets',
  'uploads',
  'pictures',
  'templates',
  'prints',
  'backups',
  'sessions',
] as const

export const maxUploadBytes = 300 * 1024 * 1024
/** An archive, whose files are unpacked in memory: as much as may come out of it. */
export const maxArchiveBytes = 1024 * 1024 * 1024
/** Everything that a server keeps. */
export const maxEverythingBytes = 64 * 1024 * 1024 * 1024
/** A raster, which is read piece by piece and never held whole. */
export const maxRasterBytes = 8 * 1024 * 1024 * 1024
/** A photograph for a page. */
export const maxPictureBytes = 60 * 1024 * 1024
/** A save: a folio and what is said of it. */
export const maxSaveBytes = mostDocumentBytes + 10_000

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
