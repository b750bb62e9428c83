import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'

test('the shelf opens with the demo on it, with its picture', async ({ page }) => {
  await page.goto('/')
  const demo = page.getByRole('link', { name: 'Open A country that reads', exact: true }).first()
  await expect(demo).toBeVisible()
  await expect.poll(() => demo.locator('img').evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(640)
  await demo.click()
  await expect(page.getByRole('main', { name: 'data desk' })).toBeVisible()
})

test('a folio is made, renamed, duplicated, deleted and brought back', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'New folio' }).click()
  await expect(page.getByRole('heading', { name: 'Bring in boundaries and a table' })).toBeVisible()
  await page.getByRole('link', { name: 'Keen Plot: to the shelf' }).click()

  const name = `Trial ${Date.now()}`
  await page.getByRole('button', { name: 'More for New folio', exact: true }).first().click()
  await page.getByRole('button', { name: 'Rename', exact: true }).click()
  await page.getByRole('textbox', { name: 'Name of the folio' }).fill(name)
  await page.keyboard.press('Enter')
  const link = page.getByRole('link', { name: `Open ${name}`, exact: true })
  await expect(link).toBeVisible()

  await page.getByRole('button', { name: `More for ${name}`, exact: true }).click()
  await page.getByRole('button', { name: 'Duplicate', exact: true }).click()
  await expect(page.getByRole('link', { name: `Open ${name}, copy` })).toBeVisible()

  await page.getByRole('button', { name: `More for ${name}`, exact: true }).click()
  await page.getByRole('button', { name: 'Delete', exact: true }).click()
  await expect(link).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(link).toBeVisible()
})

test('a folio file saved from the shelf opens again with its rows in it', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'More for A country that reads', exact: true }).first().click()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as a folio file' }).click(),
  ])
  expect(download.suggestedFilename()).toMatch(/\.keen\.json$/)
  const file = await download.path()
  expect(Object.keys(JSON.parse(readFileSync(file, 'utf8')).contents).length).toBeGreaterThanOrEqual(7)
  await page.getByLabel('Folio file').setInputFiles({
    name: download.suggestedFilename(),
    mimeType: 'application/json',
    buffer: readFileSync(file),
  })
  await expect(page.getByRole('main', { name: 'data desk' })).toBeVisible()
  await expect(page.getByRole('grid', { name: 'Districts' })).toContainText('LM001')
})

test('a file that is no whole folio is refused in words and leaves nothing on the shelf', async ({
  page,
}) => {
  await page.goto('/')
  const broken: [string, string][] = [
    ['{"format": "keen-folio-file", "version": 1', 'not complete JSON'],
    [
      JSON.stringify({
        format: 'keen-folio-file',
        version: 1,
        folio: { format: 'keen-folio', version: 99, name: 'Half a folio' },
        contents: {},
      }),
      'made by a newer Keen Plot',
    ],
    [
      JSON.stringify({
        format: 'keen-folio-file',
        version: 1,
        folio: { format: 'keen-folio', version: 1, name: 'Half a folio' },
        contents: {},
      }),
      'at id',
    ],
  ]
  for (const [text, says] of broken) {
    await page
      .getByLabel('Folio file')
      .setInputFiles({ name: 'broken.keen.json', mimeType: 'application/json', buffer: Buffer.from(text) })
    await expect(page.getByRole('alert').filter({ hasText: 'This file cannot be opened' })).toContainText(
      says,
    )
  }
  await page.reload()
  await expect(page.getByRole('link', { name: /^Open A country/ }).first()).toBeVisible()
  await expect(page.getByRole('link', { name: 'Open Half a folio' })).toHaveCount(0)
})
