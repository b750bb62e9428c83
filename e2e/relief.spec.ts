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
  const undo = page.getByRole('button', { name: /^Undo: / })
  while ((await undo.count()) > 0) await undo.click()
  expect(await relief()).toEqual(before)
})
