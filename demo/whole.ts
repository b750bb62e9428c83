import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { readFolioFile, writeFolioFile } from '@/formats/folio-file/folio-file'
import { readFile } from '@/formats/registry'

/** What is too large to be kept with the code and is made on demand: the relief, and the demo with all of its cells. */
const folder = path.join(import.meta.dirname, 'made')
const committed = path.join(import.meta.dirname, 'a-country-that-reads.keen.json')

const stampOf = (text: string): string => createHash('sha256').update(text).digest('hex')

/** Whether the whole demo is there and belongs to the committed one. */
export function isMade(): boolean {
  const stamp = path.join(folder, 'stamp')
  return existsSync(stamp) && readFileSync(stamp, 'utf8') === stampOf(readFileSync(committed, 'utf8'))
}

/**
 * Writes the relief as a file to be brought in, and the committed demo once more with all cells of it.
 * @throws Error where the committed demo holds another relief
 */
export async function makeWhole(relief: Uint8Array): Promise<void> {
  const text = readFileSync(committed, 'utf8')
  const { folio, contents } = readFolioFile(text)
  const entry = folio.datasets.find(({ id }) => id === 'relief')
  const held = entry && contents.get(entry.source.contentId)
  const { dataset, tiles } = (await readFile(relief, 'relief.tif')).datasets[0]
  const { raster } = dataset
  if (!entry || !held?.raster || !raster?.fine || !tiles) throw new Error('The demo has no such relief.')
  if (Buffer.compare(Buffer.from(held.raster.values.buffer), Buffer.from(raster.values.buffer)) !== 0)
    throw new Error('The committed demo holds another relief: write it anew with “npm run lindmere”.')
  const id = entry.source.contentId
  contents.set(id, { ...held, raster: { ...held.raster, fine: raster.fine } })
  const source = tiles.source()
  const file = writeFolioFile({ folio, contents, tiles: new Map([[id, source.read(0, source.size)]]) })
  mkdirSync(folder, { recursive: true })
  writeFileSync(path.join(folder, 'relief.tif'), relief)
  writeFileSync(path.join(folder, path.basename(committed)), file)
  writeFileSync(path.join(folder, 'stamp'), stampOf(text))
}
