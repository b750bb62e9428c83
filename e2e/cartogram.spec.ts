import { expect, test } from '@playwright/test'
import type { CartogramSettings } from '@/core/kinds/cartogram/spec'
import { openDemo, savedFolio } from './folio'

test('a cartogram takes the place of a shaded map, is looked at in every form, and keeps its classes', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  await page.getByRole('combobox', { name: 'Kind' }).selectOption('cartogram')
  await expect(
    page.getByText(
      /^Circles for districts sized by population, shaded by library loans in 2025 per resident in five/,
    ),
  ).toBeVisible()
  const figures = page.getByLabel('Figures of the cartogram')
  await expect(figures).toContainText(/\d+ of 419 borders kept/)
  await expect(page.getByText('2 areas without a value above zero left out.')).toBeVisible()
  const settings = async () =>
    (await savedFolio(page, id)).maps
      .flatMap(({ layers }) => layers)
      .find(({ symbology }) => symbology.kind === 'cartogram')?.symbology.settings as
      CartogramSettings | undefined

  await page.getByRole('combobox', { name: 'Field of the sizes' }).selectOption({ label: 'Households' })
  await expect(page.getByText(/sized by households, shaded by/)).toBeVisible()

  await page.getByRole('button', { name: 'Every form on this map…' }).click()
  const forms = page.getByRole('dialog', { name: 'The same areas in every form' })
  await expect(forms.getByText(/of \d+ borders kept/)).toHaveCount(7, { timeout: 30_000 })
  await forms.getByRole('button', { name: 'Adopt hexagons of one size' }).click()
  await expect(page.getByText(/^One hexagon for each of the districts, shaded by /)).toBeVisible()
  await expect(page.getByRole('combobox', { name: 'Field of the sizes' })).toHaveCount(0)
  await expect.poll(async () => (await settings())?.form).toBe('hexagon tiles')

  // A hexagon is pointed at where it lies.
  const map = page.getByRole('application', { name: /^Map:/ })
  const box = (await map.boundingBox())!
  const card = page.getByRole('status').filter({ hasText: 'class' })
  let moved = 0
  await expect
    .poll(async () => {
      await map.hover({ position: { x: box.width * 0.46 + (moved++ % 40), y: box.height * 0.45 } })
      return card.isVisible()
    })
    .toBe(true)
})

test('tiles are moved by the pointer and by keys, change places, and are laid out anew', async ({ page }) => {
  const id = await openDemo(page, 'map')
  await page.getByRole('combobox', { name: 'Kind' }).selectOption('cartogram')
  await page.getByRole('combobox', { name: 'What stands for an area' }).selectOption('square tiles')
  await expect(page.getByText('one tile:')).toBeVisible()
  const tiles = async () => {
    const layers = (await savedFolio(page, id)).maps.flatMap((map) => map.layers)
    const found = layers.find(({ symbology }) => symbology.kind === 'cartogram')
    return (found?.symbology.settings as CartogramSettings).tiles
  }
  await page.getByRole('checkbox', { name: 'Move tiles' }).check()
  const hands = page.getByRole('application', { name: 'Tiles' })
  const box = (await hands.boundingBox())!
  const [x, y] = [box.x + box.width * 0.5, box.y + box.height * 0.5]
  await page.mouse.move(x, y)
  const said = hands.getByRole('status')
  const first = await said.textContent()
  await page.mouse.down()
  // Somewhere to the left stands another one; lakes and empty tiles between have none.
  let far = 20
  await expect
    .poll(async () => {
      await page.mouse.move(x - (far += 12), y)
      return said.textContent()
    })
    .toContain(`${first} for `)
  const other = ((await said.textContent()) ?? '').replace(`${first} for `, '')
  await page.mouse.up()
  await expect(page.getByRole('button', { name: `Undo: Swap ${first} and ${other}` })).toBeEnabled()
  const after = (await tiles())!.cells
  expect(after[first ?? '']).toHaveLength(2)
  expect(new Set(Object.values(after).map((cell) => cell.join())).size).toBe(Object.keys(after).length)

  // By keys: the middle tile is taken up, carried two to the right, and put down.
  await hands.focus()
  await page.keyboard.press('ArrowRight')
  await expect(said).toBeVisible()
  const carried = (await said.textContent()) ?? ''
  await page.keyboard.press('Enter')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Enter')
  await expect
    .poll(async () => {
      const [before, now] = [after[carried], (await tiles())!.cells[carried]]
      return now[0] - before[0]
    })
    .toBe(2)
  await page.getByRole('button', { name: 'Lay out anew' }).click()
  await expect.poll(tiles).toBe(null)
})
