import { expect, test } from '@playwright/test'
import type { CategorySettings } from '@/core/kinds/categories/spec'
import { openDemo, savedFolio } from './folio'

test('categories are grouped, merged and filled with lines; the map can show flows from a table', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  const original = await savedFolio(page, id)
  await page.getByRole('button', { name: /^Map: / }).click()
  await page.getByRole('button', { name: /^Lending formats/ }).click()
  await page
    .getByRole('list', { name: 'Layers, from top to bottom' })
    .getByRole('button', { name: /^Main lending format/ })
    .click()
  await expect(page.getByText(/^Show districts by their main lending format in colours Linen/)).toBeVisible()
  const settings = async () =>
    (await savedFolio(page, id)).maps.flatMap((map) => map.layers).find((l) => l.id === 'main-lending-format')
      ?.symbology.settings as CategorySettings
  await page.getByRole('button', { name: 'More of Digital' }).click()
  await page.getByRole('combobox', { name: 'Digital is shown with' }).selectOption('Mixed')
  await page.keyboard.press('Escape')
  await expect.poll(async () => (await settings()).own.Digital?.with).toBe('Mixed')
  await expect(page.getByRole('button', { name: 'More of Digital' })).toHaveCount(0)
  await page.getByRole('combobox', { name: 'How colours are given' }).selectOption('neighbours')
  await page.getByLabel('Categories with fewer features are grouped').fill('50')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/, those with fewer than 50 as other,/)).toBeVisible()
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: /^Undo: / }).click()
  expect(await savedFolio(page, id)).toEqual(original)

  await page.getByRole('button', { name: /^Map: / }).click()
  await page.getByRole('button', { name: /^Loans between districts/ }).click()
  await expect(
    page.getByText(
      new RegExp(
        '^Draw flows of loans from loans between districts as lines, 1,000 being 2.6 mm wide, ' +
          'leaving out those under 40, coloured by direction',
      ),
    ),
  ).toBeVisible()
  await page.getByRole('button', { name: 'by direction', exact: true }).click()
  await page.getByRole('button', { name: /^by where they start/ }).click()
  await expect(page.getByText(/coloured by where they start/)).toBeVisible()
  await page.getByRole('button', { name: /^Undo: / }).click()
  expect(await savedFolio(page, id)).toEqual(original)
})

test('charts, lines by a value and glowing points are changed in their sentences, and undone', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  const original = await savedFolio(page, id)
  const toMap = async (name: RegExp) => {
    await page.getByRole('button', { name: /^Map: / }).click()
    await page.getByRole('dialog', { name: 'Maps of the folio' }).getByRole('button', { name }).click()
  }
  await toMap(/^Fifteen years by province/)
  await expect(page.getByText(/^Draw bars side by side for returns by province of 4 fields/)).toBeVisible()
  await page.getByRole('button', { name: 'bars side by side', exact: true }).click()
  await page.getByRole('button', { name: 'rings', exact: true }).click()
  await expect(page.getByLabel('Empty part of the ring')).toBeVisible()
  await toMap(/^Book-van rounds/)
  await expect(page.getByText(/^Draw book-van routes, their width alike, coloured by length/)).toBeVisible()
  await page.getByRole('button', { name: 'alike', exact: true }).click()
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^by length/ })
    .click()
  await expect(page.getByText(/their width by length, \d+ being 3 mm/)).toBeVisible()
  await toMap(/^Readers at night/)
  await expect(page.getByText(/^Let readers glow by books/)).toBeVisible()
  await page.getByLabel('Strength of a single point').fill('40')
  await page.keyboard.press('Enter')
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: /^Undo: / }).click()
  expect(await savedFolio(page, id)).toEqual(original)
})

test('dots stand for another number, in another size, and keep what they are in the legend', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  await page.getByRole('button', { name: /^Map: / }).click()
  await page
    .getByRole('dialog', { name: 'Maps of the folio' })
    .getByRole('button', { name: /^Readers by age/ })
    .click()
  await expect(
    page.getByText(/^One dot for 250 members under 18, members of 18 to 39 and more in districts/),
  ).toBeVisible()
  const figures = page.getByLabel('Figures of the dots')
  const dots = async () =>
    Number(/([\d,]+) dots in all/.exec(await figures.innerText())?.[1].replaceAll(',', ''))
  await expect.poll(dots).toBeGreaterThan(5000)
  const before = await dots()
  await page.getByRole('button', { name: '250', exact: true }).click()
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^500\b/ })
    .click()
  await expect.poll(async () => Math.abs((await dots()) / before - 0.5)).toBeLessThan(0.01)
  await page.getByLabel('Size of a dot, mm').fill('0.6')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Another field in another colour' }).click()
  const settings = (await savedFolio(page, id)).maps
    .find((map) => map.id === 'people')
    ?.layers.find((layer) => layer.symbology.kind === 'dots')?.symbology.settings
  expect(settings).toMatchObject({ each: 500, sizeMm: 0.6 })
  expect((settings as { fields: unknown[] }).fields).toHaveLength(5)
})
