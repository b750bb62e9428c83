import { execFileSync } from 'node:child_process'
import { expect, test, type Page, type TestInfo } from '@playwright/test'
import ExcelJS from 'exceljs'
import countries from 'i18n-iso-countries'
import { square as areaAt } from '@/core/geo/geo-testing'
import type { Folio } from '@/core/folio/schema'
import { drawn, openEmpty, savedFolio } from './folio'

type File = { name: string; mimeType: string; buffer: Buffer }

const text = (name: string, words: string): File => ({
  name,
  mimeType: 'text/plain',
  buffer: Buffer.from(words),
})

/** A square of half a degree, at a column and a row of a lattice. */
const square = (column: number, row: number, at: [number, number] = [10, 40]): GeoJSON.Geometry =>
  areaAt(at[0] + column / 2, at[1] + row / 2, 0.5)

/** Areas in rows of six, with a code and a name each, and as many more far off. */
function boundaries(codes: string[], far: string[] = []): File {
  const feature = (code: string, geometry: GeoJSON.Geometry) => ({
    type: 'Feature',
    properties: { code, name: `Hundred of ${code}` },
    geometry,
  })
  const features = [
    ...codes.map((code, i) => feature(code, square(i % 6, Math.floor(i / 6)))),
    ...far.map((code, i) => feature(code, square(i, 0, [-48, 4]))),
  ]
  return text('hundreds.geojson', JSON.stringify({ type: 'FeatureCollection', features }))
}

const codesOf = (count: number, digits: number): string[] =>
  Array.from({ length: count }, (_, i) => String(1001 + 2 * i).padStart(digits, '0'))

/** A lopsided figure and what it may be divided by, the same each time. */
const persons = (i: number): number => 900 + ((i * 7919) % 5000) + (i % 9 === 0 ? 40_000 : 0)
const mills = (i: number): number => 3 + ((i * 31) % 47)

const next = (page: Page) => page.getByRole('region', { name: 'What to do next' })

async function bringIn(page: Page, files: File[]): Promise<void> {
  await page.getByLabel('Files to bring in').setInputFiles(files)
  await expect(next(page)).toBeVisible()
}

/** From the first of the small maps to a page that is printed, with nothing set by hand. */
async function printed(page: Page, id: string, info: TestInfo): Promise<{ folio: Folio; words: string }> {
  await next(page).getByRole('button', { name: 'See what it can become' }).click()
  const pictures = page.getByRole('list', { name: 'What this data can become' })
  await pictures.getByRole('button').first().click()
  await drawn(page, /^Map:/)
  await page.keyboard.press('3')
  await page.getByRole('button', { name: 'Add a sheet' }).click()
  await drawn(page, /^Page:/)
  await page.getByRole('button', { name: '4 Proof' }).click()
  await page.getByRole('button', { name: 'Export PDF' }).click()
  const link = page.getByRole('link', { name: /^Download .*\.pdf/ })
  await expect(link).toBeVisible({ timeout: 30_000 })
  const [download] = await Promise.all([page.waitForEvent('download'), link.click()])
  const pdf = info.outputPath('sheet.pdf')
  await download.saveAs(pdf)
  execFileSync('qpdf', ['--check', pdf])
  return { folio: await savedFolio(page, id), words: execFileSync('pdftotext', [pdf, '-']).toString() }
}

test('areas and a table whose codes lost their zeros', async ({ page }, info) => {
  const codes = codesOf(24, 5)
  const id = await openEmpty(page, 'data', 'Lost zeros')
  const rows = codes.map((code, i) => `${Number(code)},${persons(i)},${mills(i)}`)
  await bringIn(page, [
    boundaries(codes),
    text('mills.csv', ['hundred_no,population,mills', ...rows].join('\n')),
  ])
  await expect(next(page)).toContainText('24 of 24 match')
  await next(page).getByRole('button', { name: /^Join/ }).click()
  const { folio, words } = await printed(page, id, info)
  const join = folio.datasets.flatMap(({ steps }) => steps).find(({ type }) => type === 'join')
  expect(join?.settings).toMatchObject({ accepts: ['loose'] })
  expect(words).toMatch(/Population|Mills/)
})

test('a table of points', async ({ page }, info) => {
  const id = await openEmpty(page, 'data', 'Points')
  const rows = Array.from(
    { length: 90 },
    (_, i) => `Mill ${i + 1},${40 + ((i * 37) % 60) / 20},${10 + ((i * 53) % 80) / 20},${persons(i)}`,
  )
  await bringIn(page, [text('mills.csv', ['mill,lat,lon,sacks', ...rows].join('\n'))])
  await expect(page.getByText(/^90 points/)).toBeVisible()
  const { folio, words } = await printed(page, id, info)
  expect(folio.maps[0].layers[0].symbology.kind).not.toBe('plain')
  expect(words).toContain('Sacks')
})

test('a workbook with a title, heads in two rows and decimal commas', async ({ page }, info) => {
  const codes = codesOf(24, 4)
  const workbook = new ExcelJS.Workbook()
  const sheet = workbook.addWorksheet('Table 3')
  const comma = (value: number): string => value.toFixed(1).replace('.', ',')
  sheet.addRows([
    ['Table 3: Mills and people of the hundreds'],
    [],
    ['Hundred', 'People', null, 'Mills'],
    [null, 'women', 'men', 'per 1000'],
    ...codes.map((code, i) => [code, persons(i), persons(i + 3), comma(mills(i) / 7)]),
    ['Total', 99_999, 99_999, '3,4'],
    [],
    ['Source: Office of the Hundreds'],
  ])
  sheet.mergeCells('B3:C3')
  const id = await openEmpty(page, 'data', 'A workbook')
  await bringIn(page, [
    boundaries(codes),
    {
      name: 'table-3.xlsx',
      mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      buffer: Buffer.from(await workbook.xlsx.writeBuffer()),
    },
  ])
  await expect(next(page)).toContainText('24 of 24 match')
  await next(page).getByRole('button', { name: /^Join/ }).click()
  const { folio, words } = await printed(page, id, info)
  expect(folio.datasets.map(({ credit }) => credit)).toContain('Office of the Hundreds')
  expect(words).toContain('Office of the Hundreds')
})

test('a country with parts that lie far off', async ({ page }, info) => {
  const [main, far] = [codesOf(24, 4), ['9001', '9003']]
  const id = await openEmpty(page, 'data', 'Far parts')
  const rows = [...main, ...far].map((code, i) => `${code},${persons(i)},${mills(i)}`)
  await bringIn(page, [
    boundaries(main, far),
    text('mills.csv', ['code,population,mills', ...rows].join('\n')),
  ])
  await expect(next(page)).toContainText('26 of 26 match')
  await next(page).getByRole('button', { name: /^Join/ }).click()
  const { folio } = await printed(page, id, info)
  const panels = folio.sheets[0].parts.filter(({ type }) => type === 'panel')
  expect(panels).toHaveLength(2)
  // The main land has the page, the inset a place of its own beside it.
  const [large, small] = panels.map(({ box }) => box.width * box.height).sort((a, b) => b - a)
  expect(large).toBeGreaterThan(4 * small)
})

test('a world whose table has codes of another list', async ({ page }, info) => {
  // Three letters beside three digits; forty squares round the globe stand for the countries.
  const listed = Object.entries(countries.getNumericCodes()).slice(0, 40)
  const features = listed.map(([, letters], i) => {
    const geometry = areaAt(-176 + 36 * (i % 10), -50 + 28 * Math.floor(i / 10), 20)
    return { type: 'Feature', properties: { state: letters }, geometry }
  })
  const id = await openEmpty(page, 'data', 'Other codes')
  const rows = listed.map(([digits], i) => `${Number(digits)},${persons(i)},${mills(i)}`)
  await bringIn(page, [
    text('world.geojson', JSON.stringify({ type: 'FeatureCollection', features })),
    text('mills.csv', ['un_code,population,mills', ...rows].join('\n')),
  ])
  await expect(next(page)).toContainText('40 of 40 match')
  await next(page).getByRole('button', { name: /^Join/ }).click()
  const { folio } = await printed(page, id, info)
  const join = folio.datasets.flatMap(({ steps }) => steps).find(({ type }) => type === 'join')
  expect(join?.settings).toMatchObject({ accepts: ['codes'] })
  // The scale of a map of the world changes over its panel: no bar could be true.
  expect(folio.sheets[0].parts.map(({ type }) => type)).not.toContain('scale-bar')
})
