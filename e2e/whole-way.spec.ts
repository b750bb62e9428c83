import { execFileSync } from 'node:child_process'
import { expect, test } from '@playwright/test'
import { bringInDistricts, drawn, openEmpty, savedFolio } from './folio'

test('from two dropped files to a printed PDF', async ({ page }, info) => {
  const id = await openEmpty(page, 'data', 'Whole way')
  await bringInDistricts(page)

  const grid = page.getByRole('grid', { name: 'Districts' })
  await grid.evaluate((element) => element.scrollTo({ left: 2600 }))
  await page
    .getByRole('columnheader', { name: /Library loans 2025/ })
    .getByRole('button')
    .first()
    .click()
  await page.getByRole('button', { name: 'Map this field' }).click()
  await drawn(page, /^Map:/)
  await expect(page.getByText('A total: large areas will win.')).toBeVisible()
  await page.getByRole('button', { name: 'as it is' }).click()
  await page.getByRole('button', { name: 'per resident Population' }).click()
  await page.keyboard.press('Escape')
  await expect(page.getByText('Fit for shading')).toBeVisible()

  await page.keyboard.press('3')
  await page.getByRole('button', { name: 'Add a sheet' }).click()
  await drawn(page, /^Page:/)
  await page.getByLabel('Pile').getByRole('button', { name: 'Title', exact: true }).click()
  await page.getByRole('textbox', { name: 'Words', exact: true }).fill('Loans in Lindmere')

  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: '4 Proof' }).click()
  await page.getByRole('button', { name: 'Export PDF' }).click()
  const link = page.getByRole('link', { name: /^Download .*\.pdf/ })
  const [download] = await Promise.all([page.waitForEvent('download'), link.click()])
  const pdf = info.outputPath('sheet.pdf')
  await download.saveAs(pdf)

  execFileSync('qpdf', ['--check', pdf])
  const text = execFileSync('pdftotext', [pdf, '-']).toString()
  expect(text).toContain('Loans in Lindmere')
  expect(text).toMatch(/per resident/)
  const folio = await savedFolio(page, id)
  expect(folio.datasets.find((d) => d.name === 'Districts')?.steps).toHaveLength(1)
})
