import { expect, test } from '@playwright/test'
import type { ReliefSettings } from '@/core/kinds/relief/spec'
import { drawn, openDemo, savedFolio } from './folio'

test('a relief is lit from elsewhere, made broader, put in mist, and all of it is undone', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  await page.getByRole('button', { name: /^Map: .* Choose another/ }).click()
  await page.getByRole('button', { name: /^Lindmere/ }).click()
  await drawn(page, /^Map: Lindmere/)
  await page
    .getByRole('button', { name: /^Relief/ })
    .first()
    .click()
  const relief = async () =>
    (await savedFolio(page, id)).maps
      .find(({ name }) => name === 'Lindmere')
      ?.layers.find(({ symbology }) => symbology.kind === 'relief')?.symbology.settings as ReliefSettings
  const before = await relief()
  await expect(
    page.getByText(/^Model relief by four lights about the north-west, tinted by height/),
  ).toBeVisible()

  const dial = page.getByRole('slider', { name: 'Direction of the light' })
  await dial.focus()
  for (let i = 0; i < 9; i++) await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowUp')
  await expect.poll(async () => (await relief()).shading).toMatchObject({ azimuthDeg: 0, altitudeDeg: 50 })
  await expect(page.getByText(/four lights about the north,/)).toBeVisible()
  await page.getByRole('radio', { name: 'One light' }).click()
  await expect(page.getByText(/^Model relief by light from the north,/)).toBeVisible()
  await page.getByLabel('Fine to broad').fill('80')
  await expect.poll(async () => (await relief()).shading?.broad).toBe(0.8)
  await page.getByLabel('Foot of the mist').fill('200')
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await relief()).mist?.foot).toBe(200)
  await page.getByRole('combobox', { name: 'Ready tints' }).selectOption('Cold stone')
  await expect.poll(async () => (await relief()).tints?.stops.length).toBe(5)

  // The second stop is moved by keys, the mist by its upper handle, and a stop is added where the bar is clicked.
  const stops = async () => (await relief()).tints?.stops ?? []
  const second = (await stops())[1].at
  await page.getByRole('slider', { name: 'Tint 2' }).focus()
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight')
  await expect.poll(async () => (await stops())[1].at).toBeGreaterThan(second)
  const gone = page.getByRole('slider', { name: 'Mist is gone at' })
  await gone.focus()
  const reach = (await relief()).mist?.reach ?? 0
  await page.keyboard.press('Shift+ArrowRight')
  await expect.poll(async () => (await relief()).mist?.reach).toBeGreaterThan(reach)
  const bar = await page.getByRole('group', { name: 'Heights and their tints' }).boundingBox()
  if (!bar) throw new Error('The bar is there.')
  await page.mouse.click(bar.x + 0.93 * bar.width, bar.y + 0.62 * bar.height)
  await expect.poll(async () => (await stops()).length).toBe(6)

  await page.getByRole('checkbox', { name: 'In steps' }).check()
  await page.getByRole('combobox', { name: 'Method for steps' }).selectOption('quantile')
  await page.getByLabel('How many steps').fill('4')
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await stops()).length).toBe(4)
  const at = (await stops()).map((stop) => stop.at)
  expect(at).toEqual([...at].sort((a, b) => a - b))

  await page.getByRole('button', { name: 'Set the light on the map' }).click()
  await page.getByRole('slider', { name: 'Light on the map' }).press('ArrowDown')
  await expect.poll(async () => (await relief()).shading?.altitudeDeg).toBe(45)
  const high = Math.max(...(await stops()).map(({ at }) => at))
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'Closer' }).click()
  await drawn(page, /^Map: Lindmere/)
  await page.getByRole('button', { name: 'Stretch tints to this view' }).click()
  await expect.poll(async () => Math.max(...(await stops()).map(({ at }) => at))).not.toBe(high)
  const undo = page.getByRole('button', { name: /^Undo: / })
  while ((await undo.count()) > 0) await undo.click()
  expect(await relief()).toEqual(before)
})
