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
