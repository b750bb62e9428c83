import type { Geometry as Shape } from 'geojson'
import { describe, expect, it } from 'vitest'
import { numberColumn } from '@/core/data/column'
import { makeEntry, plainSource } from '@/core/data/entry'
import { prepareDatasets } from '@/core/data/prepare'
import { geometryFromShapes } from '@/core/geo/shapes'
import { kindIds, kindOf, symbologyOf } from '@/core/kinds/registry'
import { composeMap } from '@/core/map/compose-map'
import { kindData, planOf } from '@/core/map/layer-plan'
import { makeLayer, makeMap } from '@/core/map/spec'
import { fitWhole } from '@/core/map/view'
import { adviseEqualArea } from '@/core/projection/adviser'
import { mapFonts } from '@/core/sheet/parts/panel'
import { fontBookOf } from '@/render/font-files'

const shapesOf = {
  areas: (x: number, y: number): Shape => ({
    type: 'Polygon',
    coordinates: [
      [
        [x, y],
        [x + 1, y],
        [x + 1, y + 1],
        [x, y + 1],
        [x, y],
      ],
    ],
  }),
  points: (x: number, y: number): Shape => ({ type: 'Point', coordinates: [x, y] }),
  lines: (x: number, y: number): Shape => ({
    type: 'LineString',
    coordinates: [
      [x, y],
      [x + 1, y + 1],
    ],
  }),
}

/** As far as a table's numbers may go: their sums, differences and squares are larger than any number. */
const tables = {
  'of both signs': [1e308, -1e308, 1e308, 5, 1e308, -1e308, 3, 2, 1e307, 1e308, 1e308, 1e308],
  'above zero': [1e308, 1e308, 1e308, 1e308, 1e307, 1, 2, 3, 4, 5, 6, 7],
  'near nothing': [1e-290, 3e-290, 1e-289, 1e-291, 0, 5e-292, 2e-290, 3e-291, 1e-288, 0, 7e-290, 1e-287],
}

/** Every place at which something that is made of numbers is none. */
function notFinite(value: unknown, path = ''): string[] {
  if (typeof value === 'number') return Number.isFinite(value) ? [] : [`${path}: ${value}`]
  if (typeof value === 'string') return /NaN|Infinity/.test(value) ? [`${path}: ${value}`] : []
  if (ArrayBuffer.isView(value))
    return [...(value as Float64Array)].flatMap((v, i) => notFinite(v, `${path}/${i}`))
  if (!value || typeof value !== 'object') return []
  return Object.entries(value).flatMap(([key, part]) => notFinite(part, `${path}/${key}`))
}

const cases = Object.entries(tables).flatMap(([words, values]) =>
  (['areas', 'points', 'lines'] as const).map((geometry) => ({
    title: `${geometry}, ${words}`,
    values,
    geometry,
  })),
)

describe('numbers at the end of what is written', () => {
  it.each(cases)('are drawn and written by every kind: $title', ({ values, geometry }) => {
    const shapes = values.map((_, i) => shapesOf[geometry](i % 4, Math.floor(i / 4)))
    const dataset = {
      rowCount: values.length,
      geometry: geometryFromShapes(shapes),
      fields: [
        { key: 'total', column: numberColumn(values) },
        { key: 'people', column: numberColumn(values.map(Math.abs)) },
      ],
    }
    const entry = makeEntry({
      id: 'd',
      name: 'Cells',
      geometry,
      fields: {
        total: { label: 'Total', unit: '', role: 'total' as const },
        people: { label: 'People', unit: 'persons', role: 'total' as const },
      },
      source: plainSource('d', '', ''),
    })
    const datasets = prepareDatasets([entry], () => dataset)
    const prepared = datasets.get('d')!
    const data = kindData(prepared)
    const drawn = kindIds.filter((id) => kindOf(id).accepts(data))
    expect(drawn.length).toBeGreaterThan(1)
    for (const id of drawn) {
      const symbology = symbologyOf(id, kindOf(id).initial(data))
      const layer = makeLayer({ id: 'l', name: 'L', datasetId: 'd', symbology })
      const map = makeMap({
        id: 'm',
        name: 'M',
        projection: adviseEqualArea([0, 0, 4, 3]),
        layers: [layer],
      })
      const window = { x: 0, y: 0, width: 100, height: 80 }
      const scene = composeMap({
        map,
        view: fitWhole(map, datasets, window)!,
        window,
        datasets,
        fonts: fontBookOf(mapFonts(map)),
        toleranceMm: 0.05,
      })
      const legend = kindOf(id).legend(planOf(layer, prepared), symbology.settings, data, null)
      expect({ id, wrong: [...notFinite(scene), ...notFinite(legend)].slice(0, 3) }).toEqual({
        id,
        wrong: [],
      })
    }
  })
})
