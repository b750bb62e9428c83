import { readdirSync, renameSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { startServer } from '../scripts/serve.mjs'
import { withServer } from './own-server'

const database = (data: string) => path.join(data, 'keen-plot.sqlite')
const link = (page: Page, name: string) => page.getByRole('link', { name: `Open ${name}`, exact: true })

async function rename(page: Page, from: string, to: string): Promise<void> {
  await page.getByRole('button', { name: `More for ${from}`, exact: true }).click()
  await page.getByRole('button', { name: 'Rename', exact: true }).click()
  await page.getByRole('textbox', { name: 'Name of the folio' }).fill(to)
  await page.keyboard.press('Enter')
  await expect(link(page, to)).toBeVisible()
}

async function backUp(page: Page): Promise<void> {
  await page.getByRole('button', { name: /backed up/ }).click()
  await page.getByRole('button', { name: 'Back up now' }).click()
  await expect(page.getByRole('list', { name: 'Backups' }).getByText('asked for')).toBeVisible()
}

/** Brings the newest backup back that was made for a reason. */
async function bringBack(page: Page, reason: string): Promise<void> {
  const row = page
    .getByRole('list', { name: 'Backups' })
    .getByRole('listitem')
    .filter({ hasText: reason })
    .first()
  await row.getByRole('button', { name: 'Bring back…' }).click()
  await page.getByRole('button', { name: 'Bring it back' }).click()
}

async function onShelf(page: Page, url: string): Promise<void> {
  await page.goto(url)
  await expect(link(page, 'A country that reads')).toBeVisible()
  await page.waitForLoadState('networkidle')
}

test('a backup is made on demand and brought back; what was on the shelf is backed up before', async ({
  page,
}) => {
  await withServer({}, async ({ url }) => {
    await onShelf(page, url)
    await backUp(page)
    await page.keyboard.press('Escape')
    await expect(page.getByRole('button', { name: /^backed up/ })).toBeVisible()
    await rename(page, 'A country that reads', 'Spoilt')
    await page.getByRole('button', { name: /^backed up/ }).click()
    await bringBack(page, 'asked for')
    await expect(link(page, 'A country that reads')).toBeVisible()
    await expect(link(page, 'Spoilt')).toHaveCount(0)
    // What was spoilt is not gone either.
    await page.waitForLoadState('networkidle')
    await page.getByRole('button', { name: /^backed up/ }).click()
    await bringBack(page, 'before something was brought back')
    await expect(link(page, 'Spoilt')).toBeVisible()
    await link(page, 'Spoilt').click()
    await expect(page.getByRole('main', { name: 'data desk' })).toBeVisible()
  })
})

test('everything goes into one file and is brought back from it on another server', async ({
  page,
}, info) => {
  const file = info.outputPath('everything.tar')
  await withServer({}, async ({ url }) => {
    await onShelf(page, url)
    await rename(page, 'A country that reads', 'Taken along')
    await page.getByRole('button', { name: /backed up/ }).click()
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Save a file of everything' }).click()
    await (await download).saveAs(file)
  })
  await withServer({}, async ({ url }) => {
    await onShelf(page, url)
    await page.getByRole('button', { name: /backed up/ }).click()
    // Something else than such a file changes nothing.
    await page.getByLabel('File of everything').setInputFiles({
      name: 'other.tar',
      mimeType: 'application/x-tar',
      buffer: Buffer.from('no archive'.repeat(200)),
    })
    await expect(page.getByRole('dialog').getByRole('alert')).toBeVisible()
    await page.getByLabel('File of everything').setInputFiles(file)
    await expect(link(page, 'Taken along')).toBeVisible({ timeout: 60_000 })
    await link(page, 'Taken along').click()
    // Its rows came along.
    await expect(page.getByRole('main', { name: 'data desk' })).toBeVisible()
    await expect(page.getByRole('gridcell', { name: 'LM001' }).first()).toBeVisible()
  })
})

test('in place of a damaged database the shelf offers its backups, and puts what is left aside', async ({
  page,
}) => {
  await withServer({}, async ({ url, stop }, data) => {
    await onShelf(page, url)
    await backUp(page)
    await stop()
    writeFileSync(database(data), 'no database'.repeat(1000))
    const again = await startServer(data, {})
    try {
      await page.goto(again.url)
      await expect(page.getByRole('heading', { name: /database/i })).toBeVisible()
      await bringBack(page, 'asked for')
      await page.getByRole('button', { name: 'To the shelf' }).click()
      await expect(link(page, 'A country that reads')).toBeVisible()
      expect(readdirSync(data).join()).toMatch(/put-aside|aside/)
    } finally {
      await again.stop()
    }
  })
})

test('a database that was moved away is said, a copy of it can be saved, and it is found again', async ({
  page,
}) => {
  await withServer({}, async ({ url }, data) => {
    await onShelf(page, url)
    renameSync(database(data), `${database(data)}.away`)
    await page.getByRole('button', { name: 'More for A country that reads', exact: true }).click()
    await page.getByRole('button', { name: 'Duplicate', exact: true }).click()
    await expect(page.getByRole('alert').filter({ hasText: /moved or removed/ })).toBeVisible()
    await page.goto(url)
    await expect(page.getByText('The database was moved or removed while it was open.')).toBeVisible()
    await expect(link(page, 'A country that reads')).toBeVisible()
    const download = page.waitForEvent('download')
    await page.getByRole('link', { name: 'Save a copy of it' }).click()
    expect((await download).suggestedFilename()).toMatch(/sqlite$/)
    renameSync(`${database(data)}.away`, database(data))
    await onShelf(page, url)
    await rename(page, 'A country that reads', 'Found again')
    await expect(page.getByText('The database was moved or removed')).toHaveCount(0)
  })
})
