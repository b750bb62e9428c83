import { expect, test, type Page } from '@playwright/test'
import type { RevisionCard } from '@/server/documents'
import { choropleth, goTo, openDemo, savedFolio } from './folio'

const classCount = async (page: Page, way: 'more' | 'fewer') =>
  page.getByRole('button', { name: `One class ${way}` }).click()

/** Two windows on one folio; the second one saved first, so that the first one's change comes too late. */
async function collide(page: Page, other: Page): Promise<string> {
  const id = await openDemo(page, 'map')
  await goTo(other, id, 'map')
  await classCount(other, 'more')
  expect(choropleth(await savedFolio(other, id)).classes).toBe(6)
  await classCount(page, 'fewer')
  await expect(page.getByRole('alertdialog', { name: 'Changed in another window' })).toBeVisible()
  return id
}

const revisions = async (page: Page, id: string) =>
  (await (await page.request.get(`/api/folios/${id}/revisions`)).json()) as RevisionCard[]

test('a save that came too late overwrites nothing and is kept', async ({ page, context }) => {
  const other = await context.newPage()
  const id = await collide(page, other)
  const kept = (await revisions(page, id)).filter((card) => card.kind === 'refused')
  expect(kept).toHaveLength(1)
  const folio = await (await page.request.get(`/api/folios/${id}/revisions/${kept[0].id}`)).json()
  expect(choropleth(folio).classes).toBe(4)
  await page.getByRole('button', { name: 'Go on with the other version' }).click()
  await expect(page.getByRole('button', { name: 'six', exact: true })).toBeVisible()
  // What was kept can be gone back to.
  await page.getByRole('button', { name: /Earlier versions/ }).click()
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Kept aside' })
    .getByRole('button', { name: 'Go back to it' })
    .click()
  await expect(page.getByRole('button', { name: 'four', exact: true })).toBeVisible()
  expect(choropleth(await savedFolio(page, id)).classes).toBe(4)
})

test('going on with mine makes a new revision on top of the other', async ({ page, context }) => {
  const other = await context.newPage()
  const id = await collide(page, other)
  await page.getByRole('button', { name: 'Go on with mine' }).click()
  expect(choropleth(await savedFolio(page, id)).classes).toBe(4)
  expect(
    (await revisions(page, id)).filter((card) => card.kind === 'saved').map((card) => card.number),
  ).toEqual([3, 2, 1])
})

test('mine can become a folio of its own', async ({ page, context }) => {
  const other = await context.newPage()
  const id = await collide(page, other)
  await page.getByRole('button', { name: 'Put mine on the shelf as a folio of its own' }).click()
  await expect(page.getByRole('button', { name: 'six', exact: true })).toBeVisible()
  const folios = (await (await page.request.get('/api/folios')).json()) as { id: string; name: string }[]
  const mine = folios.find(({ name }) => name === 'A country that reads, my version')
  if (!mine) throw new Error('My version is not on the shelf.')
  const { folio } = await (await page.request.get(`/api/folios/${mine.id}`)).json()
  expect(choropleth(folio).classes).toBe(4)
  expect(choropleth(await savedFolio(page, id)).classes).toBe(6)
})

test('what is done is saved at once and survives a reload; undo reaches across desks', async ({ page }) => {
  const id = await openDemo(page, 'map')
  await classCount(page, 'more')
  await page.keyboard.press('3')
  await page.getByRole('application', { name: /^Page:/ }).waitFor()
  await page.getByLabel('Pile').getByRole('button', { name: 'Title', exact: true }).click()
  await page.keyboard.press('Delete')
  await savedFolio(page, id)
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('2')
  await expect(page.getByRole('button', { name: 'five', exact: true })).toBeVisible()
  await page.keyboard.press('Control+Shift+z')
  await expect(page.getByRole('button', { name: 'six', exact: true })).toBeVisible()
  await savedFolio(page, id)
  await page.reload()
  await expect(page.getByRole('button', { name: 'six', exact: true })).toBeVisible()
})
