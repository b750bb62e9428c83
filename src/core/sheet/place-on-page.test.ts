import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { stretchedProjection } from '@/core/map/layer-plan'
import { toPaper } from '@/core/geo/paper'
import type { Points } from '@/core/geo/geometry'
import { fontBookOf } from '@/render/font-files'
import { sheetContext, sheetFonts } from './compose-sheet'
import { panelsOf, panelView } from './panel-view'
import { placeLeaning, placeOnPage } from './place-on-page'

const { folio, datasets } = openDemo()
const map = folio.maps.find(({ id }) => id === 'stretched')!
const sheet = folio.sheets.find((one) => panelsOf(one).some(({ settings }) => settings.mapId === map.id))!
const [panel] = panelsOf(sheet)
const contextOf = (maps: typeof folio.maps) =>
  sheetContext({
    sheet,
    maps,
    typeStyles: folio.typeStyles,
    datasets,
    fonts: fontBookOf(sheetFonts(sheet, maps, folio.typeStyles)),
    folioName: '',
    author: '',
    date: new Date(0),
  })
const towns = datasets.get('towns')!.dataset.geometry as Points
const town = (i: number): [number, number] => [towns.coords[2 * i], towns.coords[2 * i + 1]]

describe('a place of a panel’s map', () => {
  it('lies on the page where what follows a stretched map is drawn', () => {
    const context = contextOf(folio.maps)
    const shown = context.panel(panel.id)!
    const bent = stretchedProjection(map, shown.projection, datasets)
    const still = contextOf(folio.maps.map((one) => ({ ...one, stretchedBy: null })))
    let moved = 0
    for (let i = 0; i < 20; i++) {
      const at = placeOnPage(panel.id, town(i), context)
      if (!at) continue
      const [x, y] = toPaper(shown.to, ...bent.project(...town(i)))
      expect(Math.hypot(at[0] - x, at[1] - y)).toBeLessThan(1e-9)
      const before = placeOnPage(panel.id, town(i), still)
      if (before && Math.hypot(at[0] - before[0], at[1] - before[1]) > 2) moved++
    }
    expect(moved).toBeGreaterThan(5)
    // What leans on such a place is made anew when the cartogram is another one.
    expect(placeLeaning(panel.id, context)).not.toEqual(placeLeaning(panel.id, still))
  })

  it('is asked for without a cartogram by whoever may not wait', () => {
    const straight = panelView(panel, sheet, { maps: folio.maps, datasets, stretch: (_, own) => own })!
    expect(straight.lie()).toBe(straight.projection)
    const usual = panelView(panel, sheet, { maps: folio.maps, datasets })!
    expect(usual.lie()).not.toBe(usual.projection)
    expect(placeOnPage('gone', town(0), { panel: () => null })).toBe(null)
  })
})
