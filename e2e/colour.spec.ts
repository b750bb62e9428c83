import { expect, test } from '@playwright/test'
import { benchBreaks, openDemo, savedFolio } from './folio'
import type { Page } from '@playwright/test'

const toMap = async (page: Page, name: RegExp) => {
  await page.getByRole('button', { name: /^Map: / }).click()
  await page.getByRole('dialog', { name: 'Maps of the folio' }).getByRole('button', { name }).click()
}
const settings = async (page: Page, id: string, layerId: string) => {
  const layer = (await savedFolio(page, id)).maps.flatMap((map) => map.layers).find((l) => l.id === layerId)
  return layer?.symbology.settings as Record<string, unknown>
}

test('two maps share one scheme of classes: a change in either is one in both, and undo takes it back', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  const original = await savedFolio(page, id)
  await toMap(page, /^Loans per resident/)
  const alone = await benchBreaks(page)
  await page.getByRole('button', { name: 'Share', exact: true }).click()
  await page.getByRole('checkbox', { name: /^Median household income/ }).click()
  await page.keyboard.press('Escape')
  // Breaks are now over loans per resident and incomes together.
  await expect(page.getByRole('button', { name: 'Shared by 2' })).toBeVisible()
  await expect.poll(() => benchBreaks(page)).not.toEqual(alone)
  await page.getByRole('button', { name: 'Shared by 2' }).click()
  await page.getByRole('radio', { name: 'Over its own' }).click()
  await expect.poll(() => benchBreaks(page)).toEqual(alone)
  await page.keyboard.press('Escape')
  await page.getByRole('combobox', { name: 'Method' }).selectOption('quantile')
  await toMap(page, /^Household income/)
  await expect(page.getByText(/in five classes by quantiles/)).toBeVisible()
  await page.getByRole('button', { name: 'One class more' }).click()
  await expect.poll(async () => (await settings(page, id, 'loans-per-resident')).classes).toBe(6)
  expect(await settings(page, id, 'median-income')).toMatchObject({
    classes: 6,
    method: 'quantile',
    field: 'med_hh_income',
    scheme: 'meadow',
  })
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: /^Undo: / }).click()
  expect(await savedFolio(page, id)).toEqual(original)
})

test('a bivariate map: both fields on the bench, what the second one does, and its square in the legend', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  await toMap(page, /^Loans and income/)
  await expect(page.getByText(/three by three classes, coloured Moss and slate/)).toBeVisible()
  const first = await benchBreaks(page)
  await page.getByRole('radio', { name: 'Second' }).click()
  await expect.poll(() => benchBreaks(page)).not.toEqual(first)
  await page.getByRole('combobox', { name: 'Method' }).selectOption('natural-breaks')
  expect(await settings(page, id, 'loans-and-income')).toMatchObject({
    across: { method: 'quantile' },
    up: { method: 'natural-breaks' },
  })
  await page.getByRole('combobox', { name: 'What the second field does' }).selectOption('suppressing')
  await expect(page.getByText(/four by three classes/)).toBeVisible()
  await page.getByRole('combobox', { name: 'What the second field does' }).selectOption('fading')
  await expect(page.getByText(/the stronger the higher/)).toBeVisible()
})

test('colours of one’s own are mixed, kept in the folio and chosen for another map; schemes are sifted by who can read them', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  await page.getByRole('button', { name: /^Colours:/ }).click()
  const picker = page.getByRole('dialog', { name: 'Colours' })
  const published = picker.getByRole('button', { pressed: false })
  const all = await published.count()
  await picker.getByRole('checkbox', { name: 'Safe in a grey copy' }).click()
  await expect.poll(() => published.count()).toBeLessThan(all)
  await picker.getByRole('button', { name: 'New' }).click()
  await page.getByRole('textbox', { name: 'Name of the colours' }).fill('Ink')
  await page.keyboard.press('Tab')
  await page.getByRole('button', { name: 'Colour 1 of the ramp: #1f6f6b' }).click()
  await page.getByRole('radio', { name: 'CMYK' }).click()
  await page
    .getByRole('spinbutton', { name: /black in percent/ })
    .or(page.getByRole('textbox', { name: /black in percent/ }))
    .fill('80')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Keep in the folio' }).click()
  await expect(page.getByText(/coloured Ink/)).toBeVisible()
  await page.keyboard.press('Escape')
  const folio = await savedFolio(page, id)
  expect(folio.ramps.map(({ name }) => name)).toEqual(['Peat', 'Ink'])
  await toMap(page, /^Change in loans/)
  await page.getByRole('button', { name: /^Colours:/ }).click()
  await page.getByRole('button', { name: 'Ink', exact: true }).click()
  await expect
    .poll(async () => ((await settings(page, id, 'change-in-loans')).ramp as { name: string } | null)?.name)
    .toBe('Ink')
})

test('words of a class stay when it changes, and say that they may no longer fit', async ({ page }) => {
  await openDemo(page, 'map')
  await page.getByRole('button', { name: 'Labels', exact: true }).click()
  await page.getByRole('textbox', { name: /^Words for the class under/ }).fill('hardly any')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  const classes = page.getByRole('list', { name: 'Classes' })
  await expect(classes.getByText('hardly any')).toBeVisible()
  await expect(classes.getByText('may no longer fit')).toHaveCount(0)
  await page.getByRole('slider', { name: 'Break 1' }).focus()
  await page.keyboard.press('ArrowLeft')
  await expect(classes.getByText('hardly any')).toBeVisible()
  await expect(classes.getByText('may no longer fit')).toBeVisible()
  await page.getByRole('button', { name: 'Labels', exact: true }).click()
  await page.getByRole('combobox', { name: 'Also count under each class' }).selectOption('ground')
  await page.keyboard.press('Escape')
  await expect(classes.getByText(/% of the ground/)).toHaveCount(5)
  await page.getByRole('button', { name: 'More bars' }).click()
  await expect(page.getByRole('button', { name: /^\d+ bars/ })).toBeVisible()
})
