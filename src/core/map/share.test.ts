import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { numberColumn, numbersOf } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { geometryFromShapes } from '@/core/geo/shapes'
import { kindOf } from '@/core/kinds/registry'
import type { KindData } from '@/core/kinds/kind'
import type { ChoroplethPlan } from '@/core/kinds/choropleth/plan'
import type { ChoroplethSettings } from '@/core/kinds/choropleth/spec'
import { keepInStep, shareOf, takeScheme } from './share'
import { makeMap, type Layer, type MapSpec } from './spec'

const square = (x: number) => ({
  type: 'Polygon' as const,
  coordinates: [
    [
      [x, 0],
      [x + 1, 0],
      [x + 1, 1],
      [x, 0],
    ],
  ],
})
const dataset = {
  geometry: geometryFromShapes([0, 1, 2, 3, 4, 5].map(square)),
  rowCount: 6,
  fields: [
    { key: 'before', column: numberColumn([1, 2, 3, 4, 5, 6]) },
    { key: 'after', column: numberColumn([10, 20, 30, 40, 50, 60]) },
  ],
} as unknown as Dataset
const data: KindData = {
  dataset,
  name: 'Districts',
  fieldMeta: (label) => ({ label, unit: '', role: 'rate' }),
  datasetOf: () => dataset,
  datasetIds: [],
}
const kind = kindOf('choropleth')

const layerOf = (id: string, field: string, change: Partial<ChoroplethSettings> = {}): Layer => ({
  id,
  name: id,
  datasetId: 'districts',
  remembered: {},
  visible: true,
  opacity: 1,
  blend: 'normal',
  inLegend: true,
  groupId: null,
  filter: '',
  scales: { closest: null, farthest: null },
  labels: null,
  keepClear: true,
  symbology: {
    kind: 'choropleth',
    settings: {
      ...(kind.initial(data) as ChoroplethSettings),
      field,
      method: 'equal-interval',
      rounded: false,
      classes: 2,
      ...change,
    },
  },
})
const mapOf = (...layers: Layer[]): MapSpec =>
  makeMap({ id: layers[0].id, name: 'm', projection: { id: 'mercator' } as never, layers })
const settings = (layer: Layer) => layer.symbology.settings as ChoroplethSettings
const planned = (layer: Layer) => kind.plan(layer.symbology.settings, data) as ChoroplethPlan
const folioWith = (...layers: Layer[]) => ({ maps: layers.map((layer) => mapOf(layer)) })
const edited = (before: { maps: MapSpec[] }, recipe: (layers: Layer[]) => void) =>
  produce(before, (draft) => {
    recipe(draft.maps.flatMap((map) => map.layers) as Layer[])
    keepInStep(before, draft as never)
  })
const shared = (over: 'all' | 'each' = 'all') =>
  edited(folioWith(layerOf('one', 'before', { scheme: 'ember' }), layerOf('two', 'after')), ([one, two]) => {
    settings(one).share = { id: 's', over, members: [] }
    takeScheme(two, one)
  })
const both = (folio: { maps: MapSpec[] }) => folio.maps.map((map) => map.layers[0])

describe('a scheme of classes for several layers', () => {
  it('has breaks over the values of all of them, and each layer counts its own', () => {
    const [one, two] = both(shared()).map(planned)
    expect(one.classification?.breaks).toEqual([1, 30.5, 60])
    expect(two.classification?.breaks).toEqual([1, 30.5, 60])
    expect([one.classification?.counts, two.classification?.counts]).toEqual([
      [6, 0],
      [3, 3],
    ])
    expect(one.colours).toEqual(two.colours)
  })

  it('keeps its breaks when a layer is filtered, and counts what the filter leaves', () => {
    const [one, two] = both(shared())
    const rows = Int32Array.from([0, 2, 5])
    const kept = {
      ...dataset,
      rowCount: 3,
      fields: dataset.fields.map(({ key, column }) => ({
        key,
        column: numberColumn(Array.from(rows, (row) => numbersOf(column)[row])),
      })),
    }
    const filtered = (layer: Layer) =>
      kind.plan(layer.symbology.settings, { ...data, dataset: kept }) as ChoroplethPlan
    expect(filtered(two).classification?.breaks).toEqual([1, 30.5, 60])
    expect(filtered(two).classification?.counts).toEqual([2, 1])
    expect(filtered(one).classification?.counts).toEqual([3, 0])
    expect(filtered(two).colours).toEqual(planned(one).colours)
  })

  it('can have breaks over the values of each by itself, with method and colours in common', () => {
    const [one, two] = both(shared('each')).map(planned)
    expect([one.classification?.breaks, two.classification?.breaks]).toEqual([
      [1, 3.5, 6],
      [10, 35, 60],
    ])
    expect(one.colours).toEqual(two.colours)
  })

  it('follows a change in either layer, but not the field', () => {
    const first = edited(
      shared(),
      ([, two]) => void Object.assign(settings(two), { classes: 4, scheme: 'moss' }),
    )
    expect(
      both(first).map((layer) => [settings(layer).classes, settings(layer).scheme, settings(layer).field]),
    ).toEqual([
      [4, 'moss', 'before'],
      [4, 'moss', 'after'],
    ])
    const back = edited(first, ([one]) => void (settings(one).method = 'quantile'))
    expect(both(back).map((layer) => settings(layer).method)).toEqual(['quantile', 'quantile'])
  })

  it('reckons over another field as soon as one of them shows it', () => {
    const next = edited(shared(), ([one]) => void (settings(one).field = 'after'))
    expect(settings(both(next)[1]).share?.members).toMatchObject([{ field: 'after' }, { field: 'after' }])
    expect(planned(both(next)[1]).classification?.breaks[0]).toBe(10)
  })

  it('is a layer’s own again where nobody else has it', () => {
    const alone = edited(shared(), ([, two]) => void (settings(two).share = null))
    expect(both(alone).map(shareOf)).toEqual([null, null])
    expect(settings(both(alone)[1]).scheme).toBe('ember')
  })
})
