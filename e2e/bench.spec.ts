import { expect, test } from '@playwright/test'
import { benchBreaks, choropleth, openDemo, savedFolio } from './folio'

test('a locked break stays while the method and the number of classes change', async ({ page }) => {
  const id = await openDemo(page, 'map')
  const [, kept] = await benchBreaks(page)
  await page.getByRole('slider', { name: 'Break 2' }).focus()
  await page.keyboard.press('l')
  await expect(page.getByRole('button', { name: 'Unlock break 2' })).toBeVisible()
  for (const method of ['quantile', 'equal-interval', 'head-tail']) {
    await page.getByRole('combobox', { name: 'Method' }).selectOption(method)
    await expect.poll(() => benchBreaks(page)).toContain(kept)
  }
  await page.getByRole('button', { name: 'One class more' }).click()
  await expect.poll(async () => (await benchBreaks(page)).includes(kept)).toBe(true)
  expect(choropleth(await savedFolio(page, id)).locked).toEqual([kept])
})

test('zeros are set aside with a colour and a line of their own in the legend, and put back', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  await page.getByRole('button', { name: 'library loans', exact: true }).click()
  await page.getByRole('button', { name: /^Book-van stops/ }).click()
  await page.getByRole('button', { name: 'Set aside', exact: true }).click()
  await page.getByRole('button', { name: /^The \d+ zeros/ }).click()
  await page.getByRole('textbox', { name: 'Label of none' }).fill('no stops')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('list', { name: 'Classes' }).getByText('no stops')).toBeVisible()
  await expect(page.getByText(/values are in a class, \d+ set aside\./)).toBeVisible()
  expect(choropleth(await savedFolio(page, id)).setAside).toMatchObject([
    { from: 0, to: 0, label: 'no stops' },
  ])
  await page.getByRole('button', { name: 'Set aside', exact: true }).click()
  await page.getByRole('button', { name: 'Put no stops back into the classes' }).click()
  await expect(page.getByRole('list', { name: 'Classes' }).getByText('no stops')).toHaveCount(0)
})

test('methods are compared in small maps, one is adopted, two are laid over each other; all of it is undone', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  const original = await savedFolio(page, id)
  await page.keyboard.press('c')
  const list = page.getByRole('list', { name: 'Methods compared' })
  await expect(list.getByRole('listitem')).toHaveCount(12)
  const fits = (await list.getByText(/^fit /).allInnerTexts()).map((text) =>
    Number(/fit ([\d.]+)/.exec(text)?.[1]),
  )
  expect(fits).toEqual([...fits].sort((a, b) => b - a))
  await list.getByRole('checkbox').nth(0).click()
  await list.getByRole('checkbox').nth(4).click()
  await page.getByRole('slider', { name: 'Divider between the two maps' }).fill('20')
  await page.getByRole('button', { name: 'All of them' }).click()
  await list.getByRole('button', { name: 'Adopt quantiles' }).click()
  await expect(page.getByText(/in five classes by quantiles/)).toBeVisible()
  await page.getByRole('button', { name: 'Two sides' }).click()
  await page.getByRole('button', { name: /^the median/ }).click()
  await page.keyboard.press('Escape')
  await expect(
    page.getByText(/by quantiles on both sides of the median, coloured Bark and reed/),
  ).toBeVisible()
  expect(choropleth(await savedFolio(page, id))).toMatchObject({
    method: 'quantile',
    midpoint: { at: 'median' },
  })
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: /^Undo: / }).click()
  expect(await savedFolio(page, id)).toEqual(original)
})

test('labels, decimals and marks are chosen; the legend of the sheet follows', async ({ page }) => {
  await openDemo(page, 'map')
  await page.getByRole('button', { name: 'Labels', exact: true }).click()
  await page.getByRole('combobox', { name: 'Wording of classes' }).selectOption('dash')
  await page.getByRole('combobox', { name: 'Decimals', exact: true }).selectOption('1')
  await page.getByRole('combobox', { name: 'Decimal mark of labels' }).selectOption(',')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('list', { name: 'Classes' }).getByText('5,0–8,0')).toBeVisible()
  await page.keyboard.press('3')
  await page.getByLabel('Pile').getByRole('button', { name: 'Legend', exact: true }).click()
  await expect(page.getByRole('textbox', { name: 'Wording of 5,0–8,0' }).first()).toBeVisible()
})

test('a break is dragged out of the bench and is gone; pointing at a dot marks its district', async ({
  page,
}) => {
  await openDemo(page, 'map')
  const plot = await page.getByRole('group', { name: 'Distribution with breaks' }).boundingBox()
  if (!plot) throw new Error('The distribution has a place.')
  const handle = await page.getByRole('slider', { name: 'Break 4' }).locator('rect').first().boundingBox()
  if (!handle) throw new Error('The break has a place.')
  await page.mouse.move(handle.x + handle.width / 2, handle.y + 70)
  await page.mouse.down()
  await page.mouse.move(handle.x + handle.width / 2, plot.y - 120, { steps: 6 })
  await page.mouse.up()
  await expect(page.getByRole('slider', { name: /^Break/ })).toHaveCount(3)
  await page.mouse.move(plot.x + plot.width - 1, plot.y + 139)
  await expect(page.getByRole('status').filter({ hasText: 'rank 1 of 158' })).toBeVisible()
  await page.getByRole('button', { name: 'Rising curve' }).click()
  await page.getByRole('button', { name: 'log', exact: true }).click()
  await expect(page.getByRole('slider', { name: /^Break/ })).toHaveCount(3)
})
