import { expect, test, type Page } from '@playwright/test'
import { openDemo, openEmpty, savedFolio } from './folio'

const bringIn = (page: Page, name: string, text: string) =>
  page
    .getByLabel('Files to bring in')
    .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })

test('the table shows readable names, roles, units, missing counts, and sorts', async ({ page }) => {
  await openDemo(page, 'data')
  const grid = page.getByRole('grid', { name: 'Districts' })
  await expect(grid.getByRole('columnheader', { name: /^Population/ })).toContainText(
    'total · persons · 2 missing',
  )
  const population = grid.getByRole('columnheader', { name: /^Population/ })
  await population.getByRole('button').first().click()
  await expect(population).toHaveAttribute('aria-sort', 'ascending')
  const cells = async () =>
    (await grid.getByRole('row').locator('[role=gridcell]:nth-child(4)').allInnerTexts())
      .slice(0, 8)
      .map((text) => Number(text.replace(/,/g, '')))
  const rising = await cells()
  expect(rising).toEqual([...rising].sort((a, b) => a - b))
  await population.getByRole('button').first().click()
  await expect(population).toHaveAttribute('aria-sort', 'descending')
  const falling = await cells()
  expect(falling[0]).toBeGreaterThan(rising[7])
  // Only the rows in sight are in the page.
  expect(await grid.getByRole('row').count()).toBeLessThan(60)
})

test('a field is renamed once for the whole folio', async ({ page }) => {
  const id = await openDemo(page, 'data')
  await page
    .getByRole('columnheader', { name: /^Population/ })
    .getByRole('button')
    .first()
    .click()
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
  await expect(
    page.getByRole('application', { name: 'Preview of Districts' }).locator('svg path').first(),
  ).toBeAttached()
})

test('bad files are explained and leave nothing behind', async ({ page }) => {
  const id = await openEmpty(page, 'data')
  const cases: [string, string, RegExp][] = [
    [
      'cut.geojson',
      '{"type": "FeatureCollection",\n"features": [',
      /cut\.geojson is not complete JSON: it breaks at line 2/,
    ],
    [
      'ring.geojson',
      '{"type":"Feature","properties":{},"geometry":{"type":"Polygon","coordinates":[[[0,0],[1,1]]]}}',
      /feature 1 \(Polygon\) has coordinates that are not complete/,
    ],
    [
      'metres.geojson',
      '{"type":"Feature","properties":{},"geometry":{"type":"Point","coordinates":[432000,5200000]}}',
      /metres\.geojson.*degrees/,
    ],
    ['loose.csv', 'code,name\n1,a\n2,b,c,d\n', /loose\.csv, row 3: 4 cells, but the header has 2/],
    ['empty.csv', 'code,name\n', /empty\.csv has no rows under its header/],
    ['picture.heic', 'II*', /picture\.heic has an ending that is not known here/],
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
  await page
    .getByRole('button', { name: /^Part / })
    .first()
    .click()
  await expect(page.getByRole('checkbox', { name: /^1 the same but for zeros, blanks/ })).toBeVisible()
  await expect(page.getByRole('button', { name: /161 matched, 3 not, 2 mended by hand/ })).toBeVisible()
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(page.getByRole('button', { name: /162 matched, 2 not, 3 mended by hand/ })).toBeVisible()
  expect((await savedFolio(page, id)).datasets[0].steps[0].on).toBe(true)
})

const addStep = async (page: Page, name: string) => {
  await page.getByRole('button', { name: 'Add a step' }).click()
  await page.getByRole('button', { name, exact: true }).last().click()
}

test('steps derive, filter and merge; the table follows; a wrong formula says where it is wrong', async ({
  page,
}) => {
  const id = await openDemo(page, 'data')
  await addStep(page, 'Derive')
  const steps = page.getByRole('region', { name: 'Prep steps' })
  await steps.getByRole('combobox', { name: 'Field by' }).selectOption('formula')
  const formula = steps.getByRole('textbox', { name: 'Formula' })
  await formula.fill('lib_loans_2025 / populaton')
  await expect(steps.getByText('There is no field “populaton”.').first()).toBeVisible()
  await formula.fill('lib_loans_2025 / population * 1000')
  await steps.getByRole('textbox', { name: 'Called' }).fill('Loans per thousand')
  await page.keyboard.press('Enter')
  await expect(steps.getByText('Loans per thousand: lib_loans_2025 / population * 1000')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Districts 164 areas · 33 fields' })).toBeVisible()

  await addStep(page, 'Filter')
  await steps.getByRole('button', { name: 'Another condition' }).click()
  await steps.getByRole('combobox', { name: 'Field of condition 1' }).selectOption('population')
  await steps.getByRole('combobox', { name: 'Test of condition 1' }).selectOption('is at least')
  await steps.getByRole('textbox', { name: 'Value of condition 1' }).fill('50000')
  await page.keyboard.press('Enter')
  await expect(steps.getByText('Population is at least 50000')).toBeVisible()
  await expect(
    page.getByRole('complementary', { name: 'Datasets' }).getByRole('button', { name: /^Districts \d/ }),
  ).not.toContainText('164 areas')

  await addStep(page, 'Merge')
  await steps.getByRole('combobox', { name: 'Merge by 1' }).selectOption('province')
  await expect(steps.getByText('by Province')).toBeVisible()
  const folio = await savedFolio(page, id)
  expect(folio.datasets[0].steps.map((step) => step.type)).toEqual(['join', 'derive', 'filter', 'merge'])
  await page.getByRole('button', { name: 'More for step 4' }).click()
  await page.getByRole('button', { name: 'Delete step' }).click()
  expect((await savedFolio(page, id)).datasets[0].steps).toHaveLength(3)
})

test('a projected, badly encoded table with semicolons, decimal commas and other codes comes onto a map', async ({
  page,
}) => {
  const id = await openEmpty(page, 'data')
  await page.getByLabel('Files to bring in').setInputFiles('demo/data/districts.topojson')
  await expect(page.getByText('164 areas · 3 fields')).toBeVisible()
  // Latin-1, codes in small letters without their zeros, a coordinate pair in a projected system.
  const rows = [
    'Kürzel;Ausleihen;Quote;x;y',
    ...Array.from(
      { length: 120 },
      (_, i) => `lm${i + 1};${1000 + i * 7},5;0,${10 + i};${500000 + i * 100};5427000`,
    ),
  ]
  await page.getByLabel('Files to bring in').setInputFiles({
    name: 'ausleihen.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(rows.join('\n'), 'latin1'),
  })
  await expect(page.getByRole('columnheader', { name: /^Kürzel/ })).toBeVisible()
  await expect(page.getByRole('gridcell', { name: '1,000.5' })).toBeVisible()
  // What was guessed can be looked at and said otherwise: the table becomes points of UTM zone 26.
  await page.getByRole('button', { name: 'Source', exact: true }).click()
  await expect(page.getByRole('combobox', { name: 'Delimiter' })).toHaveValue(';')
  await expect(page.getByRole('combobox', { name: 'Decimal mark' })).toHaveValue(',')
  await expect(page.getByRole('combobox', { name: 'Encoding' })).toHaveValue('windows-1252')

  await page
    .getByRole('complementary', { name: 'Datasets' })
    .getByRole('button', { name: /^Districts/ })
    .click()
  await addStep(page, 'Join')
  await page.getByRole('combobox', { name: 'Key in Districts' }).selectOption('code')
  await page.getByRole('combobox', { name: 'Key in Ausleihen' }).selectOption('Kürzel')
  await page.getByRole('checkbox', { name: /^120 the same but for zeros, blanks/ }).check()
  await expect(page.getByRole('button', { name: /120 matched, 44 not/ })).toBeVisible()
  await page
    .getByRole('columnheader', { name: /^Quote/ })
    .getByRole('button')
    .first()
    .click()
  await page.getByRole('button', { name: 'Map this field' }).click()
  await expect(page.getByText(/^Shade districts by/)).toBeVisible()
  const folio = await savedFolio(page, id)
  expect(folio.maps[0].layers[0].symbology).toMatchObject({
    kind: 'choropleth',
    settings: { field: 'Quote' },
  })
})

test('a file that does not say its reference system asks for it; a wrong one is corrected later', async ({
  page,
}) => {
  const id = await openEmpty(page, 'data')
  const point = (x: number, y: number, name: string) => ({
    type: 'Feature',
    properties: { name },
    geometry: { type: 'Point', coordinates: [x, y] },
  })
  await bringIn(
    page,
    'metres.geojson',
    JSON.stringify({
      type: 'FeatureCollection',
      features: [point(500000, 5427000, 'A'), point(510000, 5437000, 'B')],
    }),
  )
  await page.getByRole('button', { name: 'Reference system: Choose the reference system' }).click()
  await page.getByRole('textbox', { name: 'Find a reference system' }).fill('32625')
  await page.getByRole('button', { name: /EPSG:32625/ }).click()
  await expect(page.getByText('2 points · 1 field')).toBeVisible()
  await page.getByRole('button', { name: 'Source', exact: true }).click()
  await page.getByRole('button', { name: 'Reference system: EPSG:32625' }).click()
  await page.getByRole('textbox', { name: 'Find a reference system' }).fill('32626')
  await page.getByRole('button', { name: /EPSG:32626/ }).click()
  await expect(page.getByRole('button', { name: 'Reference system: EPSG:32626' })).toBeVisible()
  expect((await savedFolio(page, id)).datasets[0].source.options.crs).toBe('EPSG:32626')
})

test('a prepared dataset is saved as a GeoPackage', async ({ page }) => {
  await openDemo(page, 'data')
  await page.getByRole('button', { name: 'Save Districts as a file' }).click()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as a file' }).last().click(),
  ])
  expect(download.suggestedFilename()).toBe('Districts.gpkg')
})

test('a source is replaced by a newer file; what no longer fits is said', async ({ page }) => {
  const id = await openEmpty(page, 'data')
  await bringIn(page, 'loans.csv', 'code,loans,note\nA,1,x\nB,2,y\n')
  await page
    .getByRole('columnheader', { name: /^Loans/ })
    .getByRole('button')
    .first()
    .click()
  await page.getByRole('textbox', { name: 'Name of the field' }).fill('Books lent')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Source', exact: true }).click()
  await page.getByLabel('Newer file for Loans').setInputFiles({
    name: 'loans-2026.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('code,loans\nA,5\nB,6\nC,7\n'),
  })
  await expect(
    page.getByRole('status').filter({ hasText: 'loans-2026.csv took its place. It no longer has: Note.' }),
  ).toBeVisible()
  await expect(page.getByRole('columnheader', { name: /^Books lent/ })).toBeVisible()
  await expect(page.getByText('3 rows · 2 fields')).toBeVisible()
  expect((await savedFolio(page, id)).datasets[0].source.fileName).toBe('loans-2026.csv')
  await page.getByRole('searchbox', { name: 'Find in the table' }).fill('c')
  await expect(page.getByText('3 rows, 1 found')).toBeVisible()
})

test('a list of steps is saved and used on another dataset', async ({ page }) => {
  const id = await openDemo(page, 'data')
  await page.getByRole('button', { name: 'Add a step' }).click()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the list of steps' }).click(),
  ])
  expect(download.suggestedFilename()).toBe('districts.steps.json')
  await page.keyboard.press('Escape')
  await page
    .getByRole('complementary', { name: 'Datasets' })
    .getByRole('button', { name: /^Provinces/ })
    .click()
  await page.getByRole('button', { name: 'Add a step' }).click()
  await page.getByLabel('List of steps').setInputFiles(await download.path())
  await expect(page.getByRole('button', { name: /0 matched, 9 not/ })).toBeVisible()
  const [step] = (await savedFolio(page, id)).datasets.find((d) => d.name === 'Provinces')?.steps ?? []
  expect(step.type === 'join' && step.settings.datasetId).toBe('returns')
})
