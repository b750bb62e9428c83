import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import type { Part } from '@/core/sheet/spec'
import { drawn, openDemo, openEmpty, savedFolio } from './folio'

const tray = (page: Page) => page.getByRole('toolbar', { name: 'Tray of new parts' })
const pile = (page: Page) => page.getByLabel('Pile')
const pageOf = (page: Page) => page.getByRole('application', { name: /^Page:/ })
const line = (page: Page, name: string) => pile(page).getByRole('button', { name, exact: true })
const lastSheet = async (page: Page, id: string) => (await savedFolio(page, id)).sheets.at(-1)!
const partOf = async (page: Page, id: string, name: string): Promise<Part> => {
  const part = (await lastSheet(page, id)).parts.find((one) => one.name === name)
  if (!part) throw new Error(`There is no part ${name}.`)
  return part
}
const type = async (page: Page, name: string, value: string) => {
  await page.getByRole('textbox', { name, exact: true }).fill(value)
  await page.keyboard.press('Enter')
}

/** Brings in a file as if it were dropped from a file manager. */
async function drop(page: Page, name: string): Promise<void> {
  const text = readFileSync(`demo/data/${name}`, 'utf8')
  const transfer = await page.evaluateHandle(
    (file) => {
      const data = new DataTransfer()
      data.items.add(new File([file.text], file.name))
      return data
    },
    { name, text },
  )
  const desk = page.getByRole('main', { name: 'data desk' }).locator('> div')
  await desk.dispatchEvent('drop', { dataTransfer: transfer })
  await expect(page.getByRole('status').filter({ hasText: `${name} was brought in` })).toBeVisible()
}

test('a page of three exact thirds is composed from an empty folio by mouse and keyboard', async ({
  page,
}) => {
  test.setTimeout(120_000)
  const id = await openEmpty(page, 'data', 'Thirds')
  await drop(page, 'districts.topojson')
  await page.keyboard.press('2')
  await page.getByRole('button', { name: 'Province: Categories' }).click()
  await drawn(page, /^Map:/)
  await page.keyboard.press('3')
  await page.getByRole('button', { name: 'Add a sheet' }).click()
  await drawn(page, /^Page:/)
  // An empty tall page.
  await pageOf(page).focus()
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Delete')
  await type(page, 'Page width, mm', '457')
  await type(page, 'Page height, mm', '2 * 305')
  for (const side of ['top', 'right', 'bottom', 'left']) await type(page, `Margin ${side}, mm`, '12')
  // Three panels, all chosen with the keyboard, each given a third of the space within the margins.
  for (let i = 0; i < 3; i++) await tray(page).getByRole('button', { name: 'Panel', exact: true }).click()
  await page.keyboard.press('Control+a')
  await expect(page.getByRole('heading', { name: '3 parts' }).first()).toBeVisible()
  await page.getByRole('button', { name: 'Give the parts these frames' }).click()
  const boxes = (await lastSheet(page, id)).parts.map(({ box }) => box).sort((a, b) => a.x - b.x)
  boxes.forEach((box, i) => {
    expect(Math.abs(box.width - 433 / 3)).toBeLessThan(0.01)
    expect(Math.abs(box.x - (12 + (i * 433) / 3))).toBeLessThan(0.01)
    expect([box.y, box.height]).toEqual([12, 586])
  })
  // The middle one is turned inside by its handle, and by number.
  await line(page, 'Panel 2').click()
  await type(page, 'Map turned clockwise, °', '37.5')
  expect((await partOf(page, id, 'Panel 2')).settings).toMatchObject({ view: { turnDeg: 37.5 } })
  await pageOf(page).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('application', { name: 'Inside Panel 2: pan, zoom and turn' })).toBeFocused()
  await page.keyboard.press('.')
  await page.keyboard.press('Escape')
  expect((await partOf(page, id, 'Panel 2')).settings).toMatchObject({ view: { turnDeg: 38.5 } })
  // Its arrow points where north is then.
  await tray(page).getByRole('button', { name: 'North', exact: true }).click()
  expect((await partOf(page, id, 'North arrow')).settings).toMatchObject({ north: 'true' })
  // Everything is undone step by step.
  await pageOf(page).focus()
  await page.keyboard.press('Control+a')
  await page.keyboard.press('g')
  await expect(line(page, 'Group')).toBeVisible()
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(line(page, 'Group')).toHaveCount(0)
})

test('a newcomer makes a page from a template in under ten actions', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  let actions = 0
  const act = async (work: Promise<unknown>) => {
    await work
    actions++
  }
  await act(page.getByRole('button', { name: 'Template', exact: true }).click())
  const dialog = page.getByRole('dialog', { name: 'A sheet from a template' })
  await act(dialog.getByRole('radio', { name: /Report, A4 landscape/ }).click())
  await act(dialog.getByRole('textbox', { name: 'Name of the new sheet' }).fill('Where people read'))
  await page.keyboard.press('Tab')
  await act(
    dialog.getByRole('combobox', { name: 'Map for Main map' }).selectOption({ label: 'Loans per resident' }),
  )
  await act(dialog.getByRole('button', { name: 'Make the sheet' }).click())
  await drawn(page, /^Page: Where people read/)
  await act(page.keyboard.press('4'))
  await act(page.getByRole('button', { name: 'Export PDF' }).click())
  await expect(page.getByRole('link', { name: /^Download .*\.pdf/ })).toBeVisible({ timeout: 30_000 })
  expect(actions).toBeLessThan(10)
  const sheet = await lastSheet(page, id)
  expect(sheet.name).toBe('Where people read')
  expect(sheet.parts.find(({ type: of }) => of === 'panel')?.settings).toMatchObject({ mapId: 'loans' })
})

test('a sheet is kept as a template, comes back from a file, and is laid over another sheet', async ({
  page,
}) => {
  const id = await openDemo(page, 'sheet')
  await page.getByRole('button', { name: 'Keep as a template' }).click()
  await expect(page.getByText('was kept as a template')).toBeVisible()
  await page.getByRole('button', { name: 'Template', exact: true }).click()
  const dialog = page.getByRole('dialog', { name: 'A sheet from a template' })
  await dialog.getByRole('radio', { name: 'Loans, A4' }).first().click()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    dialog.getByRole('button', { name: 'Save the template to a file' }).click(),
  ])
  await dialog.getByLabel('Template file').setInputFiles(await download.path())
  await expect(dialog.getByRole('radio', { name: 'Loans, A4' })).toHaveCount(2)
  await dialog.getByRole('radio', { name: /Two maps compared/ }).click()
  await dialog.getByRole('button', { name: /^Lay it over/ }).click()
  await expect(page.getByText(/was laid over/)).toBeVisible()
  const [sheet] = (await savedFolio(page, id)).sheets
  const panels = sheet.parts.filter(({ type: of }) => of === 'panel')
  expect(panels.map(({ box }) => box.x)).toEqual([12, 152])
  expect(panels.map(({ settings }) => 'mapId' in settings && settings.mapId)).toEqual(['loans', 'loans'])
})

test('parts are chosen together by a frame and with Shift, aligned, copied by dragging and pasted', async ({
  page,
}) => {
  const id = await openDemo(page, 'sheet')
  const first = async () => (await savedFolio(page, id)).sheets[0]
  await line(page, 'Legend').click()
  await line(page, 'Title').click({ modifiers: ['Shift'] })
  await page.getByRole('combobox', { name: 'Align against' }).selectOption('margins')
  await page.getByRole('button', { name: 'Align left edges' }).click()
  for (const name of ['Legend', 'Title'])
    expect((await first()).parts.find((part) => part.name === name)?.box.x).toBe(12)
  await pageOf(page).focus()
  await page.keyboard.press('Control+c')
  await expect(page.getByText('2 parts were copied.')).toBeVisible()
  await page.keyboard.press(']')
  await drawn(page, /^Page: Change/)
  await page.keyboard.press('Control+Shift+v')
  await expect(line(page, 'Legend 2')).toBeVisible()
  const pastedInto = (await savedFolio(page, id)).sheets[1]
  expect(pastedInto.parts.find(({ name }) => name === 'Title 2')?.box.x).toBe(12)
  // A frame over paper takes what lies in it whole.
  await page.keyboard.press('Escape')
  const box = (await pageOf(page).boundingBox())!
  await page.mouse.move(box.x + 2, box.y + 2)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width * 0.9, box.y + box.height * 0.145, { steps: 6 })
  await page.mouse.up()
  await expect(page.getByText(/ mm · 3 parts$/)).toBeVisible()
})

test('a panel is frozen, says so, and follows again', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  await line(page, 'Main panel').click()
  await page.getByRole('button', { name: 'Freeze as it is' }).click()
  await expect(page.getByText(/^Frozen on .* Nothing has changed since\.$/)).toBeVisible()
  await expect(pile(page).getByLabel('frozen')).toBeVisible()
  await page.keyboard.press('2')
  await page.getByRole('combobox', { name: 'Method' }).selectOption('equal-interval')
  await page.getByRole('button', { name: '3 Sheet' }).click()
  await pile(page)
    .getByRole('button', { name: /^Main panel/ })
    .click()
  await expect(page.getByText(/Following again it shows “Loans per resident” as now/)).toBeVisible()
  await page.getByRole('button', { name: 'Let follow again' }).click()
  await expect(pile(page).getByLabel('frozen')).toHaveCount(0)
  expect((await savedFolio(page, id)).sheets[0].parts[0].settings).toMatchObject({ frozen: null })
})

test('a locator is added in two clicks, and a text gets looks of its own inside', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  await line(page, 'Main panel').click()
  await page.getByRole('button', { name: 'More panels from this one' }).click()
  await page.getByRole('button', { name: 'Add a locator' }).click()
  await expect(line(page, 'Locator')).toBeVisible()
  await line(page, 'Subtitle').click()
  await pageOf(page).focus()
  await page.keyboard.press('Enter')
  const words = page.getByRole('textbox', { name: 'Words of Subtitle' })
  await words.press('Control+a')
  await words.pressSequentially('Read more')
  await words.press('Shift+Home')
  await page
    .getByRole('toolbar', { name: 'Look of the chosen letters' })
    .getByRole('button', { name: 'Bold' })
    .click()
  await page.keyboard.press('Escape')
  const subtitle = (await savedFolio(page, id)).sheets[0].parts.find(({ name }) => name === 'Subtitle')
  expect(subtitle?.settings).toMatchObject({
    text: 'Read more',
    spans: [{ from: 0, to: 9, look: { weight: 700 } }],
  })
})

test('a legend explains several panels, has a title, and leaves out what is not seen', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  const legend = async () => {
    const part = (await savedFolio(page, id)).sheets[0].parts.find(({ type: of }) => of === 'legend')
    if (part?.type !== 'legend') throw new Error('There is no legend.')
    return part.settings
  }
  await line(page, 'Legend').click()
  await page.getByText('and besides: no other').click()
  await page.getByRole('checkbox', { name: 'Outer isles' }).click()
  await page.getByRole('checkbox', { name: 'Only what the panel shows' }).click()
  await type(page, 'Title of the legend', 'Reading')
  const settings = await legend()
  expect(settings).toMatchObject({ title: 'Reading', onlySeen: true })
  expect(settings.alsoPanels).toHaveLength(1)
  // The title is changed where it stands as well.
  await pageOf(page).focus()
  await page.keyboard.press('Enter')
  await type(page, 'Wording of Reading', 'Who reads')
  expect((await legend()).title).toBe('Who reads')
})

test('the type styles and colours of a folio go into a file and come into another one', async ({
  page,
}, info) => {
  await openDemo(page, 'sheet')
  await page.getByRole('button', { name: 'Type styles and colours' }).click()
  await type(page, 'Name of the style Caption', 'Small print')
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save to a file' }).click(),
  ])
  const file = info.outputPath('looks.keen-looks.json')
  await download.saveAs(file)
  const other = await openEmpty(page, 'sheet', 'Other')
  await page.getByRole('button', { name: 'Add a sheet' }).click()
  await page.getByRole('button', { name: 'Type styles and colours' }).click()
  await page.getByLabel('File of type styles and colours').setInputFiles(file)
  await expect(page.getByText(/type styles? w(as|ere) changed, \d+ colours were added/)).toBeVisible()
  expect((await savedFolio(page, other)).typeStyles.map(({ name }) => name)).toContain('Small print')
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  expect((await savedFolio(page, other)).typeStyles.map(({ name }) => name)).toContain('Caption')
})

test('a folio is started from a template of the shelf', async ({ page }) => {
  await page.goto('/')
  const card = page.getByRole('listitem').filter({ hasText: 'Slide, 16:9' })
  await card.getByRole('button', { name: 'Start a folio' }).click()
  await page.waitForURL(/\/folio\//)
  await expect(page.getByRole('main', { name: 'data desk' })).toBeVisible()
  await page.keyboard.press('3')
  await drawn(page, /^Page: Slide, 16:9/)
})

test('a watermark is taken ready from the tray, and one panel is exported alone', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  await page.getByRole('button', { name: /^Ready ones: title/ }).click()
  await page.getByRole('button', { name: 'Watermark', exact: true }).click()
  const made = (await savedFolio(page, id)).sheets[0].parts.at(-1)
  expect(made).toMatchObject({ name: 'Watermark', type: 'text' })
  expect(made?.opacity).toBeLessThan(0.5)
  await page.keyboard.press('4')
  await page
    .getByRole('combobox', { name: 'What is exported' })
    .selectOption({ label: '“Outer isles” alone' })
  await page.getByRole('button', { name: 'Export PDF' }).click()
  await expect(page.getByRole('list', { name: 'Prints' }).getByText('PDF, 1 part')).toBeVisible({
    timeout: 30_000,
  })
})

test('two amounts stand on one scale, and the proof finds it where they do not', async ({ page }) => {
  const id = await openDemo(page, 'sheet')
  const amounts = async () =>
    (await savedFolio(page, id)).sheets[0].parts.flatMap((part) =>
      part.type === 'amount' ? [part.settings] : [],
    )
  for (let i = 0; i < 2; i++) await tray(page).getByRole('button', { name: 'Amount', exact: true }).click()
  await expect(page.getByLabel('The amount', { exact: true })).toHaveText(/^[\d,]+ .* of 164 rows$/)
  await page.getByRole('combobox', { name: 'Form of the amount' }).selectOption({ label: 'a square' })
  const scale = page.getByRole('textbox', { name: 'What a square millimetre stands for' })
  await scale.fill('50000')
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await amounts()).map(({ perMm2 }) => perMm2)).toEqual([50_000, 50_000])
  expect((await amounts()).map(({ form }) => form)).toEqual(['ring', 'square'])
  await page.getByRole('button', { name: '4 Proof' }).click()
  await expect(page.getByText('All amounts of one unit follow one scale')).toBeVisible()
})
