import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { folioFileOf, openDemo } from './folio'

async function exported(page: Page, format: 'PDF' | 'SVG' | 'PNG'): Promise<Buffer> {
  await page.getByRole('radio', { name: format, exact: true }).click()
  await page.getByRole('button', { name: `Export ${format}` }).click()
  const link = page.getByRole('link', { name: new RegExp(`^Download .*\\.${format.toLowerCase()}`) })
  await expect(link).toBeVisible({ timeout: 30_000 })
  const [download] = await Promise.all([page.waitForEvent('download'), link.click()])
  return readFileSync(await download.path())
}

test('the demo sheet passes every check', async ({ page }) => {
  await openDemo(page, 'proof')
  await expect(page.getByText('12 passed')).toBeVisible()
})

test('what the checks find leads to where it is mended', async ({ page }) => {
  await openDemo(page, 'map')
  await page.getByRole('combobox', { name: 'Method' }).selectOption('equal-interval')
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'One class more' }).click()
  await page.keyboard.press('4')
  await expect(page.getByText('1 to look at, 11 passed')).toBeVisible()
  await page.getByRole('button', { name: 'Go to: An empty class' }).click()
  await expect(page.getByRole('region', { name: 'Class bench' })).toBeVisible()
})

test('PDF, SVG and PNG are exported, equal those of the command line, and stay in the list of prints', async ({
  page,
}) => {
  test.setTimeout(120_000)
  const id = await openDemo(page, 'proof')
  const folder = mkdtempSync(path.join(tmpdir(), 'keen-proof-'))
  const file = path.join(folder, 'demo.keen.json')
  writeFileSync(file, await folioFileOf(page, id))
  await page.getByRole('radio', { name: 'PNG', exact: true }).click()
  await page.getByRole('textbox', { name: 'Resolution, dpi' }).fill('100')
  await page.keyboard.press('Enter')
  for (const format of ['PNG', 'SVG', 'PDF'] as const) {
    const printed = await exported(page, format)
    const out = path.join(folder, `out.${format.toLowerCase()}`)
    execFileSync('node', [
      'node_modules/tsx/dist/cli.mjs',
      'src/cli/main.ts',
      'render',
      file,
      '--format',
      format.toLowerCase(),
      '--dpi',
      '100',
      '--out',
      out,
    ])
    // The two PDFs differ in the minute they were made and in the identifiers that follow from it.
    if (format === 'PDF') expect(pixelsOf(printed, folder)).toEqual(pixelsOf(readFileSync(out), folder))
    else expect(printed.equals(readFileSync(out))).toBe(true)
  }
  await expect(page.getByRole('list', { name: 'Prints' }).getByRole('listitem')).toHaveCount(3)
  await expect(page.getByText('Loans, A4 · PNG 100 dpi')).toBeVisible()
  await page.reload()
  await expect(page.getByRole('list', { name: 'Prints' }).getByRole('listitem')).toHaveCount(3)
  await page.getByRole('button', { name: /^Delete the print .*\.png/ }).click()
  await expect(page.getByRole('list', { name: 'Prints' }).getByRole('listitem')).toHaveCount(2)
})

function pixelsOf(pdf: Buffer, folder: string): Buffer {
  writeFileSync(path.join(folder, 'a.pdf'), pdf)
  return execFileSync('pdftoppm', ['-r', '80', path.join(folder, 'a.pdf')], { maxBuffer: 1 << 28 })
}

test('a print can be cancelled and leaves nothing in the list', async ({ page }) => {
  await openDemo(page, 'proof')
  await page.getByRole('radio', { name: 'PNG', exact: true }).click()
  await page.getByRole('textbox', { name: 'Resolution, dpi' }).fill('1200')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Export PNG' }).click()
  await page.getByRole('button', { name: 'Cancel this print' }).click()
  await expect(page.getByText('No prints yet.')).toBeVisible()
})

test('too many pixels are refused in words', async ({ page }) => {
  await openDemo(page, 'proof')
  await page.getByRole('radio', { name: 'PNG', exact: true }).click()
  const resolution = page.getByRole('textbox', { name: 'Resolution, dpi' })
  const button = page.getByRole('button', { name: 'Export PNG' })
  await resolution.fill('2400')
  await page.keyboard.press('Enter')
  // It is said before anything is drawn, with what fits.
  const said = page.getByRole('alert').filter({
    hasText:
      '28,063 × 19,843 pixels are more than can be drawn. Up to 2,034 dots per inch fit on this sheet.',
  })
  await expect(said).toBeVisible()
  await expect(button).toBeDisabled()
  await resolution.fill('2034')
  await page.keyboard.press('Enter')
  await expect(said).toHaveCount(0)
  await expect(button).toBeEnabled()
})
