import { expect, test } from '@playwright/test'
import type { Folio } from '@/core/folio/schema'
import { drawn, openEmpty } from './folio'

test('a world file and a long table become a joined map of the world, by what is proposed alone', async ({
  page,
}) => {
  const began = Date.now()
  const id = await openEmpty(page, 'data')
  await page
    .getByLabel('Files to bring in')
    .setInputFiles([
      'demo/data/vintarra/vintarra-states.topojson',
      'demo/data/vintarra/vintarra-statistics.csv',
    ])
  const next = page.getByRole('region', { name: 'What to do next' })
  await expect(next).toContainText('Vintarra statistics has many rows for each state')
  await next.getByRole('button', { name: 'Make it wide' }).click()
  await expect(page.getByText(/217 rows · \d+ fields/)).toBeVisible()
  await next.getByRole('button', { name: /^Join/ }).click()
  await next.getByRole('button', { name: 'Map it' }).click()
  await drawn(page, /^Map:/)
  await expect(
    page
      .getByRole('region', { name: 'Map sentence' })
      .or(page.getByText(/^Shade/))
      .first(),
  ).toBeVisible()
  // Two minutes are what a newcomer should need; a test has no eyes to look with.
  expect(Date.now() - began).toBeLessThan(60_000)
  await expect
    .poll(async () => {
      const { folio } = (await (await page.request.get(`/api/folios/${id}`)).json()) as { folio: Folio }
      const join = folio.datasets.flatMap(({ steps }) => steps).find(({ type }) => type === 'join')
      const [map] = folio.maps
      return {
        accepts: (join?.settings as { accepts?: string[] } | undefined)?.accepts,
        projection: map?.projection.id,
        borders: folio.datasets.find(({ geometry }) => geometry === 'areas')?.source.borders,
        notes: folio.datasets.find(({ geometry }) => geometry === 'areas')?.source.notes.length,
      }
    })
    .toEqual({ accepts: ['loose', 'words'], projection: 'equal-earth', borders: 'checked', notes: 0 })
  // The state under the pointer is the one that lies there, on both sides of the date line.
  const map = page.getByRole('application', { name: /^Map:/ })
  const box = await map.boundingBox()
  if (!box) throw new Error('The map has no place.')
  await page.mouse.move(box.x + box.width * 0.72, box.y + box.height * 0.5)
  await expect(page.getByText('Skorneund').first()).toBeVisible()
})

test('borders are looked at in the background, and looking can be stopped and begun again', async ({
  page,
}) => {
  await openEmpty(page, 'data')
  const square = (x: number, [width, south, north]: [number, number, number], name: string) => ({
    type: 'Feature',
    properties: { name },
    geometry: {
      type: 'Polygon',
      coordinates: [
        [
          [x, south],
          [x + width, south],
          [x + width, north],
          [x, north],
          [x, south],
        ],
      ],
    },
  })
  const file = {
    type: 'FeatureCollection',
    features: [square(0, [1.2, 0, 1], 'Alb'), square(1, [1, 0.2, 0.8], 'Bren')],
  }
  await page.getByLabel('Files to bring in').setInputFiles({
    name: 'two.geojson',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(file)),
  })
  await expect(page.getByText('2 areas · 1 field')).toBeVisible()
  await expect(page.getByText(/borders do not fit together in 1 place/)).toBeVisible()
  await expect(page.getByRole('button', { name: /1 × overlaps its neighbour/ })).toBeVisible()
})
