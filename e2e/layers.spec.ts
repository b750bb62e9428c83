import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import type { MapSpec } from '@/core/map/spec'
import { openDemo, savedFolio } from './folio'

const mapOf = async (page: Page, id: string): Promise<MapSpec> => (await savedFolio(page, id)).maps[0]
const stack = (page: Page) => page.getByRole('list', { name: 'Layers, from top to bottom' })
const face = (page: Page, name: string) => page.getByRole('radio', { name, exact: true }).click()

test('layers are put into a group that is hidden, blended and dissolved as one', async ({ page }) => {
  const id = await openDemo(page, 'map')
  await stack(page)
    .getByRole('button', { name: /^Towns/ })
    .click()
  await face(page, 'Layer')
  await page.getByRole('combobox', { name: 'Group', exact: true }).selectOption({ label: 'a new group' })
  await expect.poll(async () => (await mapOf(page, id)).groups.length).toBe(1)
  await page.getByRole('button', { name: 'Hide Group 1' }).click()
  await expect
    .poll(async () => (await mapOf(page, id)).groups[0])
    .toMatchObject({ name: 'Group 1', visible: false })
  await page.getByRole('button', { name: 'Settings of Group 1' }).click()
  await page.getByRole('textbox', { name: 'Name of the group' }).fill('Places')
  await page.keyboard.press('Enter')
  await page.getByRole('combobox', { name: 'Blend mode of the group' }).selectOption('multiply')
  await expect
    .poll(async () => (await mapOf(page, id)).groups[0])
    .toMatchObject({ name: 'Places', blend: 'multiply' })
  await page.getByRole('button', { name: 'Dissolve the group' }).click()
  await expect
    .poll(async () => {
      const map = await mapOf(page, id)
      return [map.groups.length, map.layers[0].groupId]
    })
    .toEqual([0, null])
})

test('a layer shows only features for which its filter is true, and only at its scales', async ({ page }) => {
  const id = await openDemo(page, 'map')
  await face(page, 'Layer')
  const filter = page.getByRole('textbox', { name: 'Only where' })
  await filter.fill('populace > 3')
  await expect(page.getByText('There is no field “populace”.')).toBeVisible()
  await filter.fill('population > 30000')
  await filter.blur()
  await expect(page.getByText(/^\d+ of 164$/)).toBeVisible()
  expect((await mapOf(page, id)).layers.find((layer) => layer.id === 'loans-per-resident')?.filter).toBe(
    'population > 30000',
  )
  await page.getByRole('checkbox', { name: '1 :' }).first().check()
  await expect
    .poll(
      async () =>
        (await mapOf(page, id)).layers.find((layer) => layer.id === 'loans-per-resident')?.scales.closest,
    )
    .toBeGreaterThan(100_000)
})

test('a style is copied to another layer, kept in the folio, saved to a file and brought in again', async ({
  page,
}, info) => {
  const id = await openDemo(page, 'map')
  await stack(page)
    .getByRole('button', { name: /^Lakes/ })
    .click()
  await face(page, 'Layer')
  await page.getByRole('button', { name: 'Style', exact: true }).click()
  await page.getByRole('button', { name: 'Copy the style' }).click()
  await stack(page)
    .getByRole('button', { name: /^Loans per resident/ })
    .click()
  await page.getByRole('button', { name: 'Style', exact: true }).click()
  await page.getByRole('button', { name: 'Take that of Lakes' }).click()
  const shape = async () => {
    const map = await mapOf(page, id)
    return map.layers
      .filter((layer) => ['lakes', 'loans-per-resident'].includes(layer.id))
      .map((layer) => layer.symbology)
  }
  await expect
    .poll(async () => {
      const [a, b] = await shape()
      return JSON.stringify(a) === JSON.stringify(b)
    })
    .toBe(true)
  await page.getByRole('button', { name: 'Style', exact: true }).click()
  await page.getByRole('button', { name: 'Keep the style in the folio' }).click()
  await page.getByRole('button', { name: 'Style', exact: true }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save the kept styles to a file' }).click()
  const file = info.outputPath('styles.json')
  await (await download).saveAs(file)
  expect(JSON.parse(readFileSync(file, 'utf8'))).toMatchObject({
    format: 'keen-styles',
    styles: [{ name: 'Loans per resident' }],
  })
  await page.getByRole('button', { name: 'Forget the style Loans per resident' }).click()
  await expect(page.getByText('No styles are kept yet.')).toBeVisible()
  await page.getByLabel('File of styles').setInputFiles(file)
  await expect(page.getByRole('button', { name: 'Forget the style Loans per resident' })).toBeVisible()
  await page
    .getByLabel('File of styles')
    .setInputFiles({ name: 'other.json', mimeType: 'application/json', buffer: Buffer.from('{}') })
  await expect(
    page.getByRole('alert').filter({ hasText: 'other.json is no file of styles that can be read' }),
  ).toBeVisible()
})

test('vantages are kept from the view, a feature and degrees, gone to, and used by a panel', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  const scale = page.getByTitle('Scale on a screen of 96 pixels to the inch')
  await expect(scale).toContainText('1 :')
  await page.getByRole('button', { name: 'Vantages' }).click()
  await page.getByRole('button', { name: 'Keep', exact: true }).click()
  await page.getByRole('radio', { name: 'Features' }).click()
  await page.getByRole('combobox', { name: 'Feature of the vantage' }).selectOption({ index: 1 })
  await page.getByRole('textbox', { name: 'Name of the new vantage' }).fill('One district')
  await page.getByRole('button', { name: 'Keep', exact: true }).click()
  await page.getByRole('radio', { name: 'Degrees' }).click()
  await page.getByRole('textbox', { name: 'West side, °' }).fill('20')
  await page.keyboard.press('Tab')
  await expect(page.getByText(/The east side has to lie east/)).toBeVisible()
  await expect(page.getByRole('button', { name: 'Keep', exact: true })).toBeDisabled()
  await expect
    .poll(async () => (await mapOf(page, id)).vantages.map(({ name, of }) => [name, of.by]))
    .toEqual([
      ['View 1', 'view'],
      ['One district', 'extent'],
    ])
  const whole = await scale.innerText()
  await page.getByRole('button', { name: 'Go to One district' }).click()
  await expect(scale).not.toHaveText(whole)
  await page.getByRole('button', { name: 'Vantages' }).click()
  await page.getByRole('button', { name: 'Go to View 1' }).click()
  await expect(scale).toHaveText(whole)
  await page.keyboard.press('3')
  await page.getByRole('button', { name: 'Main panel', exact: true }).click()
  const before = (await savedFolio(page, id)).sheets[0].parts.find((part) => part.id === 'main')
  await page.getByRole('combobox', { name: 'Vantage' }).selectOption({ label: 'One district' })
  await expect
    .poll(
      async () =>
        JSON.stringify(
          (await savedFolio(page, id)).sheets[0].parts.find((part) => part.id === 'main')?.settings,
        ) === JSON.stringify(before?.settings),
    )
    .toBe(false)
})

test('a map gets a graticule, tints of sea and land, an EPSG system as its projection, and is turned', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  await page.getByRole('button', { name: 'Graticule: none' }).click()
  await page.getByRole('checkbox', { name: 'Lines of longitude and latitude' }).check()
  await page.getByRole('combobox', { name: 'Interval of the graticule' }).selectOption('2')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Sea and land: not tinted' }).click()
  await page.getByRole('combobox', { name: 'Land' }).selectOption({ label: 'Districts' })
  await page.keyboard.press('Escape')
  await expect
    .poll(async () => {
      const map = await mapOf(page, id)
      return [map.graticule?.everyDeg, map.land?.datasetId]
    })
    .toEqual([2, 'districts'])
  await page.getByRole('button', { name: /^Projection: / }).click()
  await page.getByRole('button', { name: 'Reference system: none' }).click()
  await page.getByRole('textbox', { name: 'Find a reference system' }).fill('32626')
  await page.getByRole('button', { name: /EPSG:32626/ }).click()
  await expect.poll(async () => (await mapOf(page, id)).projection.system?.code).toBe('EPSG:32626')
  await expect(page.getByText(/does not keep areas/)).toBeVisible()
  await page.getByRole('textbox', { name: 'Map turned clockwise, °' }).fill('15')
  await page.keyboard.press('Enter')
  await page.getByRole('radio', { name: 'Lines', exact: true }).click()
  await expect(page.getByText(/Lines of equal error of areas/)).toBeVisible()
  await expect.poll(async () => (await mapOf(page, id)).projection.turnDeg).toBe(15)
  await page
    .getByRole('button', { name: /^Lambert azimuthal equal-area/ })
    .first()
    .click()
  await expect.poll(async () => (await mapOf(page, id)).projection.system).toBeUndefined()
})
