import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import path from 'node:path'
import { faceFiles, familyOfFile, type TextFont } from '@/core/scene/fonts'
import { addFont, createFontBook, type FontBook } from '@/core/scene/text'

const cache = new Map<string, Uint8Array>()

/**
 * The bytes of a font file that ships with the application.
 * @throws Error for a name that is not in the catalogue.
 */
export function readFontFile(file: string): Uint8Array {
  const known = cache.get(file)
  if (known) return known
  const family = familyOfFile(file)
  if (!family) throw new Error(`There is no font file ‘${file}’.`)
  const bytes = readFileSync(path.join(packagesFolder(), '@fontsource', family, 'files', file))
  cache.set(file, bytes)
  return bytes
}

const packagesFolder = (): string => {
  const besideProject = path.join(process.cwd(), 'node_modules')
  try {
    readFileSync(path.join(besideProject, '@fontsource', 'bitter', 'package.json'))
    return besideProject
  } catch {
    return path.resolve(createRequire(import.meta.url).resolve('@fontsource/bitter/package.json'), '../../..')
  }
}

/** A font book that holds the given faces, read from disk. */
export function fontBookOf(fonts: TextFont[]): FontBook {
  const book = createFontBook()
  for (const file of new Set(fonts.flatMap(faceFiles))) addFont(book, file, readFontFile(file))
  return book
}
