import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { drawn, openDemo, openEmpty, type Desk } from './folio'

async function serious(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).analyze()
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(
      ({ id, nodes }) =>
        `${id}: ${nodes
          .slice(0, 4)
          .map((node) => node.html.slice(0, 160))
          .join(' | ')}`,
    )
}

for (const theme of ['daylight', 'lamplight']) {
  test(`the shelf, ${theme}`, async ({ page }) => {
    await page.addInitScript((name) => localStorage.setItem('keen-theme', name), theme)
    await page.goto('/')
    expect(await serious(page)).toEqual([])
  })

  for (const desk of ['data', 'map', 'sheet', 'proof'] as Desk[]) {
    test(`the ${desk} desk, ${theme}`, async ({ page }) => {
      await page.addInitScript((name) => localStorage.setItem('keen-theme', name), theme)
      await openDemo(page, desk)
      if (desk === 'data')
        await page
          .getByRole('columnheader', { name: /^Population/ })
          .getByRole('button')
          .first()
          .click()
      if (desk === 'sheet')
        await page.getByLabel('Pile').getByRole('button', { name: 'Legend', exact: true }).click()
      if (desk === 'proof') await expect(page.getByText('12 passed')).toBeVisible()
      expect(await serious(page)).toEqual([])
    })
  }
}

test('the pickers and dialogs', async ({ page }) => {
  await openDemo(page, 'map')
  await page.getByRole('button', { name: 'Meadow', exact: true }).first().click()
  expect(await serious(page)).toEqual([])
  await page.keyboard.press('Escape')
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible()
  expect(await serious(page)).toEqual([])
})

test('empty desks', async ({ page }) => {
  await openEmpty(page, 'data')
  for (const key of ['1', '2', '3', '4']) {
    await page.keyboard.press(key)
    expect(await serious(page)).toEqual([])
  }
})

test('the way through the desks by keyboard alone', async ({ page }) => {
  await openDemo(page, 'data')
  await page.keyboard.press('2')
  await drawn(page, /^Map:/)
  // The method is changed in the sentence.
  await page.getByRole('button', { name: 'natural breaks' }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: /^quantiles/ }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'quantiles', exact: true })).toBeVisible()
  // A break is moved with the arrow keys.
  const handle = page.getByRole('slider', { name: 'Break 1' })
  const before = Number(await handle.getAttribute('aria-valuenow'))
  await handle.focus()
  await page.keyboard.press('ArrowRight')
  await expect.poll(async () => Number(await handle.getAttribute('aria-valuenow'))).toBeGreaterThan(before)
  // Find anything leads to a part of the sheet.
  await page.getByRole('application', { name: /^Map:/ }).focus()
  await page.keyboard.press('/')
  await page.keyboard.type('Source note')
  await page.keyboard.press('Enter')
  await drawn(page, /^Page:/)
  await expect(page.getByRole('textbox', { name: 'Words', exact: true })).toHaveValue(/credits/)
  await page.getByRole('application', { name: /^Page:/ }).focus()
  await page.keyboard.press('4')
  await page.getByRole('button', { name: 'Export PDF' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('link', { name: /^Download .*\.pdf/ })).toBeVisible({ timeout: 30_000 })
})
