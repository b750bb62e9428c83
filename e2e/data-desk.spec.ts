import { expect, test, type Page } from '@playwright/test'
import { openDemo, openEmpty, savedFolio } from './folio'

const bringIn = (page: Page, name: string, text: string) => page.getByLabel('Files to bring in').setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })

test('the table shows readable names, roles, units, missing counts, and sorts', async ({ page }) => {
  await openDemo(page, 'data')
  const grid = page.getByRole('grid', { name: 'Districts' })
  await expect(grid.getByRole('columnheader', { name: /^Population/ })).toContainText('total · persons · 2 missing')
  const population = grid.getByRole('columnheader', { name: /^Population/ })
  await population.getByRole('button').click()
  await expect(population).toHaveAttribute('aria-sort', 'ascending')
  const cells = async () => (await grid.getByRole('row').locator('[role=gridcell]:nth-child(4)').allInnerTexts()).slice(0, 8).map((text) => Number(text.replace(/,/g, '')))
  const rising = await cells()
  expect(rising).toEqual([...rising].sort((a, b) => a - b))
  await population.getByRole('button').click()
  await expect(population).toHaveAttribute('aria-sort', 'descending')
  const falling = await cells()
  expect(falling[0]).toBeGreaterThan(rising[7])
  // Only the rows in sight are in the page.
  expect(await grid.getByRole('row').count()).toBeLessThan(60)
})

test('a field is renamed once for the whole folio', async ({ page }) => {
  const id = await openDemo(page, 'data')
  await page.getByRole('columnheader', { name: /^Population/ }).getByRole('button').click()
  await page.getByRole('textbox', { name: 'Name of the field' }).fill('Residents')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('columnheader', { name: /^Residents/ })).toBeVisible()
  const folio = await savedFolio(page, id)
  expect(folio.datasets.find((d) => d.name === 'District returns')?.fields.population.label).toBe('Residents')
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('columnheader', { name: /^Population/ })).toBeVisible()
})

test('a row is walked to with the arrow keys and marked on the preview map', async ({ page }) => {
  await openDemo(page, 'data')
  await page.getByRole('grid', { name: 'Districts' }).focus()
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowDown')
  await expect(page.getByRole('row', { selected: true })).toContainText('LM003')
  await expect(page.getByRole('application', { name: 'Preview of Districts' }).locator('svg path').first()).toBeAttached()
})

test('bad files are explained and leave nothing behind', async ({ page }) => {
  const id = await openEmpty(page, 'data')
  const cases: [string, string, RegExp][] = [
    ['cut.geojson', '{"type": "FeatureCollection",\n"features": [', /cut\.geojson is not complete JSON: it breaks at line 2/],
    ['ring.geojson', '{"type":"Feature","properties":{},"geometry":{"type":"Polygon","coordinates":[[[0,0],[1,1]]]}}', /feature 1 \(Polygon\) has coordinates that are not complete/],
    ['metres.geojson', '{"type":"Feature","properties":{},"geometry":{"type":"Point","coordinates":[432000,5200000]}}', /metres\.geojson.*degrees/],
    ['loose.csv', 'code,name\n1,a\n2,b,c,d\n', /loose\.csv, row 3: 4 cells, but the header has 2/],
    ['empty.csv', 'code,name\n', /empty\.csv has no rows under its header/],
    ['picture.tif', 'II*', /picture\.tif has an ending that is not known here/],
  ]
  for (const [name, text, says] of cases) {
    await bringIn(page, name, text)
    await expect(page.getByRole('alert').filter({ hasText: says })).toBeVisible()
    await page.getByRole('button', { name: `Put ${name} aside` }).click()
  }
  const folio = await savedFolio(page, id)
  expect(folio.datasets).toEqual([])
})

test('a wrong join can be switched off, taken apart and undone', async ({ page }) => {
  const id = await openDemo(page, 'data')
  await page.getByRole('button', { name: /162 matched/ }).click()
  await page.getByRole('checkbox', { name: 'In use' }).uncheck()
  await expect(page.getByRole('columnheader', { name: /^Population/ })).toHaveCount(0)
  await page.getByRole('checkbox', { name: 'In use' }).check()
  await expect(page.getByRole('columnheader', { name: /^Population/ })).toBeVisible()
  await page.getByRole('button', { name: /^Part / }).first().click()
  await expect(page.getByText('Near misses')).toBeVisible()
  await expect(page.getByRole('button', { name: /161 matched, 3 not, 2 mended by hand/ })).toBeVisible()
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(page.getByRole('button', { name: /162 matched, 2 not, 3 mended by hand/ })).toBeVisible()
  expect((await savedFolio(page, id)).datasets[0].steps[0].on).toBe(true)
})
