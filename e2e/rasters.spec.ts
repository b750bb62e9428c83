import { expect, test } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { openDemo, savedFolio } from './folio'

const folder = mkdtempSync(path.join(tmpdir(), 'keen-raster-'))
const [columns, rows] = [2600, 1800]

/** A raster of more cells than are held, as a GeoTIFF of another program. */
function largeRaster(): string {
  const values = new Int16Array(columns * rows)
  for (let i = 0; i < values.length; i++)
    values[i] = 500 + 300 * Math.sin((i % columns) / 90) * Math.cos(Math.floor(i / columns) / 70)
  writeFileSync(path.join(folder, 'hills.raw'), new Uint8Array(values.buffer))
  const header = ['ENVI', `samples = ${columns}`, `lines = ${rows}`, 'bands = 1', 'header offset = 0']
  const more = ['file type = ENVI Standard', 'data type = 2', 'interleave = bsq', 'byte order = 0']
  const place = 'map info = {Geographic Lat/Lon, 1, 1, -32, 51, 0.003, 0.003, WGS-84}'
  writeFileSync(path.join(folder, 'hills.hdr'), [...header, ...more, place].join('\n'))
  const file = path.join(folder, 'hills.tif')
  execFileSync('gdal_translate', [
    '-q',
    '-co',
    'TILED=YES',
    '-co',
    'COMPRESS=DEFLATE',
    path.join(folder, 'hills.raw'),
    file,
  ])
  return file
}

test('a large raster is brought in whole, its fine cells are read as they are needed, and areas get its means', async ({
  page,
}) => {
  const id = await openDemo(page, 'data')
  const tiles: string[] = []
  page.on('request', (request) => request.url().includes('/tiles/') && tiles.push(request.url()))
  await page.locator('input[type=file]').first().setInputFiles(largeRaster())
  await expect(page.getByText('2,600 × 1,800 cells')).toBeVisible({ timeout: 60_000 })

  const districts = page.getByRole('button', { name: /^Districts/ }).first()
  await districts.click()
  await page.getByRole('button', { name: 'Add a step' }).click()
  await page.getByRole('button', { name: 'Statistics of a raster' }).click()
  await page.getByRole('combobox', { name: 'Of' }).selectOption({ label: 'Hills' })
  await expect(page.getByText(/^2 areas have no cell with a value/)).toBeVisible({ timeout: 60_000 })
  await expect(page.getByText('164 areas · 33 fields').first()).toBeVisible()
  expect(tiles.length).toBeGreaterThan(10)
  const [entry] = (await savedFolio(page, id)).datasets
  expect(entry.steps.at(-1)).toMatchObject({ type: 'statistics-in-areas' })
})
