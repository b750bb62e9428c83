import { expect, test, type Page } from '@playwright/test'
import type { Part } from '@/core/sheet/spec'
import { drawn, openDemo, savedFolio } from './folio'

const pile = (page: Page) => page.getByLabel('Pile')
const pick = (page: Page, name: string) => pile(page).getByRole('button', { name, exact: true }).click()
const partOf = async (page: Page, id: string, name: string): Promise<Part> => {
  const part = (await savedFolio(page, id)).sheets[0].parts.find((p) => p.name === name)
  if (!part) throw new Error(`There is no part ${name}.`)
  return part
}

/** Where a place of the page lies on the screen. */
async function onScreen(page: Page, x: number, y: number): Promise<[number, number]> {
  const box = await page.getByRole('application', { name: /^Page:/ }).boundingBox()
  if (!box) throw new Error('The page has no place.')
  return [box.x + (x / 297) * box.width, box.y + (y / 210) * box.height]
}

async function drag(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  await page.mouse.move(...from)
  await page.mouse.down()
  await page.mouse.move(...to, { steps: 6 })
  await page.mouse.up()
}

test('the legend is dragged and snaps to the left margin exactly', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  await pick(page, 'Legend')
  await drag(page, await onScreen(page, 40, 60), await onScreen(page, 35.6, 90))
  const { box } = await partOf(page, id, 'Legend')
  expect(box.x).toBe(12)
  expect(box.y).toBeGreaterThan(60)
  await page.keyboard.press('Control+z')
  expect((await partOf(page, id, 'Legend')).box).toMatchObject({ x: 17, y: 39 })
})

test('arrow keys nudge by 1, 10 and 0.1 mm', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  const { box: before } = await partOf(page, id, 'Scale bar')
  await pick(page, 'Scale bar')
  await page.getByRole('application', { name: /^Page:/ }).focus()
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('Shift+ArrowUp')
  await page.keyboard.press('Alt+ArrowRight')
  const { box } = await partOf(page, id, 'Scale bar')
  expect(box.x).toBeCloseTo(before.x - 0.9, 6)
  expect(box.y).toBeCloseTo(before.y - 10, 6)
})

test('a panel is resized at a corner; numbers take arithmetic', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  await pick(page, 'Outer isles')
  await drag(page, await onScreen(page, 63, 187), await onScreen(page, 73.3, 180.4))
  const dragged = (await partOf(page, id, 'Outer isles')).box
  expect(dragged.width).toBeGreaterThan(52)
  expect(dragged.height).toBeLessThan(37)
  const width = page.getByRole('textbox', { name: 'Width, mm' })
  await width.fill('(297-24)/3 - 1')
  await width.press('Enter')
  expect((await partOf(page, id, 'Outer isles')).box.width).toBeCloseTo(90, 6)
  await width.fill('wide')
  await width.press('Enter')
  await expect(width).toHaveAttribute('aria-invalid', 'true')
  expect((await partOf(page, id, 'Outer isles')).box.width).toBeCloseTo(90, 6)
})

test('every word of the legend is edited in place and still follows the map', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  await pick(page, 'Legend')
  await page.mouse.dblclick(...(await onScreen(page, 40, 60)))
  const word = page.getByRole('textbox', { name: 'Wording of 8.00 and over' }).last()
  await word.fill('eight or more')
  await word.press('Enter')
  await page.keyboard.press('Escape')
  const legend = await partOf(page, id, 'Legend')
  expect(legend.type === 'legend' && legend.settings.words['loans-per-resident/class-4']).toBe(
    'eight or more',
  )
  // The other lines go on following: seven classes give seven lines.
  await page.keyboard.press('2')
  await drawn(page, /^Map:/)
  await page.getByRole('button', { name: 'One class more' }).click()
  await page.keyboard.press('3')
  await pick(page, 'Legend')
  const entries = page.getByRole('complementary', { name: 'Settings and pile' })
  await expect(entries.getByRole('textbox', { name: /^Wording of/ })).toHaveCount(8)
})

test('the text of the title is typed where it stands', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  await page.mouse.dblclick(...(await onScreen(page, 40, 17)))
  await page.getByRole('textbox', { name: 'Words of Title' }).fill('Who reads most?')
  await page.keyboard.press('Escape')
  const title = await partOf(page, id, 'Title')
  expect(title.type === 'text' && title.settings.text).toBe('Who reads most?')
})

test('the representative fraction is typed; the panel is panned inside and fitted', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  await pick(page, 'Main panel')
  const scale = page.getByRole('textbox', { name: 'Scale, 1 to' })
  await scale.fill('2500000')
  await scale.press('Enter')
  const typed = await partOf(page, id, 'Main panel')
  expect(typed.type === 'panel' && typed.settings.view.scaleDenominator).toBe(2_500_000)
  await page.mouse.dblclick(...(await onScreen(page, 150, 110)))
  await expect(page.getByRole('application', { name: 'Inside Main panel: pan, zoom and turn' })).toBeFocused()
  await drag(page, await onScreen(page, 150, 110), await onScreen(page, 170, 120))
  await page.keyboard.press('Escape')
  const panned = await partOf(page, id, 'Main panel')
  expect(panned.box).toEqual(typed.box)
  expect(
    panned.type === 'panel' &&
      typed.type === 'panel' &&
      panned.settings.view.centre[0] < typed.settings.view.centre[0],
  ).toBe(true)
  await page.getByRole('button', { name: 'Fit to the thematic layer' }).click()
  const fitted = await partOf(page, id, 'Main panel')
  expect(fitted.type === 'panel' && fitted.settings.view.scaleDenominator % 50_000).toBe(0)
})

test('parts are duplicated, locked, hidden, lifted and deleted', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  await pick(page, 'Subtitle')
  await page.getByRole('application', { name: /^Page:/ }).focus()
  await page.keyboard.press('d')
  await expect(pile(page).getByRole('button', { name: 'Subtitle 2', exact: true })).toBeVisible()
  await page.keyboard.press('l')
  await page.keyboard.press('ArrowLeft')
  const copy = await partOf(page, id, 'Subtitle 2')
  expect(copy.locked).toBe(true)
  await page.keyboard.press('h')
  expect((await partOf(page, id, 'Subtitle 2')).hidden).toBe(true)
  await pick(page, 'Main panel')
  await page.getByRole('application', { name: /^Page:/ }).focus()
  await page.keyboard.press('PageUp')
  expect((await savedFolio(page, id)).sheets[0].parts.findIndex((p) => p.name === 'Main panel')).toBe(1)
  await page.keyboard.press('Delete')
  await expect(pile(page).getByRole('button', { name: 'Main panel', exact: true })).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(pile(page).getByRole('button', { name: 'Main panel', exact: true })).toBeVisible()
})

test('the paper takes another size and lies otherwise; margins follow', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  const panelBox = async () => (await savedFolio(page, id)).sheets[0].parts[0].box
  const before = await panelBox()
  await page.getByRole('combobox', { name: 'Paper size' }).selectOption('A3')
  await page.getByRole('button', { name: 'change in proportion' }).click()
  expect((await savedFolio(page, id)).sheets[0].page).toEqual({ widthMm: 420, heightMm: 297 })
  const grown = await panelBox()
  // The space within the margins is stretched; the margins stay.
  expect(grown.width / before.width).toBeCloseTo((420 - 24) / (297 - 24), 3)
  await page.getByRole('radio', { name: 'Upright' }).click()
  // Nothing happens before it is said what becomes of the parts.
  expect((await savedFolio(page, id)).sheets[0].page).toEqual({ widthMm: 420, heightMm: 297 })
  await page.getByRole('button', { name: 'stay in place' }).click()
  expect((await savedFolio(page, id)).sheets[0].page).toEqual({ widthMm: 297, heightMm: 420 })
  // It keeps its size, and is moved to the edge, as it is wider than the page now.
  expect(await panelBox()).toEqual({ ...grown, x: 0 })
  await page.getByRole('textbox', { name: 'Margin left, mm' }).fill('20')
  await page.keyboard.press('Enter')
  expect((await savedFolio(page, id)).sheets[0].margins.left).toBe(20)
})

test('a sheet that takes long is stopped, and drawn when it is wanted', async ({ page }) => {
  await openDemo(page, 'sheet')
  await page.getByRole('button', { name: 'Lindmere, A4', exact: true }).click()
  await page.getByRole('combobox', { name: 'Zoom' }).selectOption('2')
  await page.getByRole('button', { name: 'Stop', exact: true }).click()
  const stopped = page.getByText(/^Stopped/)
  await expect(stopped).toBeVisible()
  const canvas = page
    .getByRole('application', { name: /^Page:/ })
    .locator('canvas')
    .first()
  const wide = () => canvas.evaluate((element: HTMLCanvasElement) => element.width)
  const before = await wide()
  await page.getByRole('button', { name: 'Draw it' }).click()
  await expect(stopped).toHaveCount(0)
  await expect.poll(wide, { timeout: 60_000 }).toBeGreaterThan(before)
})

test('parts are taken from the tray', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  const before = (await savedFolio(page, id)).sheets[0].parts.length
  for (const name of ['Panel', 'Legend', 'Scale bar', 'Text'])
    await page.getByRole('toolbar', { name: 'Tray of new parts' }).getByRole('button', { name }).click()
  const { parts } = (await savedFolio(page, id)).sheets[0]
  expect(parts.slice(before).map((p) => p.type)).toEqual(['panel', 'legend', 'scale-bar', 'text'])
})

test('the legend lies down, names limits, and lets go of a single line, which is put back; all of it is undone', async ({
  page,
}) => {
  const id = await openDemo(page, 'sheet')
  const original = await savedFolio(page, id)
  await pick(page, 'Legend')
  await page.getByRole('radio', { name: 'Lying' }).click()
  await page.getByRole('radio', { name: 'Limits' }).click()
  await expect(page.getByRole('textbox', { name: /^Wording of/ })).toHaveCount(8)
  const [x, y] = await onScreen(page, 30, 48)
  await page.mouse.dblclick(x, y)
  const grip = page.getByRole('button', { name: 'Move no return' })
  const box = await grip.boundingBox()
  if (!box) throw new Error('The grip has no place.')
  await drag(page, [box.x + 6, box.y + box.height / 2], [box.x + 86, box.y + box.height / 2 + 40])
  await page.keyboard.press('Escape')
  const moved = async () => {
    const legend = await partOf(page, id, 'Legend')
    return legend.type === 'legend' ? legend.settings.moved['loans-per-resident/missing'] : undefined
  }
  await expect.poll(async () => ((await moved())?.[0] ?? 0) > 15).toBe(true)
  await pick(page, 'Legend')
  await page.getByRole('button', { name: 'Put no return back in its place' }).click()
  await expect.poll(moved).toBeUndefined()
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: /^Undo: / }).click()
  expect(await savedFolio(page, id)).toEqual(original)
})
