import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { numberColumn } from '@/core/data/column'
import { makeEntry, plainSource } from '@/core/data/entry'
import { prepareDatasets, type Prepared } from '@/core/data/prepare'
import { rasterAt } from '@/core/data/raster'
import { cellPlace } from '@/core/data/raster-ground'
import { featureAt } from '@/core/geo/feature-at'
import type { Areas } from '@/core/geo/geometry'
import { geometryFromShapes } from '@/core/geo/shapes'
import { kindOf, symbologyOf } from '@/core/kinds/registry'
import { firstLayer, firstMap } from '@/core/map/first-map'
import { kindData } from '@/core/map/layer-plan'
import { mostScaleChange, scaleChange } from '@/core/map/scale-holds'
import { makeLayer, makeMap, type MapSpec } from '@/core/map/spec'
import { paperTransform, unproject } from '@/core/map/view'
import { adviseEqualArea } from '@/core/projection/adviser'
import { createProjection } from '@/core/projection/projection'
import { fontBookOf } from '@/render/font-files'
import { effectiveBox, sheetContext, sheetFonts } from './compose-sheet'
import { fillIn } from './fill-ins'
import { newSheet } from './new-sheet'
import type { Part, Sheet } from './spec'

const { folio, datasets } = openDemo()
const sheetOf = (map: MapSpec, all = datasets): Sheet => {
  let n = 0
  return newSheet(map, all, { name: 'First', newId: () => String(n++) })
}
const partOf = (sheet: Sheet, type: Part['type']): Part | undefined =>
  sheet.parts.find((part) => part.type === type)

/** A map of one dataset of a few squares, from west, south to east, north. */
function mapOf(boxes: [number, number, number, number][]) {
  const shapes = boxes.map(([w, s, e, n]): GeoJSON.Polygon => ({
    type: 'Polygon',
    coordinates: [
      [
        [w, s],
        [e, s],
        [e, n],
        [w, n],
        [w, s],
      ],
    ],
  }))
  const source = plainSource('land', 'land.geojson', 'GeoJSON')
  const entry = makeEntry({ id: 'land', name: 'Land', geometry: 'areas', source })
  const dataset = {
    rowCount: boxes.length,
    geometry: geometryFromShapes(shapes),
    fields: [{ key: 'rate', column: numberColumn(boxes.map((_, i) => i + 1.5)) }],
  }
  const all = prepareDatasets([entry], () => dataset)
  const prepared = all.get('land')
  if (!prepared) throw new Error('The land is missing.')
  const layer = makeLayer({
    ...{ id: 'layer', name: 'Rate', datasetId: 'land' },
    symbology: symbologyOf('choropleth', kindOf('choropleth').initial(kindData(prepared))),
  })
  const extent = boxes.reduce(([w, s, e, n], b) => [
    Math.min(w, b[0]),
    Math.min(s, b[1]),
    Math.max(e, b[2]),
    Math.max(n, b[3]),
  ])
  const map = makeMap({ id: 'map', name: 'Land', projection: adviseEqualArea(extent), layers: [layer] })
  return { map, all, areas: dataset.geometry as Areas }
}

/** The share of a legend's box under which areas lie. */
function covered(sheet: Sheet, map: MapSpec, areas: Areas): number {
  const [panel, legend] = [partOf(sheet, 'panel'), partOf(sheet, 'legend')]
  if (panel?.type !== 'panel' || !legend) return NaN
  const projection = createProjection(map.projection)
  const to = paperTransform(projection, panel.settings.view, panel.box)
  let [count, all] = [0, 0]
  for (let y = legend.box.y + 1; y < legend.box.y + legend.box.height; y += 2)
    for (let x = legend.box.x + 1; x < legend.box.x + legend.box.width; x += 2) {
      const isOver =
        x < panel.box.x + panel.box.width && y < panel.box.y + panel.box.height && x > panel.box.x
      const place = isOver ? unproject(projection, to, x, y) : null
      all++
      if (place && featureAt(areas, ...place) >= 0) count++
    }
  return count / all
}

describe('the first page', () => {
  it('says what the map shows, and nothing where nothing is known', () => {
    const sheet = sheetOf(folio.maps[0])
    const texts = sheet.parts.flatMap((part) => (part.type === 'text' ? [part.settings.text] : []))
    const [shown, where, source] = texts.slice(-3)
    expect([shown, where]).toEqual(['{{shown}}', '{{where}}'])
    expect(source).toBe('Source: {{credits}}. {{projection}}, {{scale}}.')
    const none = { credits: '', projection: 'Albers projection', scale: '1 : 5,000,000' }
    expect(fillIn(source, none)).toBe('Albers projection, 1 : 5,000,000.')
    expect(fillIn(source, { ...none, credits: 'Survey' })).toBe(
      'Source: Survey. Albers projection, 1 : 5,000,000.',
    )
    expect(fillIn('Made by hand. Source: {{credits}}.', none)).toBe('Made by hand.')
    expect(fillIn('{{credits}}', none)).toBe('')
    expect(fillIn('{{unknown}} stays', none)).toBe('{{unknown}} stays')
  })

  it('stands upright for a map that is higher than wide', () => {
    const tall = mapOf([
      [0, 0, 2, 4],
      [0, 4, 2, 8],
    ])
    const { page } = sheetOf(tall.map, tall.all)
    expect([page.widthMm, page.heightMm]).toEqual([210, 297])
    const wide = mapOf([
      [0, 0, 4, 2],
      [4, 0, 8, 2],
    ])
    expect(sheetOf(wide.map, wide.all).page.widthMm).toBe(297)
  })

  it('has its legend over no area: in free room, or else in a strip of its own', () => {
    const lands: [number, number, number, number][][] = [
      [
        [0, 0, 4, 2],
        [4, 0, 8, 2],
      ],
      // Full to every corner.
      Array.from({ length: 6 }, (_, i): [number, number, number, number] => [
        2 * (i % 3),
        2 * Math.floor(i / 3),
        2 * (i % 3) + 2,
        2 * Math.floor(i / 3) + 2,
      ]),
      [[0, 0, 2, 6]],
      [
        [0, 0, 10, 1],
        [0, 1, 1, 6],
      ],
    ]
    for (const boxes of lands) {
      const { map, all, areas } = mapOf(boxes)
      expect(covered(sheetOf(map, all), map, areas), JSON.stringify(boxes)).toBeLessThan(0.05)
    }
  })

  it('has its legend over none of the ground that points lie on, either', () => {
    const [points, ground] = [datasets.get('libraries'), datasets.get('provinces')] as Prepared[]
    const layers = [firstLayer(points, () => 'points'), firstLayer(ground, () => 'ground', true)]
    const map = { ...firstMap(points, layers[0], () => 'map'), layers }
    expect(covered(sheetOf(map), map, ground.dataset.geometry as Areas)).toBeLessThan(0.03)
  })

  it('has its legend where a raster has no values, not merely off its edge', () => {
    // Values everywhere but in the upper right quarter; where the grid ends tells nothing.
    const [columns, rows] = [60, 40]
    const values = Float32Array.from({ length: columns * rows }, (_, i) =>
      i % columns > 24 && i / columns < 20 ? NaN : i % 7,
    )
    const raster = {
      ...{ crs: '', columns, rows, bands: 1, values, fileSize: Uint32Array.of(columns, rows) },
      transform: Float64Array.of(10, 0.1, 0, 50, 0, -0.1),
      edge: Float64Array.of(10, 50, 16, 50, 16, 46, 10, 46),
    }
    const entry = makeEntry({
      ...{ id: 'cells', name: 'Cells', geometry: 'raster', source: plainSource('cells', '', '') },
    })
    const dataset = { rowCount: 0, fields: [], geometry: { kind: 'none' as const }, raster }
    const all = prepareDatasets([entry], () => dataset)
    const cells = all.get('cells') as Prepared
    const map = firstMap(cells, { ...firstLayer(cells, () => 'layer'), inLegend: true }, () => 'map')
    const sheet = sheetOf(map, all)
    const [panel, legend] = [partOf(sheet, 'panel'), partOf(sheet, 'legend')]
    if (panel?.type !== 'panel' || !legend) throw new Error('There are a panel and a legend.')
    const projection = createProjection(map.projection)
    const to = paperTransform(projection, panel.settings.view, panel.box)
    for (let x = legend.box.x; x < legend.box.x + legend.box.width; x += 2)
      for (let y = legend.box.y; y < legend.box.y + legend.box.height; y += 2) {
        const place = unproject(projection, to, x, y)
        expect(place && rasterAt(raster, 0, ...cellPlace(raster)(...place))).toBeNaN()
      }
    // And over the grid, in a corner of it: no room is given away.
    expect(legend.box.x).toBeGreaterThan(panel.box.x)
  })

  it('moves the land aside, on one ground, where only so the legend finds room', () => {
    const square = mapOf(
      Array.from({ length: 4 }, (_, i): [number, number, number, number] => [
        i % 2,
        45 + Math.floor(i / 2),
        (i % 2) + 1,
        46 + Math.floor(i / 2),
      ]),
    )
    const sheet = sheetOf(square.map, square.all)
    const [panel, legend] = [partOf(sheet, 'panel'), partOf(sheet, 'legend')]
    // The legend lies within the panel, and over none of the land.
    expect(legend?.box.x).toBeGreaterThan(panel?.box.x ?? NaN)
    expect(covered(sheet, square.map, square.areas)).toBeLessThan(0.02)
  })

  it('has a legend as large as its words are, where typefaces are at hand', () => {
    const { typeStyles } = folio
    const [map] = folio.maps
    const fonts = fontBookOf(sheetFonts(sheetOf(map), [map], typeStyles))
    let n = 0
    const sheet = newSheet(map, datasets, {
      ...{ name: 'First', newId: () => String(n++) },
      lettering: { fonts, typeStyles },
    })
    const legend = sheet.parts.find(({ type }) => type === 'legend')
    const context = sheetContext({
      ...{ sheet, maps: folio.maps, datasets, fonts, typeStyles },
      ...{ folioName: '', author: '', date: new Date(0) },
    })
    expect(legend).toBeDefined()
    if (legend) expect(effectiveBox(legend, context).height).toBeCloseTo(legend.box.height, 1)
  })

  it('has a scale bar where the scale holds within five per cent, and none on a map of the world', () => {
    const country = mapOf([
      [0, 45, 4, 48],
      [4, 45, 8, 48],
    ])
    expect(partOf(sheetOf(country.map, country.all), 'scale-bar')).toBeDefined()
    const world = mapOf([
      [-170, -60, -10, 80],
      [10, -60, 170, 80],
    ])
    const sheet = sheetOf(world.map, world.all)
    expect(partOf(sheet, 'scale-bar')).toBeUndefined()
  })

  it('measures how much the scale changes over a panel', () => {
    const at = (lat: number, denominator: number) =>
      scaleChange(
        makeMap({
          id: 'm',
          name: '',
          layers: [],
          projection: { id: 'mercator', centre: [0, 0], parallels: [0, 0] },
        }),
        { centre: [0, lat], scaleDenominator: denominator },
        { width: 200, height: 100 },
      )
    // Mercator at 60°: 100 mm at 1 : 20 million are 2,000 km, of which the outer of five rows lie 1,600 km apart.
    const [south, north] = [60 - 7.2, 60 + 7.2].map((lat) => Math.cos((lat * Math.PI) / 180))
    expect(at(60, 20e6)).toBeGreaterThan(0.5 * (south / north - 1))
    expect(at(60, 20e6)).toBeLessThan(1.5 * (south / north - 1))
    expect(at(0, 1e6)).toBeLessThan(mostScaleChange)
  })
})
