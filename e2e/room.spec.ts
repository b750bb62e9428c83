import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { drawn, openDemo, openEmpty, savedFolio } from './folio'

const files = (names: string[]) =>
  names.map((name) => ({ name, text: readFileSync(`demo/data/${name}`, 'utf8') }))

test('of several files dropped at once the areas are in front, and what to do with the others is said', async ({
  page,
}) => {
  const id = await openEmpty(page, 'data', 'Several')
  const transfer = await page.evaluateHandle(
    (list) => {
      const data = new DataTransfer()
      for (const { name, text } of list) data.items.add(new File([text], name))
      return data
    },
    files(['provinces.geojson', 'towns.geojson', 'lakes.geojson']),
  )
  await page
    .getByRole('main', { name: 'data desk' })
    .locator('> div')
    .dispatchEvent('drop', { dataTransfer: transfer })
  const datasets = page.getByRole('complementary', { name: 'Datasets' })
  for (const name of [/^Provinces/, /^Towns/, /^Lakes/])
    await expect(datasets.getByRole('button', { name })).toBeVisible()
  await expect(page.getByRole('status').filter({ hasText: '3 datasets were brought in.' })).toBeVisible()
  await expect(page.getByRole('grid', { name: /^(Provinces|Lakes)$/ })).toBeVisible()
  const next = page.getByRole('region', { name: 'What to do next' })
  await expect(next.getByText(/Towns can be counted in/)).toBeVisible()
  await expect(next.getByRole('button', { name: 'Put them on the map' }).first()).toBeVisible()

  await page.keyboard.press('2')
  await page.getByRole('button', { name: 'Population (persons): Sized symbols' }).click()
  await drawn(page, /^Map:/)
  // Boundaries lie beneath the points at once.
  await expect(page.getByText('Nothing lies beneath the points')).toHaveCount(0)
  const { maps } = await savedFolio(page, id)
  expect(maps[0].layers.map(({ name }) => name)).toEqual(['Population (persons)', 'Provinces'])
})

test('a table of flows is drawn as flow lines, not joined', async ({ page }) => {
  await openDemo(page, 'data')
  const datasets = page.getByRole('complementary', { name: 'Datasets' })
  await datasets.getByRole('button', { name: /^Districts(?! since)/ }).click()
  await expect(datasets.getByText('loading…')).toHaveCount(0)
  await expect(page.getByRole('button', { name: /^Join Loans between districts/ })).toHaveCount(0)
})

test('what is looked for stands first, then what lies in something of that name', async ({ page }) => {
  await openDemo(page, 'map')
  await page.keyboard.press('/')
  await page.getByRole('textbox', { name: 'What to find' }).fill('loans')
  const found = page.getByRole('dialog').getByRole('listitem')
  const names = await found.allInnerTexts()
  const own = names.map((text) => /loans/i.test(text.split('\n')[0]))
  expect(own[0]).toBe(true)
  expect(own.lastIndexOf(true)).toBe(own.filter(Boolean).length - 1)
})

test('a new part covers no other one', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  await page.getByRole('toolbar', { name: 'Tray of new parts' }).getByRole('button', { name: 'Text' }).click()
  const { parts } = (await savedFolio(page, id)).sheets[0]
  const [made] = parts.slice(-1)
  expect(made.type).toBe('text')
  const covered = parts
    .slice(0, -1)
    .filter(({ type, box }) => {
      const apart =
        box.x >= made.box.x + made.box.width ||
        box.y >= made.box.y + made.box.height ||
        box.x + box.width <= made.box.x ||
        box.y + box.height <= made.box.y
      return type !== 'panel' && !apart
    })
    .map(({ name }) => name)
  expect(covered).toEqual([])
})

test('labels without room are told, never in green', async ({ page }) => {
  await openDemo(page, 'proof')
  await page.getByRole('combobox', { name: 'Sheet' }).selectOption({ label: 'Loans in all, A4' })
  const line = page.getByRole('listitem').filter({ hasText: 'Labels are left out' })
  await expect(line).toContainText(/\d+ of \d+ have no room/, { timeout: 45_000 })
  await expect(line.getByLabel('passed')).toHaveCount(0)
})

test('a drawing worker that dies is started again, calmly, and draws what is there now', async ({ page }) => {
  const id = await openDemo(page, 'map')
  await expect(page.getByRole('button', { name: /^Saved/ })).toBeVisible()
  for (const worker of page.workers())
    await worker
      .evaluate(
        () =>
          void setTimeout(() => {
            throw new Error('out of memory')
          }, 0),
      )
      .catch(() => undefined)
  await expect(page.getByRole('status').filter({ hasText: 'was started again' })).toBeVisible()
  await page.getByRole('button', { name: 'One class more' }).click()
  await expect(page.getByRole('list', { name: 'Classes' }).getByRole('listitem')).not.toHaveCount(0)
  await expect(page.getByText('6 classes')).toBeVisible()
  await drawn(page, /^Map:/)
  expect((await savedFolio(page, id)).maps.length).toBeGreaterThan(0)
  await page.keyboard.press('3')
  await drawn(page, /^Page:/)
})

test('nothing on a desk needs a sideways scroll bar in its settings', async ({ page }) => {
  await openDemo(page, 'map')
  const sideways = () =>
    page.evaluate(() =>
      [...document.querySelectorAll('aside, aside *, section[aria-label="Class bench"] *')]
        .filter((element) => {
          const { overflowX } = getComputedStyle(element)
          return ['auto', 'scroll'].includes(overflowX) && element.scrollWidth > element.clientWidth + 1
        })
        .map((element) => element.className),
    )
  expect(await sideways()).toEqual([])
  for (const desk of ['1', '3', '4']) {
    await page.keyboard.press(desk)
    await page.getByRole('main').waitFor()
    if (desk !== '1') await drawn(page, /^Page:|^Proof/).catch(() => undefined)
    expect(await sideways(), `desk ${desk}`).toEqual([])
  }
})

test('unbroken editing is saved on the way, not only once it pauses', async ({ page }) => {
  const id = await openDemo(page, 'map')
  const revision = async () =>
    ((await (await page.request.get(`/api/folios/${id}`)).json()) as { revision: number }).revision
  const before = await revision()
  await page.getByRole('slider', { name: 'Break 1' }).focus()
  const started = Date.now()
  while (Date.now() - started < 5000) {
    await page.keyboard.press('ArrowLeft')
    await page.keyboard.press('ArrowRight')
  }
  // The last key was pressed this moment: what is saved now was saved while the editing went on.
  expect(await revision()).toBeGreaterThan(before)
})
