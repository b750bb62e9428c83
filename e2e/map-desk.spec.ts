import { expect, test } from '@playwright/test'
import { benchBreaks, choropleth, drawn, openDemo, savedFolio } from './folio'

test('a break is dragged; counts and the folio follow, one undo takes it back', async ({ page }) => {
  const id = await openDemo(page, 'map')
  const before = await benchBreaks(page)
  const handle = page.getByRole('slider', { name: 'Break 2' })
  const box = await handle.locator('rect').first().boundingBox()
  if (!box) throw new Error('The break has no place.')
  await page.mouse.move(box.x + box.width / 2, box.y + 60)
  await page.mouse.down()
  for (let i = 1; i <= 6; i++) await page.mouse.move(box.x + box.width / 2 + 5 * i, box.y + 60)
  await page.mouse.up()
  const after = await benchBreaks(page)
  expect(after[1]).toBeGreaterThan(before[1])
  expect([after[0], after[2], after[3]]).toEqual([before[0], before[2], before[3]])
  await expect(page.getByRole('button', { name: 'breaks set by hand' })).toBeVisible()
  expect(choropleth(await savedFolio(page, id)).manualBreaks[1]).toBe(after[1])
  const counts = await page.getByRole('list', { name: 'Classes' }).getByRole('listitem').allInnerTexts()
  expect(counts.map((text) => Number(/(\d+) districts?$/.exec(text)?.[1])).reduce((a, b) => a + b, 0)).toBe(
    158,
  )
  await page.keyboard.press('Control+z')
  await expect.poll(() => benchBreaks(page)).toEqual(before)
})

test('every press of an arrow key counts, however fast they follow each other', async ({ page }) => {
  await openDemo(page, 'map')
  const before = (await benchBreaks(page))[3]
  await page.getByRole('slider', { name: 'Break 4' }).focus()
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight')
  const step = (await benchBreaks(page))[3] - before
  await page.keyboard.press('Control+z')
  expect((await benchBreaks(page))[3] - before).toBeCloseTo((step * 5) / 6, 9)
})

test('a break is typed, added with a double click and removed with a key', async ({ page }) => {
  await openDemo(page, 'map')
  await page.getByRole('slider', { name: 'Break 3' }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('textbox', { name: 'Value of break 3' }).fill('5.5')
  await page.keyboard.press('Enter')
  expect((await benchBreaks(page))[2]).toBe(5.5)
  const plot = await page.getByRole('group', { name: 'Distribution with breaks' }).boundingBox()
  if (!plot) throw new Error('The distribution has no place.')
  await page.mouse.dblclick(plot.x + plot.width * 0.85, plot.y + 70)
  await expect(page.getByRole('slider', { name: /^Break/ })).toHaveCount(5)
  await page.getByRole('slider', { name: 'Break 5' }).focus()
  await page.keyboard.press('Delete')
  await expect(page.getByRole('slider', { name: /^Break/ })).toHaveCount(4)
})

test('an empty class is marked on the bench', async ({ page }) => {
  await openDemo(page, 'map')
  await page.getByRole('combobox', { name: 'Method' }).selectOption('equal-interval')
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'One class more' }).click()
  await expect(page.getByRole('list', { name: 'Classes' }).getByText('empty').first()).toBeVisible()
  await expect(page.getByText(/classes are empty\.|One class is empty\./)).toBeVisible()
})

test('changing the field keeps method, class count, colours and rounding', async ({ page }) => {
  const id = await openDemo(page, 'map')
  await page.getByRole('button', { name: 'natural breaks' }).click()
  await page.getByRole('button', { name: /^quantiles/ }).click()
  await page.getByRole('button', { name: 'five', exact: true }).click()
  await page.getByRole('button', { name: 'seven', exact: true }).click()
  await page.getByRole('button', { name: 'Meadow', exact: true }).first().click()
  await page.getByRole('button', { name: 'Fjord', exact: true }).click()
  await page.getByRole('checkbox', { name: 'Reversed' }).check()
  await page.keyboard.press('Escape')
  const before = choropleth(await savedFolio(page, id))
  await page.getByRole('button', { name: 'library loans', exact: true }).click()
  await page.getByRole('button', { name: /^Library members/ }).click()
  await expect(page.getByText(/^Shade districts by library members/)).toBeVisible()
  const after = choropleth(await savedFolio(page, id))
  expect(after).toEqual({ ...before, field: after.field })
  expect(after.field).not.toBe(before.field)
  expect(before).toMatchObject({ method: 'quantile', classes: 7, scheme: 'fjord', reversed: true })
})

test('switching to a plain layer and back loses nothing', async ({ page }) => {
  const id = await openDemo(page, 'map')
  const before = choropleth(await savedFolio(page, id))
  await page.getByRole('combobox', { name: 'Map kind' }).selectOption('plain')
  await expect(page.getByText(/^Show districts for orientation/)).toBeVisible()
  await page.getByRole('combobox', { name: 'Map kind' }).selectOption('choropleth')
  expect(choropleth(await savedFolio(page, id))).toEqual(before)
})

test('pointing at a district tells its name, value and class', async ({ page }) => {
  await openDemo(page, 'map')
  const box = await page.getByRole('application', { name: /^Map:/ }).boundingBox()
  if (!box) throw new Error('The map has no place.')
  await page.mouse.move(box.x + box.width * 0.47, box.y + box.height * 0.5)
  const card = page.getByRole('status').filter({ hasText: 'class' })
  await expect(card).toContainText(/loans per resident/)
  await expect(card).toContainText(/class [1-5] of 5 · rank \d+ of 158/)
})

test('the map is zoomed with the wheel, dragged, and fitted again', async ({ page }) => {
  await openDemo(page, 'map')
  const scale = page.getByTitle('Scale on a screen of 96 pixels to the inch')
  const start = await scale.innerText()
  const box = await page.getByRole('application', { name: /^Map:/ }).boundingBox()
  if (!box) throw new Error('The map has no place.')
  await page.mouse.move(box.x + 400, box.y + 200)
  await page.mouse.wheel(0, -600)
  await expect(scale).not.toHaveText(start)
  await page.mouse.down()
  await page.mouse.move(box.x + 500, box.y + 260, { steps: 5 })
  await page.mouse.up()
  await page.keyboard.press('f')
  await expect(scale).toHaveText(start)
})

test('layers are hidden, made translucent, reordered and deleted, and all of it is undone', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  const original = await savedFolio(page, id)
  const names = () =>
    page
      .getByRole('list', { name: 'Layers, from top to bottom' })
      .locator('> li button[aria-current] span.truncate')
      .allInnerTexts()
  const order = await names()
  await page.getByRole('button', { name: 'Hide Towns' }).click()
  await page.getByRole('button', { name: 'Layer up' }).click()
  expect((await names()).indexOf('Loans per resident')).toBe(order.indexOf('Loans per resident') - 1)
  await page.getByRole('radio', { name: 'Layer', exact: true }).click()
  await page.getByRole('textbox', { name: 'Opacity, %' }).fill('60')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Delete layer' }).click()
  expect(await names()).toHaveLength(order.length - 1)
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: /^Undo: / }).click()
  await drawn(page, /^Map:/)
  expect(await names()).toEqual(order)
  expect(await savedFolio(page, id)).toEqual(original)
})

test('breaks are rounded without losing a value', async ({ page }) => {
  await openDemo(page, 'map')
  const round = page.getByRole('button', { name: 'Round breaks' })
  await expect(round).toHaveAttribute('aria-pressed', 'true')
  await round.click()
  // Numbers of three figures at most that leave every value in its class.
  const whole = async () =>
    (await benchBreaks(page)).every((b) => Math.abs(100 * b - Math.round(100 * b)) < 1e-6)
  await expect.poll(whole).toBe(false)
  await round.click()
  await expect.poll(whole).toBe(true)
  await expect(page.getByText(/^Rounding moved/)).toHaveCount(0)
  await expect(page.getByText('All 158 values are in a class.')).toBeVisible()
})
