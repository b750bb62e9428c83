import { describe, expect, it } from 'vitest'
import { openDemo } from '../../demo/open'
import type { DotShapes } from '@/core/kinds/dots/shapes'
import type { DotSettings } from '@/core/kinds/dots/spec'
import { planOf, shapesOf } from '@/core/map/layer-plan'
import { initialPrint } from '@/core/print/settings'
import { renderSheet } from './sheet'

/** The demo's readers by age with so few to a dot that there are a hundred thousand dots and more. */
function manyDots() {
  const { folio, contents, datasets } = openDemo()
  const { layer, own } = folio.maps.flatMap(({ layers }) =>
    layers.flatMap((one) => (one.symbology.kind === 'dots' ? [{ layer: one, own: one.symbology }] : [])),
  )[0]
  // The districts under them are hidden: their many vertices are no dots.
  for (const { layers } of folio.maps)
    for (const one of layers) if (one.id === 'ground-12') one.visible = false
  const settings = own.settings as DotSettings
  settings.each = 16.2
  settings.sizeMm = 0.2
  const prepared = datasets.get(layer.datasetId)
  if (!prepared) throw new Error('The demo has districts.')
  const shapes = shapesOf(layer, prepared, planOf(layer, prepared), folio.maps[0].projection) as DotShapes
  return { folio, contents, shapes }
}

describe('a hundred thousand dots', () => {
  const { folio, contents, shapes } = manyDots()
  const count = shapes.runs.reduce((sum, { lonLat }) => sum + lonLat.length / 2, 0)

  it('are that many', () => {
    expect(count).toBeGreaterThan(100_000)
    expect(count).toBeLessThan(104_000)
  })

  it.each(['pdf', 'svg'] as const)(
    'over provinces take less than 1.5 MB as %s, the rest of the sheet included',
    async (format) => {
      const bytes = await renderSheet({
        folio,
        sheetId: 'readers-by-age-a4',
        contents: (id) => contents.get(id) ?? null,
        settings: { ...initialPrint, format },
        date: new Date('2026-01-31T12:00:00Z'),
      })
      expect(bytes.length).toBeLessThan(1_500_000)
    },
  )
})
