import { expect, test, type Page } from '@playwright/test'
import type { DensitySettings } from '@/core/kinds/density/spec'
import { openDemo, savedFolio } from './folio'

const toMap = async (page: Page, name: RegExp) => {
  await page.getByRole('button', { name: /^Map: / }).click()
  await page.getByRole('dialog', { name: 'Maps of the folio' }).getByRole('button', { name }).click()
}
const toLayer = (page: Page, name: RegExp) =>
  page.getByRole('list', { name: 'Layers, from top to bottom' }).getByRole('button', { name }).click()

test('a density follows its bandwidth while the window keeps answering, as classes, lines, tint and lit lines', async ({
  page,
}) => {
  const id = await openDemo(page, 'map')
  await toMap(page, /^Density of readers/)
  await toLayer(page, /^Readers per km²/)
  await expect(page.getByText(/^Density of readers within 14 km, quartic, in six classes/)).toBeVisible()
  await expect(page.getByLabel('Figures of the surface')).toContainText('12,000 in all under the surface')
  const map = page.getByRole('application', { name: /^Map:/ })
  // What lies under the pointer is asked for when it moves.
  const card = page.getByRole('status').filter({ hasText: 'per 100 km²' })
  let moved = 0
  await expect
    .poll(async () => {
      await map.hover({ position: { x: 515 + (moved++ % 5), y: 168 } })
      return card.isVisible()
    })
    .toBe(true)

  await page.evaluate(() => {
    const held = window as never as { longest: number }
    held.longest = 0
    new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) held.longest = Math.max(held.longest, duration)
    }).observe({ entryTypes: ['longtask'] })
  })
  const slider = page.getByRole('slider', { name: 'Bandwidth by hand' })
  await slider.focus()
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowRight')
  await expect(page.getByText(/^Density of readers within (?!14 )\d+ km/)).toBeVisible()
  const held = await page.evaluate(() => (window as never as { longest: number }).longest)
  // How long that is depends on what else the machine does; it is told, not judged.
  test.info().annotations.push({ type: 'longest task', description: `${held.toFixed(0)} ms` })
  const settings = async () =>
    (await savedFolio(page, id)).maps
      .flatMap(({ layers }) => layers)
      .find((one) => one.id === 'readers-per-km2')?.symbology.settings as DensitySettings
  await expect.poll(async () => (await settings()).bandwidthKm).toBeGreaterThan(14)

  const form = page.getByRole('radiogroup', { name: 'Shown as' })
  for (const [name, words] of [
    ['lines', /as lines/],
    ['tint', /as a smooth tint/],
    ['lit lines', /as lit lines/],
    ['classes', /in six classes/],
  ] as const) {
    await form.getByRole('radio', { name, exact: true }).click()
    await expect(page.getByRole('heading', { name: words }).or(page.getByText(words).first())).toBeVisible()
  }
})

test('points are gathered in cells that are pointed at, and the highest are looked into', async ({
  page,
}) => {
  await openDemo(page, 'map')
  await toMap(page, /^Libraries in hexagons/)
  await toLayer(page, /^Libraries in hexagons/)
  await expect(page.getByText(/^Count libraries in hexagons of 20 km, in four classes/)).toBeVisible()
  const highest = page.getByRole('list', { name: 'Cells with the highest values' })
  await expect(highest.getByRole('listitem')).toHaveCount(5)
  await expect(highest).toContainText('Library')
  await page.getByRole('combobox', { name: 'Shape of cells' }).selectOption('squares')
  await expect(page.getByText(/^Count libraries in squares of 20 km/)).toBeVisible()
  await page.getByRole('combobox', { name: 'Figure of each cell' }).selectOption('sum')
  await page.getByRole('combobox', { name: 'Field of the figure' }).selectOption('visits')
  await expect(page.getByText(/^Sum of visits of libraries in squares/)).toBeVisible()
  await page.getByRole('radio', { name: 'spikes' }).click()
  await expect(page.getByLabel('Height of the highest spike')).toBeVisible()
})

test('borders, potentials by road and surfaces through points are set in their words', async ({ page }) => {
  await openDemo(page, 'map')
  await toMap(page, /^Where lending changes/)
  await toLayer(page, /^Where lending changes/)
  await page.getByRole('button', { name: 'difference', exact: true }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'ratio', exact: true }).click()
  await expect(page.getByText(/^Borders of districts by the ratio of library loans/)).toBeVisible()
  await page.getByRole('button', { name: 'Shade the areas beneath' }).click()
  await expect(
    page
      .getByRole('list', { name: 'Layers, from top to bottom' })
      .getByRole('button', { name: /^Library loans 2025/ }),
  ).toBeVisible()
  await toMap(page, /^Population within reach/)
  await toLayer(page, /^Population within reach/)
  await expect(
    page.getByText(/^Potential of population in districts, a half at 25 km along lines/),
  ).toBeVisible()
  await page.getByRole('combobox', { name: 'What distances go along' }).selectOption('')
  await expect(page.getByText(/^Potential of population in districts, a half at 25 km, in/)).toBeVisible()
  await toMap(page, /^Readers by age/)
  await toLayer(page, /^Towns/)
  await page.getByRole('combobox', { name: 'Kind' }).selectOption('interpolated')
  await page.getByRole('combobox', { name: 'Method of the surface' }).selectOption('kriging')
  await expect(page.getByRole('img', { name: /^Variogram/ })).toBeVisible()
  await page.getByRole('button', { name: 'Every method on this map…' }).click()
  // Four towns are too few for two of the methods.
  await expect(page.getByText(/^Cannot be used on these samples: /)).toBeVisible()
  await page.keyboard.press('Escape')
  await toMap(page, /^Libraries in hexagons/)
  await toLayer(page, /^Libraries/)
  await page.getByRole('combobox', { name: 'Kind' }).selectOption('interpolated')
  await page.getByRole('button', { name: 'Every method on this map…' }).click()
  const ways = page.getByRole('list', { name: 'Methods compared' }).getByRole('listitem')
  await expect(ways).toHaveCount(4)
  const misses = (await ways.allInnerTexts()).map((text) =>
    Number(/misses by ([\d,.]+)/.exec(text)?.[1].replaceAll(',', '')),
  )
  expect(misses).toEqual([...misses].sort((a, b) => a - b))
  await page.getByRole('button', { name: 'Adopt natural neighbours' }).click()
  await expect(page.getByRole('combobox', { name: 'Method of the surface' })).toHaveValue(
    'natural-neighbours',
  )
})
