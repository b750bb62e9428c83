// Takes the pictures in docs/screenshots/ from the running demo, at 1280 × 800.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { chromium } from '@playwright/test'
import { startServer } from './serve.mjs'

const folder = process.argv[2] ?? 'docs/screenshots'
const data = mkdtempSync(path.join(tmpdir(), 'keen-shots-'))
const server = await startServer(data)
const browser = await chromium.launch({
  // People have scroll bars.
  ignoreDefaultArgs: ['--hide-scrollbars'],
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
})
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  page.on('pageerror', (error) => console.error('page error:', error.message))
  page.on('console', (message) => message.type() === 'error' && console.error('console:', message.text()))
  const shot = async (name) => {
    await page.waitForLoadState('networkidle')
    await page.waitForFunction(() => !document.body.innerText.includes('Drawing…'))
    await page.waitForTimeout(900)
    await page.screenshot({ path: path.join(folder, `${name}.png`) })
    console.log(`${name}.png`)
  }
  await page.goto(server.url)
  // Templates are drawn one after the other.
  await page.waitForTimeout(8000)
  await shot('shelf')
  await page.getByRole('link', { name: /Open A country that reads/ }).click()
  await page.getByRole('grid').waitFor()
  await page.getByRole('row').nth(6).click()
  await page.getByRole('columnheader').nth(4).getByRole('button').first().click()
  await shot('data-desk')
  await page.getByRole('button', { name: 'See what it can become' }).click()
  await page.getByRole('list', { name: 'What this data can become' }).waitFor()
  await page.waitForTimeout(6000)
  await shot('gallery')
  await page.keyboard.press('Escape')
  await page.keyboard.press('2')
  const map = page.getByRole('application', { name: /^Map:/ })
  await map.waitFor()
  await page.waitForTimeout(1200)
  const box = await map.boundingBox()
  await page.mouse.move(box.x + box.width * 0.47, box.y + box.height * 0.5)
  await shot('map-desk')
  await page.keyboard.press('c')
  await page.getByRole('list', { name: 'Methods compared' }).waitFor()
  await page.waitForTimeout(2000)
  await shot('methods-compared')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /^Map: / }).click()
  await page.getByRole('button', { name: /^Loans and income/ }).click()
  await page.waitForTimeout(1200)
  await shot('map-desk-two-fields')
  await page.getByRole('button', { name: /^Map: / }).click()
  await page.getByRole('button', { name: /^Loans in all/ }).click()
  await page.waitForTimeout(1500)
  await shot('map-desk-symbols')
  await page.getByRole('button', { name: /^Map: / }).click()
  await page.getByRole('button', { name: /^Lindmere/ }).click()
  await page.getByRole('button', { name: /^Towns plain/ }).click()
  await page.getByRole('radio', { name: 'Labels', exact: true }).click()
  await page.waitForTimeout(1500)
  await page.getByRole('button', { name: 'Label Vermoss', exact: true }).click()
  await shot('map-desk-labels')
  await page.getByRole('radio', { name: 'Look', exact: true }).click()
  await page.getByRole('button', { name: /^Map: / }).click()
  await page.getByRole('button', { name: /^Readers at night/ }).click()
  await page.waitForTimeout(1500)
  await shot('map-desk-glow')
  await page.getByRole('button', { name: /^Map: / }).click()
  await page.getByRole('button', { name: /^Readers by age/ }).click()
  await page.waitForTimeout(1500)
  await shot('map-desk-dots')
  for (const [map, layer, name] of [
    [/^Density of readers/, /^Readers per km²/, 'map-desk-density'],
    [/^Libraries in hexagons/, /^Libraries in hexagons/, 'map-desk-cells'],
    [/^Loans, by people/, /^Loans per resident, by people/, 'map-desk-cartogram'],
    [/^Loans, in blocks/, /^Loans per resident, in blocks/, 'map-desk-blocks'],
  ]) {
    await page.getByRole('button', { name: /^Map: / }).click()
    await page.getByRole('dialog', { name: 'Maps of the folio' }).getByRole('button', { name: map }).click()
    await page
      .getByRole('list', { name: 'Layers, from top to bottom' })
      .getByRole('button', { name: layer })
      .click()
    await page.waitForTimeout(2500)
    await shot(name)
  }
  await page.getByRole('button', { name: /^Projection: / }).click()
  await page.waitForTimeout(400)
  await shot('projection')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /^Map: / }).click()
  await page
    .getByRole('dialog', { name: 'Maps of the folio' })
    .getByRole('button', { name: /^Loans per resident/ })
    .click()
  await page.keyboard.press('3')
  await page.getByRole('application', { name: /^Page:/ }).waitFor()
  await page.getByLabel('Pile').getByRole('button', { name: 'Legend', exact: true }).click()
  await shot('sheet-desk')
  await page.getByRole('button', { name: 'Loans by subject, A4' }).click()
  await page.waitForTimeout(1500)
  await page.getByLabel('Pile').getByRole('button', { name: 'Loans by subject', exact: true }).click()
  await shot('sheet-desk-treemap')
  await page.getByRole('button', { name: 'Loans, A4' }).click()
  await page.keyboard.press('4')
  await page.getByRole('button', { name: 'Export PDF' }).click()
  await page.getByRole('link', { name: /^Download/ }).waitFor()
  await shot('proof-desk')
  await page.getByRole('button', { name: /Lamplight/ }).click()
  await page.keyboard.press('2')
  await shot('map-desk-lamplight')
} finally {
  await browser.close()
  await server.stop()
  rmSync(data, { recursive: true, force: true })
}
