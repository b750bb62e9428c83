import { expect, test, type Page } from '@playwright/test'
import type { Layer } from '@/core/map/spec'
import { drawn, openDemo, savedFolio } from './folio'

const layerOf = async (page: Page, id: string, layerId: string): Promise<Layer> => {
  const layer = (await savedFolio(page, id)).maps
    .flatMap((map) => map.layers)
    .find((one) => one.id === layerId)
  if (!layer) throw new Error(`There is no layer ${layerId}.`)
  return layer
}

/** The settings of a layer with its labels open. */
async function openLabels(page: Page, name: RegExp): Promise<void> {
  await page.getByRole('list', { name: 'Layers, from top to bottom' }).getByRole('button', { name }).click()
  await page.getByRole('radio', { name: 'Labels', exact: true }).click()
}

test('a label is dragged to another place with a line to its town, nudged, put back and taken away', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  await openLabels(page, /^Towns/)
  const label = page.getByRole('button', { name: 'Label Doranness', exact: true })
  const box = await label.boundingBox()
  if (!box) throw new Error('The label has no place.')
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x - 120, box.y + 60, { steps: 6 })
  await page.mouse.up()
  await expect
    .poll(async () => Object.keys((await layerOf(page, id, 'towns')).labels?.moved ?? {}))
    .toEqual(['Doranness'])
  await drawn(page, /^Map:/)
  await expect.poll(async () => (await label.boundingBox())?.x ?? 0).toBeLessThan(box.x - 100)
  const before = (await layerOf(page, id, 'towns')).labels?.moved.Doranness
  await label.focus()
  await page.keyboard.press('ArrowUp')
  await expect
    .poll(
      async () => ((await layerOf(page, id, 'towns')).labels?.moved.Doranness?.[1] ?? 0) > (before?.[1] ?? 0),
    )
    .toBe(true)
  await page.getByRole('button', { name: 'Put the label Doranness back' }).click()
  await expect.poll(async () => (await layerOf(page, id, 'towns')).labels?.moved).toEqual({})
  await expect.poll(async () => Math.abs(((await label.boundingBox())?.x ?? 0) - box.x)).toBeLessThan(1)
  await label.focus()
  await page.keyboard.press('Delete')
  await expect(label).toHaveCount(0)
  await page.getByRole('button', { name: 'Bring 1 taken away back' }).click()
  await expect(label).toBeVisible()
})

test('districts are labelled by a formula; what is wrong with one is said, and those left out are listed', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  await page.getByRole('radio', { name: 'Labels', exact: true }).click()
  await page.getByRole('checkbox', { name: 'Shown' }).check()
  await expect(page.getByText(/\d+ labels placed, \d+ % where they read best/)).toBeVisible()
  await page.getByRole('combobox', { name: 'What labels say' }).selectOption({ label: 'a formula' })
  const formula = page.getByRole('textbox', { name: 'Formula of the label' })
  await formula.fill('concat(nam)')
  await expect(page.getByText('There is no field “nam”.')).toBeVisible()
  await formula.fill('concat(name, "\\n", format(lib_loans_2025 / population, 1))')
  await formula.blur()
  await expect
    .poll(async () => (await layerOf(page, id, 'loans-per-resident')).labels?.text)
    .toEqual({ by: 'formula', formula: 'concat(name, "\\n", format(lib_loans_2025 / population, 1))' })
  await page.getByRole('button', { name: /\d+ left out/ }).click()
  await expect(page.getByText(/no room for it|another label or a symbol is in the way/).first()).toBeVisible()
  await page.keyboard.press('Escape')
  await page.getByRole('combobox', { name: 'Capitals' }).selectOption('small capitals')
  await page.getByRole('combobox', { name: 'Labels ranked by' }).selectOption({ label: 'Population' })
  await expect
    .poll(async () => (await layerOf(page, id, 'loans-per-resident')).labels)
    .toMatchObject({ capitals: 'small capitals', rankField: 'population' })
  await page.getByRole('checkbox', { name: 'Shown' }).uncheck()
  await expect.poll(async () => (await layerOf(page, id, 'loans-per-resident')).labels).toBeNull()
})
