import { execFileSync } from 'node:child_process'
import { expect, test, type Page } from '@playwright/test'
import { addressesOf } from '@/core/cartogram/blocks/cells'
import type { BlocksSettings } from '@/core/kinds/blocks/spec'
import { bringInDistricts, drawn, openDemo, openEmpty, savedFolio } from './folio'

const settingsOf = async (page: Page, id: string): Promise<BlocksSettings | undefined> =>
  (await savedFolio(page, id)).maps
    .flatMap(({ layers }) => layers)
    .find(({ symbology }) => symbology.kind === 'blocks')?.symbology.settings as BlocksSettings | undefined

const exact = /blocks, every area exact/

test('a block cartogram from two fresh files to a printed PDF, painted by hand', async ({ page }, info) => {
  // Layouts take seconds each on a busy machine.
  test.setTimeout(150_000)
  const id = await openEmpty(page, 'data', 'Blocks')
  await bringInDistricts(page)
  await page
    .getByRole('columnheader', { name: /Population/ })
    .getByRole('button')
    .first()
    .click()
  await page.getByRole('button', { name: 'Map this field' }).click()
  await drawn(page, /^Map:/)
  await page.getByRole('combobox', { name: 'Kind' }).selectOption('blocks')
  await expect(page.getByText(/^Blocks for districts by population, one block for 5,000/)).toBeVisible()
  const figures = page.getByLabel('Figures of the cartogram')
  await expect(figures).toContainText(exact, { timeout: 30_000 })

  // The sums of the page follow each other.
  const bench = page.getByRole('region', { name: 'Block bench' })
  await expect(bench.getByLabel('Blocks in all')).toHaveText('1,084 blocks')
  await bench.getByRole('textbox', { name: 'Value of a block' }).fill('10000')
  await page.keyboard.press('Enter')
  await expect(bench.getByLabel('Blocks in all')).toHaveText('542 blocks')
  await expect(figures).toContainText('542 blocks, every area exact', { timeout: 30_000 })
  await expect(bench.getByLabel('Sum of the blocks')).toHaveText('542 of 542 blocks placed')

  // Painted over neighbours, which then lack what they had.
  await bench.getByRole('button', { name: 'Paint blocks' }).click()
  const hands = page.getByRole('application', { name: 'Blocks: paint' })
  const box = (await hands.boundingBox())!
  await page.mouse.move(box.x + 0.5 * box.width, box.y + 0.45 * box.height)
  await page.mouse.down()
  await page.mouse.move(box.x + 0.6 * box.width, box.y + 0.5 * box.height, { steps: 6 })
  await expect(hands.getByRole('status')).toHaveText(/: \d+ of \d+$/)
  await page.mouse.up()
  const wrong = bench.getByRole('list', { name: 'Areas that do not add up' })
  await expect(wrong.getByRole('button').first()).toHaveText(/\d+ of \d+/)
  await expect(figures).toContainText('not right')
  const painted = (await settingsOf(page, id))?.hand
  expect(painted).not.toBeNull()

  // One stroke is one step back.
  await page.keyboard.press('Control+z')
  await expect(figures).toContainText(exact)
  await page.keyboard.press('Control+Shift+z')
  await expect(figures).toContainText('not right')
  await bench.getByRole('button', { name: 'Settle' }).click()
  await expect(figures).toContainText('542 blocks, every area exact', { timeout: 30_000 })
  await expect(wrong).toHaveText('Every area has the blocks that it is worth.')
  await expect
    .poll(async () =>
      Object.values((await settingsOf(page, id))?.hand ?? {}).reduce(
        (sum, runs) => sum + addressesOf(runs).length / 2,
        0,
      ),
    )
    .toBe(542)

  await page.keyboard.press('3')
  await page.getByRole('button', { name: 'Add a sheet' }).click()
  await drawn(page, /^Page:/)
  await page.getByRole('button', { name: '4 Proof' }).click()
  await expect(page.getByText('Every area has the blocks that it is worth')).toBeVisible()
  await page.getByRole('button', { name: 'Export PDF' }).click()
  const link = page.getByRole('link', { name: /^Download .*\.pdf/ })
  const [download] = await Promise.all([page.waitForEvent('download'), link.click()])
  const pdf = info.outputPath('sheet.pdf')
  await download.saveAs(pdf)
  execFileSync('qpdf', ['--check', pdf])
  expect(execFileSync('pdftotext', [pdf, '-']).toString()).toContain('1 block: 10,000')
})

test('blocks are moved, turned, swapped and kept, and small areas are named', async ({ page }) => {
  test.setTimeout(150_000)
  const id = await openDemo(page, 'map')
  await page.getByRole('combobox', { name: 'Kind' }).selectOption('blocks')
  const figures = page.getByLabel('Figures of the cartogram')
  await expect(figures).toContainText(exact, { timeout: 30_000 })
  const bench = page.getByRole('region', { name: 'Block bench' })
  const hands = page.getByRole('application', { name: /^Blocks:/ })
  const click = async (x: number, y: number) => {
    const box = (await hands.boundingBox())!
    await page.mouse.move(box.x + x * box.width - 2, box.y + y * box.height)
    await page.mouse.click(box.x + x * box.width, box.y + y * box.height)
  }
  await bench.getByRole('button', { name: 'Keep an area' }).click()
  await click(0.5, 0.45)
  await expect.poll(async () => (await settingsOf(page, id))?.kept.length).toBe(1)
  await click(0.5, 0.45)
  await expect.poll(async () => (await settingsOf(page, id))?.kept.length).toBe(0)

  await bench.getByRole('button', { name: 'Swap two areas' }).click()
  await click(0.5, 0.45)
  await click(0.45, 0.5)
  await expect.poll(async () => (await settingsOf(page, id))?.hand).not.toBeNull()
  const swapped = (await settingsOf(page, id))?.hand
  await bench.getByRole('button', { name: 'Turn an area' }).click()
  await click(0.5, 0.4)
  await expect
    .poll(async () => JSON.stringify((await settingsOf(page, id))?.hand))
    .not.toBe(JSON.stringify(swapped))
  await bench.getByRole('button', { name: 'Lay out anew' }).click()
  await expect.poll(async () => (await settingsOf(page, id))?.hand).toBeNull()

  // What the rule put together takes a name of its own.
  const groups = page.getByRole('list', { name: 'Groups of areas' })
  const name = groups.getByRole('textbox').first()
  await name.fill('The small ones')
  await page.keyboard.press('Enter')
  await expect
    .poll(async () => (await settingsOf(page, id))?.groups.map((group) => group.name))
    .toEqual(['The small ones'])
  await groups.getByRole('button', { name: 'Take the group The small ones apart' }).click()
  await expect.poll(async () => (await settingsOf(page, id))?.groups).toEqual([])

  // Colours of a class are still those of the class bench.
  await page.getByRole('radio', { name: 'Classes' }).click()
  await expect(page.getByRole('region', { name: 'Class bench' })).toBeVisible()
})
