import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { openDemo, openEmpty, savedFolio } from './folio'

const bringIn = (page: Page, files: { name: string; text: string | Buffer }[]) =>
  page.getByLabel('Files to bring in').setInputFiles(
    files.map(({ name, text }) => ({
      name,
      mimeType: 'application/octet-stream',
      buffer: Buffer.from(text as string),
    })),
  )
const libraries = 'code,name,visits\nA,Quay,30\nB,Mill,20\nC,Bridge,20\nD,Hill,10\n'
const names = (page: Page) =>
  page
    .getByRole('row')
    .evaluateAll((rows) =>
      rows.slice(1).map((row) => row.querySelectorAll('[role=gridcell]')[1]?.textContent),
    )
const head = (page: Page, name: string) => page.getByRole('columnheader', { name: new RegExp(`^${name}`) })

test('rows are sorted by several fields; columns are kept at the left, hidden, moved and made wider', async ({
  page,
}) => {
  const id = await openEmpty(page, 'data')
  await bringIn(page, [{ name: 'libraries.csv', text: libraries }])
  await head(page, 'Visits').getByRole('button').first().click()
  await head(page, 'Name')
    .getByRole('button')
    .first()
    .click({ modifiers: ['Shift'] })
  await expect.poll(() => names(page)).toEqual(['Hill', 'Bridge', 'Mill', 'Quay'])
  await expect(page.getByRole('button', { name: 'Sorted by 2 fields' })).toBeVisible()
  const more = async (column: string, what: string) => {
    await head(page, column).hover()
    await page.getByRole('button', { name: `More for column ${column}` }).click()
    await page.getByRole('button', { name: what }).click()
    await page.keyboard.press('Escape')
  }
  await more('Visits', 'Keep at the left')
  await more('Code', 'Hide')
  await page.getByRole('separator', { name: 'Width of Name' }).focus()
  await page.keyboard.press('ArrowRight')
  const { table } = (await savedFolio(page, id)).datasets[0]
  expect(table).toMatchObject({ hidden: ['code'], pinned: ['visits'], widths: { name: 106 } })
  await expect(head(page, 'Code')).toHaveCount(0)
  await page.getByRole('button', { name: '1 hidden' }).click()
  await page.getByRole('checkbox', { name: 'Code' }).check()
  await expect(head(page, 'Code')).toBeVisible()
})

test('a cell is set by hand, marked, said among the steps, taken back and undone', async ({ page }) => {
  const id = await openEmpty(page, 'data')
  await bringIn(page, [{ name: 'libraries.csv', text: libraries }])
  const cell = page.getByRole('gridcell', { name: '30', exact: true })
  await cell.dblclick()
  const field = page.getByRole('textbox', { name: 'Visits, row 1' })
  await field.fill('3,5')
  await expect(page.getByRole('alert').filter({ hasText: '3,5' })).toContainText(
    '‘3,5’ is not a number. Write the decimal mark as a point.',
  )
  await field.fill('35')
  await field.press('Enter')
  await expect(page.getByRole('gridcell', { name: '35 set by hand' })).toBeVisible()
  await expect(page.getByText('1 cell', { exact: true })).toBeVisible()
  expect((await savedFolio(page, id)).datasets[0].steps).toMatchObject([
    { type: 'correct', settings: { key: 'code', edits: [{ row: 'A', field: 'visits', value: '35' }] } },
  ])
  await page.getByRole('button', { name: 'Correct by hand' }).click()
  await page.getByRole('button', { name: 'Take back Visits of A' }).click()
  await expect(cell).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).first().click()
  await expect(page.getByRole('gridcell', { name: '35 set by hand' })).toBeVisible()
})

test('a table is pasted; of a file with several layers the wanted ones are chosen', async ({ page }) => {
  await openEmpty(page, 'data')
  await page.evaluate(() => {
    const data = new DataTransfer()
    data.setData('text/plain', 'code\tloans\nA\t12\nB\t15\n')
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }))
  })
  await expect(page.getByText('2 rows · 2 fields')).toBeVisible()
  const folder = mkdtempSync(path.join(tmpdir(), 'keen-layers-'))
  const file = path.join(folder, 'two.gpkg')
  for (const name of ['lakes', 'rivers'])
    execFileSync('ogr2ogr', [
      '-f',
      'GPKG',
      '-update',
      '-append',
      '-nln',
      name,
      file,
      `demo/data/${name}.geojson`,
    ])
  await bringIn(page, [{ name: 'two.gpkg', text: readFileSync(file) }])
  await expect(page.getByText('holds several layers. Which are wanted?')).toBeVisible()
  await page.getByRole('checkbox', { name: 'lakes' }).uncheck()
  await page.getByRole('checkbox', { name: 'rivers' }).check()
  await page.getByRole('button', { name: 'Bring in 1' }).click()
  await expect(page.getByText(/^16 lines/)).toBeVisible()
  await expect(page.getByRole('complementary', { name: 'Datasets' }).getByText('Lakes')).toHaveCount(0)
})

test('several files on an empty folio: what came in, what is wrong and what to do next are seen', async ({
  page,
}) => {
  await openEmpty(page, 'data')
  await page
    .getByLabel('Files to bring in')
    .setInputFiles([
      'demo/data/districts.topojson',
      'demo/data/district-returns.csv',
      'demo/data/parishes.zip',
    ])
  const list = page.getByRole('complementary', { name: 'Datasets' })
  await expect(list.getByText('2,400 areas')).toBeVisible({ timeout: 30_000 })
  await expect(list.getByText('164 rows')).toBeVisible()
  await expect(list.getByLabel(/shapes to look at/)).toBeVisible()
  await list.getByRole('button', { name: /^Parishes/ }).click()
  await page.getByRole('button', { name: /untangled a ring/ }).click()
  await expect(page.getByRole('row', { selected: true })).toBeVisible()
  await list.getByRole('button', { name: /^Districts/ }).click()
  await expect(page.getByRole('region', { name: 'What to do next' })).toContainText(
    /District returns and Districts belong together by “Code” and “Code”: 162 of 164 match, 2 do not/,
  )
  await page.getByRole('button', { name: 'Join District returns' }).click()
  await expect(page.getByRole('button', { name: /162 matched, 2 not/ })).toBeVisible()
  await page.getByRole('button', { name: 'Map it' }).click()
  await expect(page.getByRole('main', { name: 'map desk' })).toBeVisible()
})

test('rows are kept by an area that is drawn on the preview map', async ({ page }) => {
  await openDemo(page, 'data')
  await page
    .getByRole('complementary', { name: 'Datasets' })
    .getByRole('button', { name: /^Libraries/ })
    .click()
  await page.getByRole('button', { name: 'Add a step' }).click()
  await page.getByRole('button', { name: 'Filter', exact: true }).click()
  await page.getByRole('combobox', { name: 'Keep rows by' }).selectOption('drawn')
  await page.getByRole('button', { name: 'Draw it on the map' }).click()
  const area = page.getByRole('application', { name: 'Draw an area' })
  const box = await area.boundingBox()
  if (!box) throw new Error('The map has a place.')
  for (const [x, y] of [
    [0.3, 0.2],
    [0.52, 0.2],
    [0.52, 0.8],
    [0.3, 0.8],
  ])
    await area.click({ position: { x: box.width * x, y: box.height * y } })
  await page.getByRole('button', { name: 'Close it' }).click()
  await expect(page.getByText('in an area drawn by hand')).toBeVisible()
  await expect(page.getByText(/^310 rows/)).toHaveCount(0)
  const left = await page.getByRole('grid').getAttribute('aria-rowcount')
  expect(Number(left)).toBeGreaterThan(20)
  expect(Number(left)).toBeLessThan(300)
})

test('a long step shows how far it is and can be stopped; it is switched off then', async ({ page }) => {
  const id = await openEmpty(page, 'data')
  const points = Array.from(
    { length: 60_000 },
    (_, i) => `${(-32 + (i % 400) * 0.02).toFixed(3)},${(46 + Math.floor(i / 400) * 0.03).toFixed(3)}`,
  ).join('\n')
  await bringIn(page, [{ name: 'many.csv', text: `lon,lat\n${points}\n` }])
  await expect(page.getByText(/^60,000 points/)).toBeVisible()
  await page.getByRole('button', { name: 'Add a step' }).click()
  await page.getByRole('button', { name: 'Buffer', exact: true }).click()
  const under = page.getByRole('status').filter({ hasText: 'Buffer of Many' })
  await expect(under.getByRole('progressbar')).toBeVisible()
  await under.getByRole('button', { name: 'Stop' }).click()
  await expect(under).toHaveCount(0)
  await expect(page.getByRole('button', { name: 'switched off', exact: true })).toBeVisible()
  expect((await savedFolio(page, id)).datasets[0].steps[0].on).toBe(false)
  await page.getByRole('row').nth(3).click()
  await expect(page.getByRole('row', { selected: true })).toBeVisible()
})
