import { createHash } from 'node:crypto'
import { proposeMeta, type FieldMeta } from '@/core/data/field-meta'
import { plainSource, type DatasetEntry } from '@/core/data/entry'
import type { Aggregate } from '@/core/data/aggregate'
import type { PrepStep } from '@/core/data/steps/registry'
import { prepareDatasets } from '@/core/data/prepare'
import { extentOf } from '@/core/geo/extent'
import { fieldOf, formOf, type Dataset } from '@/core/data/dataset'
import { matchKeys } from '@/core/data/join'
import { Folio } from '@/core/folio/schema'
import { emptyFolio } from '@/core/folio/empty-folio'
import { adviseEqualArea } from '@/core/projection/adviser'
import type { FolioWithData } from '@/formats/folio-file/folio-file'
import { packDataset } from '@/formats/pack/pack'
import { readFile } from '@/formats/registry'
import { heldOnly } from '@/core/data/raster'
import { plainLayout } from '@/core/data/table-layout'
import { firstTypeStyles } from '@/core/sheet/type-styles'
import { demoMaps, demoRamps } from './maps'
import { composedSheets } from './compositions'
import { demoSheets } from './pages'
import { joinWorld, worldIds, worldInBlocks, worldMap, worldSheets } from './planet/world'

const returnsCredit = 'Lindmere Office of Statistics, library returns 2025'
const planetCredit = 'Vintarra Institute of Reading, 2025'
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
  members_under_18: meta('Members under 18', 'members', 'total'),
  members_18_to_39: meta('Members of 18 to 39', 'members', 'total'),
  members_40_to_64: meta('Members of 40 to 64', 'members', 'total'),
  members_65_and_over: meta('Members of 65 and over', 'members', 'total'),
}

const deriveDefaults = {
  label: '',
  unit: '',
  formula: '',
  field: '',
  other: '',
  perCount: 1,
  ranges: [{ under: null, name: 'all' }],
}

/** The demo folio, made from the files of Lindmere as a person would make it. */
export async function demoFolio(files: Record<string, string | Uint8Array>): Promise<FolioWithData> {
  const contents = new Map<string, Dataset>()
  const entry = async (
    id: string,
    name: string,
    { file, credit, fields = {} }: { file: string; credit: string; fields?: Record<string, FieldMeta> },
  ): Promise<DatasetEntry> => {
    const { format, datasets } = await readFile(
      typeof files[file] === 'string' ? Buffer.from(files[file]) : files[file],
      file,
    )
    const { raster, ...rest } = datasets[0].dataset
    // Cells finer than those held are not kept with the code: they are made on demand.
    const dataset: Dataset = raster ? { ...rest, raster: heldOnly(raster) } : rest
    const contentId = createHash('sha256').update(packDataset(dataset)).digest('hex').slice(0, 32)
    contents.set(contentId, dataset)
    return {
      id,
      name,
      geometry: formOf(dataset),
      source: {
        ...plainSource(contentId, file, format),
        guessed: datasets[0].guessed,
        notes: datasets[0].notes,
        remarks: datasets[0].remarks ?? [],
        ...(formOf(dataset) === 'areas' ? { borders: 'checked' as const } : {}),
      },
      steps: [],
      fields: Object.fromEntries(
        dataset.fields.map(({ key, column }) => [key, fields[key] ?? proposeMeta(key, column)]),
      ),
      table: plainLayout(),
      credit,
      licence: 'for the demo',
      dated: '2025',
      link: '',
    }
  }
  const districts = await entry('districts', 'Districts', {
    file: 'districts.topojson',
    credit: surveyCredit,
  })
  const returns = await entry('returns', 'District returns', {
    file: 'district-returns.csv',
    credit: returnsCredit,
    fields: returnFields,
  })
  const datasets = [
    districts,
    returns,
    await entry('provinces', 'Provinces', { file: 'provinces.geojson', credit: surveyCredit }),
    await entry('towns', 'Towns', { file: 'towns.geojson', credit: surveyCredit }),
    await entry('lakes', 'Lakes', { file: 'lakes.geojson', credit: surveyCredit }),
    await entry('rivers', 'Rivers', { file: 'rivers.geojson', credit: surveyCredit }),
    await entry('roads', 'Roads', { file: 'roads.geojson', credit: surveyCredit }),
    await entry('sea', 'Sea', { file: 'sea.geojson', credit: surveyCredit }),
    await entry('libraries', 'Libraries', { file: 'libraries.csv', credit: returnsCredit }),
    await entry('relief', 'Relief', { file: 'relief.tif', credit: surveyCredit }),
    await entry('land-cover', 'Land cover', { file: 'land-cover.tif', credit: surveyCredit }),
    await entry('routes', 'Book-van routes', { file: 'book-van-routes.geojson', credit: returnsCredit }),
    await entry('readers', 'Readers', { file: 'readers.csv', credit: returnsCredit }),
    await entry('between', 'Loans between districts', {
      file: 'loans-between-districts.csv',
      credit: returnsCredit,
    }),
    await entry('subjects', 'Loans by subject', {
      file: 'subject-tree.csv',
      credit: returnsCredit,
      fields: {
        subject_group: meta('Subject group', '', 'category'),
        subject: meta('Subject', '', 'name'),
        loans: meta('Loans', 'loans', 'total'),
        titles: meta('Titles held', 'titles', 'total'),
      },
    }),
    await entry('by-province', 'Returns by province', { file: 'districts.topojson', credit: surveyCredit }),
    await entry('change', 'Districts since 2015', { file: 'districts.topojson', credit: surveyCredit }),
  ]
  const states = await entry(worldIds.states, 'States of Vintarra', {
    file: 'vintarra-states.topojson',
    credit: planetCredit,
  })
  const figures = await entry(worldIds.figures, 'World figures', {
    file: 'vintarra-statistics.csv',
    credit: planetCredit,
  })
  datasets.push(
    states,
    figures,
    await entry(worldIds.cities, 'Cities of Vintarra', { file: 'vintarra-cities.csv', credit: planetCredit }),
  )
  joinWorld(states, figures, ({ source }) => {
    const dataset = contents.get(source.contentId)
    if (!dataset) throw new Error('The rows of the planet are missing.')
    return dataset
  })
  const joinReturns: PrepStep = {
    type: 'join',
    id: 'join-returns',
    on: true,
    settings: {
      datasetId: 'returns',
      keys: [{ key: 'code', otherKey: 'code' }],
      mended: mendNearMisses(contents, districts, returns),
      accepts: [],
      several: 'first',
      figures: [],
    },
  }
  districts.steps.push(joinReturns)
  const sum = (field: string): Aggregate => ({ field, op: 'sum', weight: null })
  datasets
    .find((d) => d.id === 'routes')
    ?.steps.push(
      {
        type: 'merge',
        id: 'merge-routes',
        on: true,
        settings: { by: ['route'], figures: [{ field: 'segment', op: 'count', weight: null }] },
      },
      {
        type: 'derive',
        id: 'length',
        on: true,
        settings: { ...deriveDefaults, recipe: 'length', label: 'Length', unit: 'km' },
      },
    )
  datasets
    .find((d) => d.id === 'by-province')
    ?.steps.push(
      joinReturns,
      {
        type: 'count-points',
        id: 'count-libraries',
        on: true,
        settings: { datasetId: 'libraries', label: 'Libraries', figures: [sum('visits')] },
      },
      {
        type: 'merge',
        id: 'merge-provinces',
        on: true,
        settings: {
          by: ['province'],
          figures: [
            ...[
              'population',
              'lib_loans_2010',
              'lib_loans_2015',
              'lib_loans_2020',
              'lib_loans_2025',
              'lib_members',
              'libraries',
              'visits_sum',
            ].map(sum),
            { field: 'med_hh_income', op: 'mean', weight: 'households' },
          ],
        },
      },
      {
        type: 'derive',
        id: 'rate',
        on: true,
        settings: {
          ...deriveDefaults,
          recipe: 'rate',
          label: 'Library visits per resident',
          unit: 'visits per resident',
          field: 'visits_sum',
          other: 'population',
        },
      },
    )
  // Of all flows, those out of one district in the city.
  datasets
    .find((d) => d.id === 'between')
    ?.steps.push({
      type: 'filter',
      id: 'filter-between',
      on: true,
      settings: {
        by: 'conditions',
        match: 'all',
        conditions: [{ field: 'origin', test: 'is', value: 'LM059', upTo: '' }],
        formula: '',
        datasetId: '',
        ring: [],
      },
    })
  datasets
    .find((d) => d.id === 'change')
    ?.steps.push(
      { ...joinReturns, id: 'join-change' },
      {
        type: 'derive',
        id: 'change',
        on: true,
        settings: {
          ...deriveDefaults,
          recipe: 'percent change',
          label: 'Change in loans, 2015 to 2025',
          unit: '%',
          field: 'lib_loans_2025',
          other: 'lib_loans_2015',
        },
      },
    )
  const prepared = prepareDatasets(datasets, (id) => contents.get(id) ?? null)
  const geometry = prepared.get('districts')?.dataset.geometry
  const extent = geometry && extentOf([geometry])
  if (!extent) throw new Error('The districts have no extent.')

  const world = worldMap(prepared)
  const maps = [...demoMaps(prepared, adviseEqualArea(extent)), world, worldInBlocks(prepared)]
  const folio = Folio.parse({
    ...emptyFolio('demo', 'A country that reads'),
    author: 'Keen Plot demo',
    datasets,
    maps,
    ramps: demoRamps,
    typeStyles: firstTypeStyles().map((named) =>
      named.id === 'title' ? { ...named, style: { ...named.style, sizePt: 25 } } : named,
    ),
    sheets: [...demoSheets(), ...composedSheets(maps, prepared), ...worldSheets(world.projection.centre)],
  } satisfies Folio)
  return { folio, contents }
}

/** The codes that differ only in case, blanks or zeros are matched by hand, as the join report proposes. */
function mendNearMisses(
  contents: Map<string, Dataset>,
  left: DatasetEntry,
  right: DatasetEntry,
): Record<string, string> {
  const keys = [left, right].map((entry) => {
    const dataset = contents.get(entry.source.contentId)
    return dataset ? fieldOf(dataset, 'code') : null
  })
  if (!keys[0] || !keys[1]) throw new Error('The codes are missing.')
  return Object.fromEntries(
    matchKeys(keys[0], keys[1]).nearMisses.map(({ value, otherValue }) => [value, otherValue]),
  )
}
