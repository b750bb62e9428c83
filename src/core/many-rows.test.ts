import type { Geometry as Shape } from 'geojson'
import { beforeAll, describe, expect, it } from 'vitest'
import { numberColumn, textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { prepareDatasets, type Prepared } from '@/core/data/prepare'
import { proposalsFor } from '@/core/data/proposals'
import { PrepStep, stepKindOf, stepTypes } from '@/core/data/steps/registry'
import { entryOf } from '@/core/data/steps/step-testing'
import { geometryFromShapes } from '@/core/geo/shapes'
import { kindIds, kindOf, symbologyOf } from '@/core/kinds/registry'
import { becomingOf } from '@/core/map/becoming'
import { composeMap } from '@/core/map/compose-map'
import { kindData } from '@/core/map/layer-plan'
import { makeLayer, makeMap, type MapSpec } from '@/core/map/spec'
import { fitWhole } from '@/core/map/view'
import { adviseEqualArea } from '@/core/projection/adviser'
import { composeSheet, sheetFonts } from '@/core/sheet/compose-sheet'
import { newPart, newSheet } from '@/core/sheet/new-sheet'
import { mapFonts } from '@/core/sheet/parts/panel'
import { partTypeIds } from '@/core/sheet/registry'
import { fontBookOf } from '@/render/font-files'

/** As many rows as a country has small areas. */
const [across, rows] = [190, 190 * 190]
const place = (i: number): [number, number] => [(i % across) * 0.02 + 5, Math.floor(i / across) * 0.02 + 45]
const shapes = {
  areas(i: number): Shape {
    const [x, y] = place(i)
    const [east, north] = [x + 0.02, y + 0.02]
    return {
      type: 'Polygon',
      coordinates: [
        [
          [x, y],
          [east, y],
          [east, north],
          [x, north],
          [x, y],
        ],
      ],
    }
  },
  points: (i: number): Shape => ({
    type: 'Point',
    coordinates: [place(i)[0] + 0.007 * ((i * 37) % 3), place(i)[1] + 0.005 * ((i * 53) % 4)],
  }),
  lines: (i: number): Shape => ({
    type: 'LineString',
    coordinates: [place(i), [place(i)[0] + 0.02, place(i)[1] + 0.01 * (i % 3)]],
  }),
}
type Form = keyof typeof shapes | 'table'
const forms: Form[] = ['areas', 'points', 'lines', 'table']

const all = (make: (i: number) => string) => textColumn(Array.from({ length: rows }, (_, i) => make(i)))
const fields = [
  { key: 'code', column: all((i) => `K${String(i).padStart(6, '0')}`) },
  { key: 'group', column: all((i) => `g${i % 7}`) },
  { key: 'people', column: numberColumn(Array.from({ length: rows }, (_, i) => 100 + ((i * 7919) % 5000))) },
  { key: 'rate', column: numberColumn(Array.from({ length: rows }, (_, i) => ((i * 31) % 1000) / 10)) },
]
const contents = new Map<string, Dataset>(
  forms.map((form) => {
    const geometry: Dataset['geometry'] =
      form === 'table'
        ? { kind: 'none' }
        : geometryFromShapes(Array.from({ length: rows }, (_, i) => shapes[form](i)))
    return [form, { rowCount: rows, geometry, fields }]
  }),
)
const entries = [...contents].map(([id, dataset]) => entryOf(id, dataset))
const stored = (id: string) => contents.get(id) ?? null

let datasets: Map<string, Prepared>
beforeAll(() => void (datasets = prepareDatasets(entries, stored)))
const prepared = (form: Form): Prepared => datasets.get(form) as Prepared

/** Every row at once must be done before a person gives up waiting, on a machine with other work to do. */
const patience = 150_000

const mapOf = (form: Form, symbology: ReturnType<typeof symbologyOf>): MapSpec =>
  makeMap({
    ...{ id: 'm', name: 'M', projection: adviseEqualArea([5, 45, 9, 49]) },
    layers: [makeLayer({ id: 'l', name: 'L', datasetId: form, symbology })],
  })

/** The first form of data that something takes. */
const formFor = (takes: (one: Prepared) => boolean): Form | undefined =>
  forms.find((form) => takes(prepared(form)))

describe(`with ${rows.toLocaleString('en-GB')} rows`, () => {
  it.each(kindIds)(
    'the kind %s is drawn',
    (kind) => {
      const form = formFor((one) => kindOf(kind).accepts(kindData(one)))
      // Kinds of rasters alone have no rows.
      if (!form) return expect(kindOf(kind).accepts(kindData(prepared('table')))).toBe(false)
      const map = mapOf(form, symbologyOf(kind, kindOf(kind).initial(kindData(prepared(form)))))
      const window = { x: 0, y: 0, width: 200, height: 150 }
      const view = fitWhole(map, datasets, window) ?? { centre: [7, 47], scaleDenominator: 3e6 }
      const fonts = fontBookOf(mapFonts(map))
      const scene = composeMap({ map, view, window, datasets, fonts, toleranceMm: 0.05 })
      expect(scene).toBeDefined()
    },
    patience,
  )

  it.each(stepTypes)(
    'the step %s is carried out, or says why not',
    (type) => {
      const form = formFor((one) => stepKindOf(type).accepts(one))
      if (!form) return expect(stepKindOf(type).accepts(prepared('table'))).toBe(false)
      const others = forms.filter((other) => other !== form).map(prepared)
      const settings = stepKindOf(type).initial(prepared(form), others)
      const step = PrepStep.safeParse({ type, id: 's', on: true, settings })
      if (!step.success) return expect(step.error.issues.length).toBeGreaterThan(0)
      const own = entryOf('own', contents.get(form) as Dataset, [step.data])
      const made = prepareDatasets(
        [{ ...own, source: { ...own.source, contentId: form } }, ...entries],
        stored,
      )
      const [report] = made.get('own')?.reports ?? []
      expect(report.rows).toBeGreaterThan(0)
    },
    patience,
  )

  it.each(partTypeIds)(
    'the part %s is composed',
    (type) => {
      const map = mapOf(
        'areas',
        symbologyOf('choropleth', kindOf('choropleth').initial(kindData(prepared('areas')))),
      )
      let n = 0
      const sheet = newSheet(map, datasets, { name: 'S', newId: () => `p${n++}` })
      const part = newPart(type, 'new', { sheet, map, maps: [map], datasets, pictures: [] })
      const whole = part ? { ...sheet, parts: [...sheet.parts, part] } : sheet
      const scene = composeSheet({
        ...{ sheet: whole, maps: [map], datasets, fonts: fontBookOf(sheetFonts(whole, [map])) },
        ...{ folioName: '', author: '', date: new Date(0) },
      })
      expect(scene.children).toHaveLength(whole.parts.filter(({ hidden }) => !hidden).length)
    },
    patience,
  )

  it('what could be done next, and what it can become, is told at once', () => {
    const began = performance.now()
    for (const form of forms) {
      expect(proposalsFor(prepared(form), datasets)).toBeInstanceOf(Array)
      expect(becomingOf(prepared(form))).toBeInstanceOf(Array)
    }
    expect(performance.now() - began).toBeLessThan(30_000)
  })
})
