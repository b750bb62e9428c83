import { expect, test } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { drawn, openDemo, openEmpty, savedFolio } from './folio'

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

test('cells are put into classes on the bench, with the ground of each, and a break is moved', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  await page.getByRole('button', { name: /^Map: .* Choose another/ }).click()
  await page.getByRole('button', { name: /^Heights in classes/ }).click()
  await drawn(page, /^Map: Heights in classes/)
  await page
    .getByRole('button', { name: /^Heights/ })
    .last()
    .click()
  await expect(page.getByText(/^Show the cells of relief in six classes by breaks set by hand/)).toBeVisible()
  const classes = page.getByRole('list', { name: 'Classes' }).getByRole('listitem')
  await expect(classes).toHaveCount(6)
  const ground = async () =>
    (await classes.allInnerTexts()).map((text) => Number(/([\d,]+) km²/.exec(text)?.[1].replaceAll(',', '')))
  const before = await ground()
  expect(before.reduce((a, b) => a + b, 0)).toBeGreaterThan(50_000)
  await page.getByRole('slider', { name: /^Break 1/ }).focus()
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight')
  await expect.poll(async () => (await ground())[0]).toBeGreaterThan(before[0])
  const moved = (await savedFolio(page, id)).maps
    .flatMap(({ layers }) => layers)
    .find(({ symbology }) => symbology.kind === 'cell-classes')
  expect((moved?.symbology.settings as { manualBreaks: number[] }).manualBreaks[0]).toBeGreaterThan(50)

  await page.getByRole('combobox', { name: 'Kind' }).selectOption({ label: 'Raster' })
  await expect(page.getByText(/^Show relief in height tints/)).toBeVisible()
})

test('kinds of ground are named and joined, and the map is compared with another one across a divider', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  await page.getByRole('button', { name: /^Map: .* Choose another/ }).click()
  await page
    .getByRole('button', { name: /^Land cover/ })
    .last()
    .click()
  await drawn(page, /^Map: Land cover/)
  await page
    .getByRole('button', { name: /^Land cover/ })
    .last()
    .click()
  const kinds = page.getByRole('list', { name: 'Kinds of ground' }).getByRole('listitem')
  await expect(kinds).toHaveCount(7)
  await page.getByRole('button', { name: 'More of Heath' }).click()
  await page.getByRole('combobox', { name: /is shown with$/ }).selectOption({ label: 'Meadows' })
  await expect(kinds).toHaveCount(6)
  await page.keyboard.press('Escape')
  const saved = (await savedFolio(page, id)).maps
    .flatMap(({ layers }) => layers)
    .find(({ symbology }) => symbology.kind === 'cell-categories')
  expect((saved?.symbology.settings as { own: Record<string, { with: string | null }> }).own['50'].with).toBe(
    '30',
  )

  await page.getByRole('button', { name: 'Compare across a divider' }).click()
  await page.getByRole('button', { name: 'Heights in classes', exact: true }).click()
  const divider = page.getByRole('slider', { name: 'Divider between Land cover and Heights in classes' })
  await expect(divider).toHaveAttribute('aria-valuenow', '50')
  await divider.focus()
  await page.keyboard.press('Home')
  await expect(divider).toHaveAttribute('aria-valuenow', '0')
  await page.keyboard.press('Shift+ArrowRight')
  await expect(divider).toHaveAttribute('aria-valuenow', '10')
  const box = await page.getByRole('application', { name: /^Map: Land cover/ }).boundingBox()
  if (!box) throw new Error('The map is there.')
  await page.mouse.move(box.x + 0.1 * box.width, box.y + 300)
  await page.mouse.down()
  await page.mouse.move(box.x + 0.7 * box.width, box.y + 300, { steps: 4 })
  await page.mouse.up()
  await expect(divider).toHaveAttribute('aria-valuenow', '70')
  await page.getByRole('button', { name: 'Compare across a divider' }).click()
  await page.getByRole('button', { name: 'Stop comparing' }).click()
  await expect(divider).toHaveCount(0)
})

test('numbers that were taken for kinds of ground are read anew as amounts', async ({ page }) => {
  const id = await openEmpty(page, 'data')
  const patches = Array.from({ length: 40 }, (_, r) =>
    Array.from({ length: 60 }, (__, c) => [11, 42, 90][(Math.floor(c / 7) + Math.floor(r / 5)) % 3]).join(
      ' ',
    ),
  )
  const head = 'ncols 60\nnrows 40\nxllcorner -28\nyllcorner 48\ncellsize 0.05\n'
  writeFileSync(path.join(folder, 'patches.asc'), `${head}${patches.join('\n')}\n`)
  const file = path.join(folder, 'patches.tif')
  const wanted = ['-q', '-ot', 'Byte', '-a_srs', 'EPSG:4326']
  execFileSync('gdal_translate', [...wanted, path.join(folder, 'patches.asc'), file])
  await page.locator('input[type=file]').first().setInputFiles(file)
  const remark = page.getByText(/^Its values name kinds of ground/)
  await expect(remark).toBeVisible({ timeout: 60_000 })
  await page.getByRole('button', { name: 'Source' }).click()
  const values = page.getByRole('combobox', { name: 'What values are' })
  await expect(values).toHaveValue('kinds')
  await values.selectOption('amounts')
  await expect(remark).toHaveCount(0)
  await expect(values).toHaveValue('amounts')
  const [{ source }] = (await savedFolio(page, id)).datasets
  expect([source.options.values, source.guessed.values]).toEqual(['amounts', 'amounts'])
})

test('files that lie beside each other come in as one mosaic, with their world files', async ({ page }) => {
  await openEmpty(page, 'data')
  const whole = largeRaster()
  const parts = [
    ['hills-west', '0', '1300'],
    ['hills-east', '1300', '1300'],
  ].map(([name, left, wide]) => {
    const file = path.join(folder, `${name}.tif`)
    const window = ['-srcwin', left, '0', wide, String(rows)]
    execFileSync('gdal_translate', [
      '-q',
      ...window,
      '-co',
      'PROFILE=BASELINE',
      '-co',
      'TFW=YES',
      whole,
      file,
    ])
    return file
  })
  const beside = parts.map((file) => file.replace('.tif', '.tfw'))
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles([...parts, ...beside])
  await page
    .getByRole('button', { name: 'Reference system: Choose the reference system' })
    .click({ timeout: 60_000 })
  await page.getByRole('textbox', { name: 'Find a reference system' }).fill('4326')
  await page.getByRole('button', { name: /EPSG:4326/ }).click()
  await expect(page.getByText('2,600 × 1,800 cells')).toBeVisible({ timeout: 60_000 })
  await expect(page.getByText(/^2 files are one mosaic: hills-east.tif, hills-west.tif/)).toBeVisible()
})
