import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { prepareDatasets } from '@/core/data/prepare'
import { changesOf } from '@/core/map/changes'
import { turnToFit } from '@/core/map/turn-to-fit'
import { nextRoundScale, viewProjection } from '@/core/map/view'
import { projectGeometry } from '@/core/geo/projected'
import { coordsOf } from '@/core/geo/geometry'
import { emptyBounds, takeIn } from '@/core/scene/bounds'
import { outlineBox } from '@/core/scene/outline'
import { walk } from '@/core/scene/scene'
import { fontBookOf } from '@/render/font-files'
import { composeSheet, sheetFonts } from './compose-sheet'
import { locatorFor } from './locator'
import { planeAbout } from '@/core/projection/adviser'
import { mapOfPanel, panelsOf, panelView, viewOfPanel, type PanelPart } from './panel-view'
import { columnsFor, layerVariants, smallMultiples, variantsOf } from './small-multiples'

const { folio, contents } = openDemo()
const datasets = prepareDatasets(folio.datasets, (id) => contents.get(id) ?? null)
const [sheet] = folio.sheets
const [main] = panelsOf(sheet)
const map = folio.maps.find(({ id }) => id === main.settings.mapId)!
const given = { maps: folio.maps, datasets }
const withSettings = (part: PanelPart, more: Partial<PanelPart['settings']>): PanelPart => ({
  ...part,
  settings: { ...part.settings, ...more },
})
const composed = (parts: typeof sheet.parts, maps = folio.maps): string => {
  const own = { ...sheet, parts }
  const fonts = fontBookOf(sheetFonts(own, maps, folio.typeStyles))
  const input = {
    sheet: own,
    maps,
    typeStyles: folio.typeStyles,
    datasets,
    fonts,
    folioName: '',
    author: '',
    date: new Date(0),
  }
  const seen = new Map<object, number>()
  return JSON.stringify(composeSheet(input), (_, value: unknown) => {
    // Lists of coordinates that are shared are written once.
    if (!ArrayBuffer.isView(value)) return value
    if (!seen.has(value)) seen.set(value, seen.size)
    return Array.from(value as Float64Array).slice(0, 200)
  })
}

describe('a frozen panel', () => {
  const frozen = withSettings(main, { frozen: { at: '2026-05-03T10:00:00.000Z', map: structuredClone(map) } })
  const edited = produce(folio.maps, (draft) => {
    const now = draft.find(({ id }) => id === map.id)!
    now.background = '#123456'
    now.layers[0].name = 'Something else'
    now.layers.splice(1, 1)
  })

  it('is unchanged to the byte after its map was edited; one that follows is not', () => {
    const before = composed([frozen])
    expect(composed([frozen], edited)).toBe(before)
    const following = composed([main])
    expect(composed([main], edited)).not.toBe(following)
  })

  it('says what will change when it follows again', () => {
    const now = edited.find(({ id }) => id === map.id)!
    expect(changesOf(map, now)).toEqual([
      `without “${map.layers[1].name}”`,
      '“Something else” as now',
      'another ground',
    ])
    expect(changesOf(map, map)).toEqual([])
  })

  it('goes on when its map is gone', () => {
    expect(mapOfPanel(frozen, [])?.id).toBe(map.id)
    const plane = planeAbout(map.projection, [10, -20])
    const own = withSettings(main, { projection: plane })
    expect(mapOfPanel(own, folio.maps)?.projection).toEqual(plane)
    // The very same object, by which what was drawn is found again; a stretched map keeps its plane.
    expect(mapOfPanel(own, folio.maps)).toBe(mapOfPanel(own, folio.maps))
    const stretched = folio.maps.map((one) => ({ ...one, stretchedBy: 'any' }))
    expect(mapOfPanel(own, stretched)?.projection).toEqual(map.projection)
    expect(mapOfPanel(main, [])).toBe(null)
    expect(mapOfPanel(withSettings(main, { mapId: null }), folio.maps)).toBe(null)
  })
})

describe('what a panel shows', () => {
  it('is without the layers that it hides, in drawing, legend and credits', () => {
    const [first] = map.layers
    const hiding = withSettings(main, { hiddenLayers: [first.id] })
    const view = panelView(hiding, sheet, given)!
    expect(view.layers.some(({ layer }) => layer.id === first.id)).toBe(false)
    expect(panelView(hiding, sheet, given)!.map).toBe(view.map)
    expect(map.layers).toContain(first)
  })

  it('has the scale and place of others, and its own where they go by each other', () => {
    const other: PanelPart = {
      ...withSettings(main, { view: { centre: [1, 2], scaleDenominator: 500_000, turnDeg: 20 } }),
      id: 'other',
    }
    const follower = { ...withSettings(main, { sameScaleAs: 'other', samePlaceAs: 'other' }), id: 'follower' }
    const both = { parts: [other, follower] }
    expect(viewOfPanel(follower, both)).toEqual({ centre: [1, 2], scaleDenominator: 500_000, turnDeg: 20 })
    const scaleOnly = { ...withSettings(main, { sameScaleAs: 'other' }), id: 'scale' }
    expect(viewOfPanel(scaleOnly, { parts: [other, scaleOnly] })).toEqual({
      ...main.settings.view,
      scaleDenominator: 500_000,
    })
    const circle = withSettings(other, { samePlaceAs: 'follower' })
    expect(viewOfPanel(follower, { parts: [circle, follower] }).centre).toEqual(follower.settings.view.centre)
    expect(viewOfPanel(withSettings(main, { sameScaleAs: 'nobody' }), sheet)).toEqual(main.settings.view)
  })

  it('snaps to round scales', () => {
    expect([1_234_567, 2_249_000, 6_700_000, 9_000_000, 87, 1e6].map(nextRoundScale)).toEqual([
      1_500_000, 2_500_000, 6_000_000, 10_000_000, 100, 1_000_000,
    ])
  })
})

describe('turning to fit', () => {
  it('lays the longest extent along the frame, wide or tall', () => {
    const layer = map.layers.find(({ inLegend }) => inLegend)!
    for (const window of [
      { width: 200, height: 60 },
      { width: 60, height: 200 },
    ]) {
      const view = turnToFit(map, layer.id, datasets, window)!
      const turned = viewProjection(map, view)
      const bounds = emptyBounds()
      takeIn(bounds, coordsOf(projectGeometry(datasets.get(layer.datasetId)!.dataset.geometry, turned)))
      const [w, h] = [bounds[2] - bounds[0], bounds[3] - bounds[1]]
      expect(window.width > window.height ? w > h : h > w).toBe(true)
      expect(Math.abs(view.turnDeg ?? 0)).toBeLessThanOrEqual(90)
    }
    expect(turnToFit(map, 'no layer', datasets, { width: 1, height: 1 })).toBe(null)
  })
})

describe('small multiples', () => {
  const layer = map.layers.find(({ inLegend }) => inLegend)!
  const years = variantsOf(layer, datasets, 'years')

  it('show each year in classes over all of them, at the scale and place of the first', () => {
    expect(years.length).toBeGreaterThan(3)
    let n = 0
    const columns = columnsFor(years.length, main.box)
    const division = { columns, rows: Math.ceil(years.length / columns), gutterX: 2, gutterY: 2 }
    const made = smallMultiples(main, years, {
      division,
      newId: () => `m${n++}`,
      layers: map.layers,
      prepared: datasets.get(layer.datasetId),
    })
    expect(made).toHaveLength(years.length)
    const views = made.map((part) => panelView(part, { parts: made }, given)!)
    for (const view of views) expect(view.view).toEqual(views[0].view)
    const shown = views.map(
      (view) => view.map.layers.find(({ id }) => id === layer.id)!.symbology.settings as { field: string },
    )
    expect(new Set(shown.map(({ field }) => field)).size).toBe(years.length)
    // The very same map for the same variant, so that it is composed once.
    expect(panelView(made[2], { parts: made }, given)!.map).toBe(views[2].map)
  })

  it('over a category keep the classes of the whole', () => {
    const field = datasets.get(layer.datasetId)!.dataset.fields.find(({ key }) => /province/i.test(key))!
    const each = variantsOf(layer, datasets, { field: field.key })
    expect(each.length).toBeGreaterThan(2)
    const views = each.map((variant) => panelView(withSettings(main, { variant }), sheet, given)!)
    const rows = views.map(
      (view) => view.layers.find((drawn) => drawn.layer.id === layer.id)!.prepared.dataset.rowCount,
    )
    expect(rows.reduce((a, b) => a + b, 0)).toBe(datasets.get(layer.datasetId)!.dataset.rowCount)
    const breaks = views.map(
      (view) =>
        (view.map.layers.find(({ id }) => id === layer.id)!.symbology.settings as { manualBreaks: number[] })
          .manualBreaks,
    )
    for (const own of breaks) expect(own).toEqual(breaks[0])
    expect(breaks[0].length).toBeGreaterThan(2)
  })
})

describe('a locator', () => {
  it('is round, shows all, and holds the footprint of its panel', () => {
    const close = withSettings(main, { view: { ...main.settings.view, scaleDenominator: 900_000 } })
    const own = { ...sheet, parts: sheet.parts.map((part) => (part.id === main.id ? close : part)) }
    const made = locatorFor(close, { sheet: own, map, datasets, id: 'loc', frameOf: (part) => part })
    expect(made).toMatchObject({
      type: 'panel',
      name: 'Locator',
      settings: { shape: { by: 'ellipse' }, footprints: [{ panelId: main.id }] },
    })
    expect(made.box.x).toBeGreaterThanOrEqual(main.box.x)
    expect(made.box.x + made.box.width).toBeLessThanOrEqual(main.box.x + main.box.width)
  })
})

describe('a panel repeated over layers', () => {
  const chosen = map.layers.slice(0, 3)
  const variants = layerVariants(chosen)

  it('shows one of them each, beside the layers that were not chosen', () => {
    let n = 0
    const made = smallMultiples(main, variants, {
      division: { columns: 3, rows: 1, gutterX: 2, gutterY: 2 },
      newId: () => `m${n++}`,
      layers: map.layers,
      prepared: undefined,
    })
    expect(made.map(({ name }) => name)).toEqual(chosen.map(({ name }) => `${main.name} ${name}`))
    made.forEach((part, i) => {
      const view = panelView(part, { parts: made }, given)!
      const ids = view.map.layers.map(({ id }) => id)
      const others = map.layers.slice(3).map(({ id }) => id)
      expect(ids).toEqual([chosen[i].id, ...others])
      // The very same map again, so that it is composed once.
      expect(panelView(part, { parts: made }, given)!.map).toBe(view.map)
    })
  })

  it('leaves the map as it is where the layer is gone', () => {
    const gone = withSettings(main, {
      variant: { by: 'layer', layerId: 'gone', among: ['gone', map.layers[0].id] },
    })
    expect(panelView(gone, sheet, given)!.map).toBe(map)
  })
})

describe('the form of a panel', () => {
  const ground = (part: PanelPart) => {
    const own = { ...sheet, parts: [part] }
    const fonts = fontBookOf(sheetFonts(own, folio.maps, folio.typeStyles))
    const input = {
      sheet: own,
      maps: folio.maps,
      datasets,
      fonts,
      folioName: '',
      author: '',
      date: new Date(0),
    }
    return [...walk(composeSheet(input).children)]
  }
  const forms: PanelPart['settings']['shape'][] = [
    {
      by: 'polygon',
      corners: [
        [0, 0],
        [1, 0.2],
        [0.6, 1],
        [0.1, 0.7],
      ],
    },
    { by: 'area', datasetId: 'provinces', field: 'name', values: ['Haskneholt'], outside: 0 },
  ]

  for (const shape of forms)
    it(`cut to a ${shape.by} has a soft edge and lines within it as a box has`, () => {
      const frame = {
        colour: '#123456',
        widthPt: 1,
        more: [
          { colour: '#654321', widthPt: 2, gapPt: 3 },
          { colour: '#abcdef', widthPt: 1, gapPt: 3 },
        ],
      }
      const nodes = ground(withSettings(main, { shape, softEdgeMm: 6, frame }))
      const cut = nodes.find((node) => node.type === 'group' && node.name.endsWith(' cut'))
      const steps = cut?.type === 'group' ? (cut.mask ?? []) : []
      expect(steps.length).toBeGreaterThan(20)
      const widths = steps.flatMap((node) =>
        node.type === 'path' ? (outlineBox(node.outline)?.width ?? 0) : [],
      )
      widths.slice(1).forEach((width, i) => expect(width).toBeLessThanOrEqual(widths[i] + 1e-6))
      expect(widths[0] - widths[widths.length - 1]).toBeGreaterThan(6)
      const lines = ['#123456', '#654321', '#abcdef'].map((colour) =>
        nodes.find((node) => node.type === 'path' && node.strokes.some((stroke) => stroke.colour === colour)),
      )
      const boxes = lines.map((node) => (node?.type === 'path' ? outlineBox(node.outline) : null))
      expect(boxes[2]!.width).toBeLessThan(boxes[1]!.width)
      expect(boxes[1]!.x).toBeGreaterThanOrEqual(main.box.x - 1e-6)
    })

  it('has a ground under its map, and without a map as well', () => {
    for (const mapId of [main.settings.mapId, null]) {
      const nodes = ground(withSettings(main, { mapId, background: '#fedcba' }))
      const found = nodes.find(
        (node) => node.type === 'path' && node.fill?.type === 'solid' && node.fill.colour === '#fedcba',
      )
      expect(found?.type === 'path' && outlineBox(found.outline)).toEqual(main.box)
    }
  })
})
