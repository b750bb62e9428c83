import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Folio } from '@/core/folio/schema'
import { emptyFolio } from '@/core/folio/empty-folio'
import { plainSource } from '@/core/data/entry'
import { plainLayout } from '@/core/data/table-layout'
import type { Dataset } from '@/core/data/dataset'
import { cellsOf } from '@/core/data/raster-cells'
import { unpackTile } from '@/formats/raster-tiles/read'
import { writePyramid } from '@/formats/raster-tiles/write'
import { openDatabase, type Database } from './database'
import { adoptContent, clearContents, contentFile, storedTile } from './contents'
import { Problem } from './problem'
import { fileSink } from './work/file-source'
import { newScratch } from './work/scratch'
import { openFolioFile, saveFolioFile } from './work/tasks/folio-file'
import { readPacked, tilesBeside, writePacked } from './work/tasks/packed'

const folder = mkdtempSync(path.join(tmpdir(), 'keen-rasters-'))
let db: Database
beforeAll(async () => {
  process.env.KEEN_PLOT_DATA = folder
  db = await openDatabase(folder)
})
afterAll(async () => {
  await db.sequelize.close()
  rmSync(folder, { recursive: true })
})

const [columns, rows] = [1900, 1300]
const value = (c: number, r: number, shift: number): number => ((c * 3 + r * 5) % 701) + shift

/** A raster of more cells than are held, stored with its tiles. */
async function stored(shift: number): Promise<string> {
  const scratch = await newScratch()
  const tiles = path.join(scratch, 'a.tiles')
  const sink = fileSink(tiles)
  const pyramid = writePyramid({ columns, rows, bands: 1 }, () => sink)
  for (let r = 0; r < rows; r++)
    pyramid.row([Float32Array.from({ length: columns }, (_, c) => value(c, r, shift))])
  const { fine, ...held } = pyramid.end()
  if (!fine) throw new Error('There are more cells than are held.')
  sink.source()
  const dataset: Dataset = {
    rowCount: 1,
    fields: [],
    geometry: { kind: 'none' },
    raster: {
      crs: '',
      ...held,
      bands: 1,
      transform: Float64Array.of(0, 0.02, 0, 50, 0, -0.02),
      edge: Float64Array.of(0, 50, 19, 50, 19, 37, 0, 37),
      fileSize: Uint32Array.of(columns, rows),
      fine: { ...fine, id: '' },
    },
  }
  return adoptContent(db, await writePacked(dataset, path.join(scratch, 'a'), tiles))
}
const window = { left: 200, top: 100, right: 210, bottom: 104 }
const firstOf = (dataset: Dataset | null): number =>
  dataset?.raster ? cellsOf(dataset.raster, { band: 0, level: 0, window }).values[0] : NaN

describe('a raster in the store', () => {
  it('has its fine cells beside its rows, and gives them tile by tile', async () => {
    const id = await stored(0)
    expect(firstOf(readPacked(contentFile(id), id))).toBe(value(400, 200, 0))
    const tile = unpackTile(storedTile(id, { level: 0, band: 0, column: 1, row: 2 }), {
      columns: 256,
      rows: 256,
    })
    expect(tile[0]).toBe(value(256, 512, 0))
    for (const wrong of [
      { level: 1, band: 0, column: 0, row: 0 },
      { level: 0, band: 1, column: 0, row: 0 },
      { level: 0, band: 0, column: 99, row: 0 },
    ])
      expect(() => storedTile(id, wrong)).toThrow(Problem)
    expect(await stored(1)).not.toBe(id)
  })

  it('takes its fine cells along when it is cleared away', async () => {
    const id = await stored(2)
    const tiles = tilesBeside(contentFile(id))
    expect(existsSync(tiles)).toBe(true)
    await clearContents(db, Date.now() + 3 * 86_400_000)
    expect(existsSync(tiles)).toBe(false)
  })

  it('goes into a folio file whole and comes out of it; other tiles than promised are refused', async () => {
    const id = await stored(3)
    const folio: Folio = {
      ...emptyFolio('f', 'Ground'),
      datasets: [
        {
          ...{ id: 'ground', name: 'Ground', geometry: 'raster', steps: [], fields: {} },
          ...{ credit: '', licence: '', dated: '', link: '', table: plainLayout() },
          source: plainSource(id, 'ground.tif', 'GeoTIFF'),
        },
      ],
    }
    const document = JSON.stringify(folio)
    const context = { scratch: await newScratch(), progress: () => undefined }
    const files = { [id]: contentFile(id) }
    const written = await saveFolioFile(
      { document, contentFiles: files, pictureFiles: {}, withFine: true },
      context,
    )
    expect(written.remarks).toEqual([])
    const opened = await openFolioFile({ file: written.file, id: 'g', withPicture: false }, context)
    const [packed] = opened.contents
    expect(packed.contentId).toBe(id)
    expect(firstOf(readPacked(packed.file, id))).toBe(value(400, 200, 3))

    const lean = await saveFolioFile(
      { document, contentFiles: files, pictureFiles: {}, withFine: false },
      { ...context, scratch: await newScratch() },
    )
    expect(lean.remarks.join()).toMatch(/fine cells of “Ground”/)
    expect(lean.bytes).toBeLessThan(written.bytes)

    const text = readFileSync(written.file, 'utf8')
    const other = path.join(context.scratch, 'other')
    const digest = /"digest":"([0-9a-f]{32})"/.exec(text)?.[1] ?? ''
    writeFileSync(other, text.replaceAll(digest, digest.replace(/./g, 'a')))
    await expect(openFolioFile({ file: other, id: 'g', withPicture: false }, context)).rejects.toThrow(
      /other ones/,
    )
    writeFileSync(other, text.replace(/"levels":1/, '"levels":2'))
    await expect(openFolioFile({ file: other, id: 'g', withPicture: false }, context)).rejects.toThrow(
      /do not fit/,
    )
  })

  it('says of fine cells that are not there that they were left behind, and shows what is held', async () => {
    const id = await stored(4)
    rmSync(tilesBeside(contentFile(id)))
    const dataset = readPacked(contentFile(id), id)
    expect(dataset.raster?.readTile).toBeUndefined()
    expect(dataset.raster?.fine?.levels).toBe(1)
    const context = { scratch: await newScratch(), progress: () => undefined }
    const folio = emptyFolio('g', 'Ground')
    const source = plainSource(id, 'ground.tif', 'GeoTIFF')
    const entry = {
      ...{ id: 'ground', name: 'Ground', geometry: 'raster' as const, steps: [], fields: {} },
      ...{ credit: '', licence: '', dated: '', link: '', table: plainLayout(), source },
    }
    const { remarks } = await saveFolioFile(
      {
        document: JSON.stringify({ ...folio, datasets: [entry] }),
        contentFiles: { [id]: contentFile(id) },
        pictureFiles: {},
        withFine: true,
      },
      context,
    )
    expect(remarks.join()).toMatch(/fine cells of “Ground”/)
  })
})
