import { createHash } from 'node:crypto'
import { proposeMeta, type FieldMeta } from '@/core/data/field-meta'
import { plainSource, type DatasetEntry } from '@/core/data/entry'
import type { Aggregate } from '@/core/data/aggregate'
import type { PrepStep } from '@/core/data/steps/registry'
import { prepareDatasets } from '@/core/data/prepare'
import { extentOf } from '@/core/geo/geometry'
import { fieldOf, formOf, type Dataset } from '@/core/data/dataset'
import { matchKeys } from '@/core/data/join'
import { Folio } from '@/core/folio/schema'
import type { Layer, MapSpec } from '@/core/map/spec'
import { kindOf, type Symbology } from '@/core/kinds/registry'
import { kindData } from '@/core/map/compose-map'
import { adviseEqualArea } from '@/core/projection/adviser'
import { LegendSettings } from '@/core/sheet/parts/legend'
import type { Part, Sheet } from '@/core/sheet/spec'
import { typeStyle } from '@/core/sheet/type-style'
import type { FolioWithData } from '@/formats/folio-file/folio-file'
import { packDataset } from '@/formats/pack/pack'
import { readFile } from '@/formats/registry'
import { toLonLat } from './lindmere/mesh'
import { plainLayout } from '@/core/data/table-layout'

const returnsCredit = 'Lindmere Office of Statistics, library returns 2025'
const surveyCredit = 'boundaries, Lindmere Survey 2024'

const meta = (label: string, unit: string, role: FieldMeta['role']): FieldMeta => ({ label, unit, role })

const returnFields: Record<string, FieldMeta> = {
  area_km2: meta('Area', 'km²', 'total'),
  lib_members: meta('Library members', 'members', 'total'),
  lib_spending: meta('Library spending', 'marks', 'total'),
  med_hh_income: meta('Median household income', 'marks', 'index'),
  med_hh_income_moe: meta('Median household income, margin of error', 'marks', 'index'),
  main_lending_format: meta('Main lending format', '', 'category'),
  book_van_stops: meta('Book-van stops', 'stops', 'total'),
}

const deriveDefaults = { label: '', unit: '', formula: '', field: '', other: '', perCount: 1, ranges: [{ under: null, name: 'all' }] }

/** The demo folio, made from the files of Lindmere as a person would make it. */
export async function demoFolio(files: Record<string, string | Uint8Array>): Promise<FolioWithData> {
  const contents = new Map<string, Dataset>()
  const entry = async (id: string, name: string, file: string, credit: string, fields: Record<string, FieldMeta> = {}): Promise<DatasetEntry> => {
    const { format, datasets } = await readFile(typeof files[file] === 'string' ? Buffer.from(files[file]) : files[file], file)
    const { dataset } = datasets[0]
    const contentId = createHash('sha256').update(packDataset(dataset)).digest('hex').slice(0, 32)
    contents.set(contentId, dataset)
    return {
      id,
      name,
      geometry: formOf(dataset),
      source: { ...plainSource(contentId, file, format), guessed: datasets[0].guessed, notes: datasets[0].notes },
      steps: [],
      fields: Object.fromEntries(dataset.fields.map(({ key, column }) => [key, fields[key] ?? proposeMeta(key, column)])),
      table: plainLayout(),
      credit,
      licence: 'for the demo',
      dated: '2025',
      link: '',
    }
  }
  const districts = await entry('districts', 'Districts', 'districts.topojson', surveyCredit)
  const returns = await entry('returns', 'District returns', 'district-returns.csv', returnsCredit, returnFields)
  const datasets = [
    districts,
    returns,
    await entry('provinces', 'Provinces', 'provinces.geojson', surveyCredit),
    await entry('towns', 'Towns', 'towns.geojson', surveyCredit),
    await entry('lakes', 'Lakes', 'lakes.geojson', surveyCredit),
    await entry('rivers', 'Rivers', 'rivers.geojson', surveyCredit),
    await entry('sea', 'Sea', 'sea.geojson', surveyCredit),
    await entry('libraries', 'Libraries', 'libraries.csv', returnsCredit),
    await entry('relief', 'Relief', 'relief.tif', surveyCredit),
    await entry('routes', 'Book-van routes', 'book-van-routes.geojson', returnsCredit),
    await entry('by-province', 'Returns by province', 'districts.topojson', surveyCredit),
    await entry('change', 'Districts since 2015', 'districts.topojson', surveyCredit),
  ]
  const joinReturns: PrepStep = { type: 'join', id: 'join-returns', on: true, settings: { datasetId: 'returns', keys: [{ key: 'code', otherKey: 'code' }], mended: mendNearMisses(contents, districts, returns), several: 'first', figures: [] } }
  districts.steps.push(joinReturns)
  const sum = (field: string): Aggregate => ({ field, op: 'sum', weight: null })
  datasets.find((d) => d.id === 'routes')?.steps.push({ type: 'merge', id: 'merge-routes', on: true, settings: { by: ['route'], figures: [{ field: 'segment', op: 'count', weight: null }] } }, { type: 'derive', id: 'length', on: true, settings: { ...deriveDefaults, recipe: 'length', label: 'Length', unit: 'km' } })
  datasets.find((d) => d.id === 'by-province')?.steps.push(
    joinReturns,
    { type: 'count-points', id: 'count-libraries', on: true, settings: { datasetId: 'libraries', label: 'Libraries', figures: [sum('visits')] } },
    { type: 'merge', id: 'merge-provinces', on: true, settings: { by: ['province'], figures: ['population', 'lib_loans_2025', 'lib_members', 'libraries', 'visits_sum'].map(sum) } },
    { type: 'derive', id: 'rate', on: true, settings: { ...deriveDefaults, recipe: 'rate', label: 'Library visits per resident', unit: 'visits per resident', field: 'visits_sum', other: 'population' } },
  )
  datasets.find((d) => d.id === 'change')?.steps.push({ ...joinReturns, id: 'join-change' }, { type: 'derive', id: 'change', on: true, settings: { ...deriveDefaults, recipe: 'percent change', label: 'Change in loans, 2015 to 2025', unit: '%', field: 'lib_loans_2025', other: 'lib_loans_2015' } })
  const prepared = prepareDatasets(datasets, (id) => contents.get(id) ?? null)
  const geometry = prepared.get('districts')?.dataset.geometry
  const extent = geometry && extentOf([geometry])
  if (!extent) throw new Error('The districts have no extent.')

  const layer = (id: string, name: string, datasetId: string, symbology: (initial: Symbology) => Symbology, kind: Symbology['kind'], more: Partial<Layer> = {}): Layer => {
    const data = prepared.get(datasetId)
    if (!data) throw new Error(`There is no dataset ${datasetId}.`)
    const initial = { kind, settings: kindOf(kind).initial(kindData(data)) } as Symbology
    return { id, name, datasetId, symbology: symbology(initial), remembered: {}, visible: true, opacity: 1, blend: 'normal', inLegend: kindOf(kind).thematic, ...more }
  }
  const plain = (fill: string | null, colour: string, widthPt: number) => (): Symbology => ({ kind: 'plain', settings: { fill, stroke: { colour, widthPt, dashed: false }, dotPt: 3, label: null } })
  const withChange = prepared.get('change')
  const changeField = withChange?.dataset.fields.at(-1)?.key ?? ''
  const orientation = () => [
    layer('province-borders-2', 'Province borders', 'provinces', plain(null, '#4d5b60', 0.55), 'plain'),
    layer('lakes-2', 'Lakes', 'lakes', plain('#e2eaee', '#7f9aa6', 0.35), 'plain'),
  ]
  const change: MapSpec = {
    id: 'change',
    name: 'Change in loans',
    projection: adviseEqualArea(extent),
    background: '#e2eaee',
    layers: [
      ...orientation(),
      layer('change-in-loans', 'Change in loans', 'change', (initial) => (initial.kind === 'choropleth' ? { ...initial, settings: { ...initial.settings, field: changeField, method: 'quantile', classes: 6, midpoint: { at: 'zero', value: 0 }, scheme: 'ochre and violet', missing: { colour: '#a9a9a9', hatched: true, label: 'no return' }, numbers: { ...initial.settings.numbers, after: ' %' } } } : initial), 'choropleth'),
      layer('sea-2', 'Sea', 'sea', plain('#e2eaee', '#e2eaee', 0), 'plain'),
    ],
  }
  const income: MapSpec = {
    id: 'income',
    name: 'Household income',
    projection: adviseEqualArea(extent),
    background: '#e2eaee',
    layers: [
      layer('province-borders-3', 'Province borders', 'provinces', plain(null, '#4d5b60', 0.55), 'plain'),
      layer('lakes-3', 'Lakes', 'lakes', plain('#e2eaee', '#7f9aa6', 0.35), 'plain'),
      layer('median-income', 'Median household income', 'districts', (initial) => (initial.kind === 'choropleth' ? { ...initial, settings: { ...initial.settings, field: 'med_hh_income', per: null, method: 'natural-breaks', classes: 5, scheme: 'ochre', missing: { colour: '#a9a9a9', hatched: false, label: 'no return' }, uncertainty: { field: 'med_hh_income_moe', measure: 'margin', over: 12, show: 'hatch' }, numbers: { ...initial.settings.numbers, divideBy: 1000, decimals: 0 } } } : initial), 'choropleth'),
      layer('sea-3', 'Sea', 'sea', plain('#e2eaee', '#e2eaee', 0), 'plain'),
    ],
  }
  const loans: MapSpec = {
    id: 'loans',
    name: 'Loans per resident',
    projection: adviseEqualArea(extent),
    background: '#e2eaee',
    layers: [
      layer('towns', 'Towns', 'towns', () => ({ kind: 'plain', settings: { fill: '#1b1b1b', stroke: { colour: '#ffffff', widthPt: 0.4, dashed: false }, dotPt: 2.6, label: { field: 'name', family: 'source-sans-3', sizePt: 7, rankField: 'population', atLeast: 25_000 } } }), 'plain'),
      layer('province-borders', 'Province borders', 'provinces', plain(null, '#4d5b60', 0.55), 'plain'),
      layer('lakes', 'Lakes', 'lakes', plain('#e2eaee', '#7f9aa6', 0.35), 'plain'),
      layer('rivers', 'Rivers', 'rivers', plain(null, '#8fb0bf', 0.4), 'plain', { visible: false }),
      layer('loans-per-resident', 'Loans per resident', 'districts', (initial) => (initial.kind === 'choropleth' ? { ...initial, settings: { ...initial.settings, field: 'lib_loans_2025', per: 'population', scheme: 'meadow', missing: { colour: '#a9a9a9', hatched: true, label: 'no return' } } } : initial), 'choropleth'),
      layer('sea', 'Sea', 'sea', plain('#e2eaee', '#e2eaee', 0), 'plain'),
    ],
  }
  const folio = Folio.parse({ format: 'keen-folio', version: 1, id: 'demo', name: 'A country that reads', author: 'Keen Plot demo', datasets, maps: [loans, change, income], ramps: [], sheets: [loansSheet(), changeSheet(), incomeSheet()] } satisfies Folio)
  return { folio, contents }
}

/** The codes that differ only in case, blanks or zeros are matched by hand, as the join report proposes. */
function mendNearMisses(contents: Map<string, Dataset>, left: DatasetEntry, right: DatasetEntry): Record<string, string> {
  const keys = [left, right].map((entry) => {
    const dataset = contents.get(entry.source.contentId)
    return dataset ? fieldOf(dataset, 'code') : null
  })
  if (!keys[0] || !keys[1]) throw new Error('The codes are missing.')
  return Object.fromEntries(matchKeys(keys[0], keys[1]).nearMisses.map(({ value, otherValue }) => [value, otherValue]))
}

type Page = { id: string; name: string; mapId: string; legendKey: string; legendTitle: string; subtitle: string; method: string }

const loansSheet = (): Sheet => page({ id: 'loans-a4', name: 'Loans, A4', mapId: 'loans', legendKey: 'loans-per-resident', legendTitle: 'Loans per resident, 2025', subtitle: 'Library loans per resident in the 164 districts of Lindmere, 2025', method: 'Natural breaks, rounded' })
const changeSheet = (): Sheet => page({ id: 'change-a4', name: 'Change, A4', mapId: 'change', legendKey: 'change-in-loans', legendTitle: 'Loans in 2025, against 2015', subtitle: 'Where the libraries of Lindmere lend more than ten years ago, and where less', method: 'As many districts in each class on either side of no change' })

const incomeSheet = (): Sheet => page({ id: 'income-a4', name: 'Income, A4', mapId: 'income', legendKey: 'median-income', legendTitle: 'Median income, thousand marks', subtitle: 'Median household income in 2025; lines where the survey is too small to be relied on', method: 'Natural breaks, rounded; margins of error at the level of 90 %' })

/** One page of the folio: a map over the full width, the outer isles in an inset, legend, scale bar and notes. */
function page({ id, name, mapId, legendKey, legendTitle, subtitle, method }: Page): Sheet {
  const part = <T extends Part['type']>(type: T, id: string, name: string, box: Part['box'], settings: Extract<Part, { type: T }>['settings']): Part => ({ id, type, name, box, hidden: false, locked: false, settings }) as Part
  const text = (id: string, name: string, box: Part['box'], words: string, style: ReturnType<typeof typeStyle>, align: 'left' | 'right' = 'left') => part('text', id, name, box, { text: words, style, align, leading: 1.25 })
  const centre = (x: number, y: number): [number, number] => toLonLat([x, y])
  return {
    id,
    name,
    page: { widthMm: 297, heightMm: 210 },
    margins: { top: 12, right: 12, bottom: 10, left: 12 },
    background: '#ffffff',
    parts: [
      part('panel', 'main', 'Main panel', { x: 12, y: 33, width: 273, height: 159 }, { mapId, view: { centre: centre(-88, 74), scaleDenominator: 3_200_000 }, frame: { colour: '#8a979c', widthPt: 0 } }),
      part('panel', 'outer', 'Outer isles', { x: 17, y: 147, width: 46, height: 40 }, { mapId, view: { centre: centre(-250, -288), scaleDenominator: 3_200_000 }, frame: { colour: '#8a979c', widthPt: 0.5 } }),
      part('legend', 'legend', 'Legend', { x: 17, y: 39, width: 56, height: 44 }, LegendSettings.parse({
        panelId: 'main',
        words: { [`${legendKey}/heading`]: legendTitle },
        hiddenLines: [],
        lowFirst: true,
        heading: typeStyle('source-sans-3', 9.5, { weight: 600 }),
        label: typeStyle('source-sans-3', 8.5),
        swatchWidthMm: 9,
        swatchHeightMm: 5,
        gapMm: 0,
        background: null,
        paddingMm: 0,
      })),
      part('scale-bar', 'bar', 'Scale bar', { x: 225, y: 181, width: 44, height: 6 }, { panelId: 'main', units: 'metric', look: 'line', style: typeStyle('source-sans-3', 7) }),
      text('title', 'Title', { x: 12, y: 11, width: 200, height: 12 }, 'A country that reads', typeStyle('source-serif-4', 25, { weight: 600 })),
      text('subtitle', 'Subtitle', { x: 12, y: 23.5, width: 220, height: 5 }, subtitle, typeStyle('source-sans-3', 10.5, { colour: '#4a4a4a' })),
      text('inset-name', 'Inset name', { x: 19, y: 182, width: 42, height: 4 }, 'Outer isles, same scale', typeStyle('source-sans-3', 7, { italic: true })),
      text('source', 'Source note', { x: 12, y: 194.5, width: 225, height: 4 }, `Source: {{credits}}. ${method}. {{projection}}.`, typeStyle('source-sans-3', 7, { colour: '#4a4a4a' })),
      text('drawn', 'Date', { x: 225, y: 194.5, width: 60, height: 4 }, '{{scale}}', typeStyle('source-sans-3', 7, { colour: '#4a4a4a' }), 'right'),
    ],
  }
}
