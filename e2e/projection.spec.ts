import { expect, test } from '@playwright/test'
import { drawn, openDemo, savedFolio } from './folio'

test('the adviser proposes projections for what must stay true; a shaded map on another one is warned of, with the remedy', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  const original = await savedFolio(page, id)
  const open = () => page.getByRole('button', { name: /^Projection: / }).click()
  await open()
  const advice = page.getByRole('list', { name: 'Advice' })
  await expect(advice.getByRole('button', { name: /Lambert azimuthal equal-area/ })).toHaveAttribute(
    'aria-pressed',
    'true',
  )
  await page.getByRole('radio', { name: 'Shapes' }).click()
  await advice.getByRole('button').first().click()
  await expect
    .poll(async () => (await savedFolio(page, id)).maps[0].projection.id)
    .toMatch(/stereographic|conformal|mercator/)
  await page.keyboard.press('Escape')
  await drawn(page, /^Map:/)
  await expect(page.getByText(/does not keep areas/)).toBeVisible()
  await page.getByRole('button', { name: 'keep them' }).click()
  await expect(page.getByText(/does not keep areas/)).toHaveCount(0)
  await open()
  await page.getByRole('button', { name: 'Orthographic azimuthal', exact: true }).click()
  await page.getByLabel('Latitude of the centre').fill('30')
  await page.keyboard.press('Enter')
  await expect
    .poll(async () => (await savedFolio(page, id)).maps[0].projection)
    .toMatchObject({ id: 'orthographic', centre: [original.maps[0].projection.centre[0], 30] })
  await page.keyboard.press('Escape')
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: /^Undo: / }).click()
  expect(await savedFolio(page, id)).toEqual(original)
})
