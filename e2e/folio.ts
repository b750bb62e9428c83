import { readFileSync } from 'node:fs'
import { expect, type APIResponse, type Page } from '@playwright/test'
import type { Folio } from '@/core/folio/schema'

export type Desk = 'data' | 'map' | 'sheet' | 'proof'

const origin = `http://localhost:${process.env.KEEN_TEST_PORT ?? 3417}`

/** Sends a request as a page of the application would: one that changes something says where it comes from. */
export const send = (
  page: Page,
  method: 'POST' | 'PUT' | 'DELETE',
  path: string,
  data?: unknown,
): Promise<APIResponse> => page.request.fetch(path, { method, data, headers: { origin } })

/** The folio as a folio file, as the shelf saves it: written in a job, then fetched. */
export async function folioFileOf(page: Page, id: string): Promise<Buffer> {
  const { jobId } = (await (
    await send(page, 'POST', `/api/folios/${id}/file`, { withFine: true })
  ).json()) as { jobId: string }
  const states = await (await page.request.get(`/api/jobs/${jobId}`)).text()
  const end = JSON.parse(states.trim().split('\n\n').at(-1)?.slice('data: '.length) ?? '') as {
    result: { downloadId: string }
  }
  return (await page.request.get(`/api/downloads/${end.result.downloadId}`)).body()
}

/** Opens a fresh copy of the demo at a desk and returns the folio's id. */
export async function openDemo(page: Page, desk: Desk): Promise<string> {
  const response = await send(page, 'POST', '/api/demo')
  if (!response.ok()) throw new Error(`The demo does not open: ${await response.text()}`)
  const { folio } = (await response.json()) as { folio: Folio }
  await goTo(page, folio.id, desk)
  return folio.id
}

/** Opens an empty folio at a desk and returns its id. */
export async function openEmpty(page: Page, desk: Desk, name = 'Trial'): Promise<string> {
  const response = await send(page, 'POST', '/api/folios', { name })
  const { folio } = (await response.json()) as { folio: Folio }
  await goTo(page, folio.id, desk, true)
  return folio.id
}

export async function goTo(page: Page, id: string, desk: Desk, empty = false): Promise<void> {
  await page.goto(`/folio/${id}/${desk}`)
  await expect(page.getByRole('main', { name: `${desk} desk` })).toBeVisible()
  if (desk === 'map') await drawn(page, /^Map:/)
  if (desk === 'sheet' && !empty) await drawn(page, /^Page:/)
}

/** Waits until a map or page has been drawn. */
export async function drawn(page: Page, name: RegExp): Promise<void> {
  const area = page.getByRole('application', { name })
  await expect(area).toBeVisible()
  await expect
    .poll(() =>
      area
        .locator('canvas')
        .first()
        .evaluate((canvas: HTMLCanvasElement) => canvas.width),
    )
    .toBeGreaterThan(301)
}

/** The folio as the server has it once everything is saved. */
export async function savedFolio(page: Page, id: string): Promise<Folio> {
  await expect(page.getByRole('button', { name: /^Saved/ })).toBeVisible()
  const response = await page.request.get(`/api/folios/${id}`, { maxRetries: 2 })
  return ((await response.json()) as { folio: Folio }).folio
}

/** The settings of the demo's choropleth. */
export function choropleth(folio: Folio) {
  const layer = folio.maps
    .flatMap((map) => map.layers)
    .find(({ symbology }) => symbology.kind === 'choropleth')
  if (layer?.symbology.kind !== 'choropleth') throw new Error('The folio has no choropleth.')
  return layer.symbology.settings
}

/** The breaks that stand on the bench. */
export const benchBreaks = (page: Page): Promise<number[]> =>
  page
    .getByRole('slider', { name: /^Break/ })
    .evaluateAll((sliders) => sliders.map((slider) => Number(slider.getAttribute('aria-valuenow'))))

/** Drops the districts and their returns on the Data desk, and joins them with what can be matched. */
export async function bringInDistricts(page: Page): Promise<void> {
  for (const name of ['districts.topojson', 'district-returns.csv']) {
    const transfer = await page.evaluateHandle(
      ({ name, text }) => {
        const data = new DataTransfer()
        data.items.add(new File([text], name))
        return data
      },
      { name, text: readFileSync(`demo/data/${name}`, 'utf8') },
    )
    // As from a file manager.
    const desk = page.getByRole('main', { name: 'data desk' }).locator('> div')
    await desk.dispatchEvent('drop', { dataTransfer: transfer })
    await expect(page.getByRole('status').filter({ hasText: `${name} was brought in` })).toBeVisible()
  }
  const list = page.getByRole('complementary', { name: 'Datasets' })
  // A step draws on rows that are there.
  await expect(list.getByRole('button', { name: /^District returns 164 rows/ })).toBeVisible()
  await list.getByRole('button', { name: /^Districts 164 areas/ }).click()
  await page.getByRole('button', { name: 'Add a step' }).click()
  await page.getByRole('button', { name: 'Join', exact: true }).click()
  await expect(page.getByRole('button', { name: /159 matched, 5 not/ })).toBeVisible()
  await page.getByRole('checkbox', { name: /^3 the same but for zeros, blanks/ }).check()
  await expect(page.getByRole('button', { name: /162 matched, 2 not/ })).toBeVisible()
}
