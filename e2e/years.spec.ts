import { expect, test } from '@playwright/test'
import { benchBreaks, drawn, openDemo } from './folio'

test('the arrow keys step through the years of a series, classes and legend stay', async ({ page }) => {
  await openDemo(page, 'map')
  const year = page.getByRole('button', { name: /^20\d\d$/ })
  await expect(year).toHaveText('2025')
  const ofOneYear = await benchBreaks(page)
  await year.focus()
  await page.keyboard.press('ArrowLeft')
  await expect(year).toHaveText('2024')
  await expect(page.getByText('over all years')).toBeVisible()
  await expect.poll(() => benchBreaks(page)).not.toEqual(ofOneYear)
  const before = await benchBreaks(page)
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowLeft')
  await expect(year).toHaveText('2020')
  await expect(year).toBeFocused()
  await expect(page.getByText('Library loans 2020 per resident')).toBeVisible()
  expect(await benchBreaks(page)).toEqual(before)
  await page.keyboard.press('Home')
  await expect(year).toHaveText('2010')

  // The card beside the pointer draws the series of the place.
  const map = page.getByRole('application', { name: /^Map:/ })
  await drawn(page, /^Map:/)
  const box = await map.boundingBox()
  if (!box) throw new Error('The map has no place.')
  await page.mouse.move(box.x + box.width * 0.47, box.y + box.height * 0.5)
  await expect(page.getByRole('img', { name: /^From 2010: .* to 2025: / })).toBeVisible()

  // Steps that follow each other are undone together.
  await year.click()
  await page.getByRole('button', { name: '2015', exact: true }).click()
  await expect(year).toHaveText('2015')
  await page.keyboard.press('Control+z')
  await expect(year).toHaveText('2025')
})

test('classes of each year by itself, on wish', async ({ page }) => {
  await openDemo(page, 'map')
  const year = page.getByRole('button', { name: /^20\d\d$/ })
  const ofOneYear = await benchBreaks(page)
  await year.focus()
  await page.keyboard.press('ArrowLeft')
  await expect.poll(() => benchBreaks(page)).not.toEqual(ofOneYear)
  const together = await benchBreaks(page)
  await page.keyboard.press('Enter')
  await page.getByRole('checkbox', { name: 'Classes over all years' }).uncheck()
  await page.keyboard.press('Escape')
  await expect(page.getByText('over all years')).toBeHidden()
  await expect.poll(() => benchBreaks(page)).not.toEqual(together)
})

test('new steps: what lies nearest, and areas that are split by others', async ({ page }) => {
  await openDemo(page, 'data')
  await page.getByRole('button', { name: /^Provinces/ }).click()
  await page.getByRole('button', { name: 'Add a step' }).click()
  await page.getByRole('button', { name: 'Nearest', exact: true }).click()
  await expect(page.getByRole('columnheader', { name: /Distance to the nearest/ })).toBeVisible()
  await page.getByRole('combobox', { name: 'Of', exact: true }).selectOption({ label: 'Libraries' })
  await expect(page.getByRole('combobox', { name: 'Named by' })).toHaveValue('name')
  await page.getByRole('combobox', { name: 'Measured from' }).selectOption({ label: 'the border' })
  // Every province has a library in it.
  await expect(page.getByRole('gridcell', { name: '0', exact: true }).first()).toBeVisible()

  await page.getByRole('button', { name: 'Add a step' }).click()
  await page.getByRole('button', { name: 'Overlay', exact: true }).click()
  await page.getByRole('combobox', { name: 'Split by' }).selectOption({ label: 'Lakes' })
  await expect(page.getByRole('columnheader', { name: /Share of the area/ })).toBeVisible()
  await expect(page.getByRole('group', { name: /^Shared out/ }).first()).toContainText('of')
})
