import type { DatasetEntry } from '@/core/data/entry'
import { matchKeys } from '@/core/data/join'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { longForm, longToWide } from '@/core/data/steps/spread'
import { extentOf } from '@/core/geo/extent'
import { kindOf } from '@/core/kinds/registry'
import type { BlocksSettings } from '@/core/kinds/blocks/spec'
import type { ChoroplethSettings } from '@/core/kinds/choropleth/spec'
import { presets } from '@/core/kinds/plain/presets'
import { plainLabels } from '@/core/labels/spec'
import { kindData } from '@/core/map/layer-plan'
import { plainGraticule } from '@/core/map/graticule/spec'
import { makeLayer, makeMap, type MapSpec, type MapView } from '@/core/map/spec'
import { adviseEqualArea } from '@/core/projection/adviser'
import { textPart } from '@/core/sheet/new-sheet'
import { plainLegend, type LegendSettings } from '@/core/sheet/parts/legend'
import { PanelSettings } from '@/core/sheet/parts/panel/spec'
import { makePart } from '@/core/sheet/registry'
import { makeSheet, type Sheet } from '@/core/sheet/spec'

/** The entries of the planet in the demo folio, by their ids. */
export const worldIds = { states: 'states', figures: 'world-figures', cities: 'cities' } as const

/** The field that is shown: the last year of it. */
const shown = 'Adults who read books 2025'

/** What blocks are counted by. */
const people = 'Population 2025'

/**
 * What a newcomer does with the planet: the table is made wide and joined by names; names that are nearly the same
 * are matched as they are proposed.
 */
export function joinWorld(
  states: DatasetEntry,
  figures: DatasetEntry,
  contentOf: (entry: DatasetEntry) => Dataset,
): void {
  const long = contentOf(figures)
  const settings = longForm({ dataset: long, made: new Map(Object.entries(figures.fields)) })
  if (!settings) throw new Error('The figures of the planet are not in long form.')
  figures.steps.push({ type: 'long-to-wide', id: 'world-wide', on: true, settings })
  const wide = longToWide.apply(
    settings,
    { datasetId: figures.id, dataset: long, origins: new Map(), made: new Map() },
    () => null,
    { tell: () => undefined, remark: () => undefined, note: () => undefined },
  )
  const [keys, otherKeys] = [fieldOf(contentOf(states), 'name'), fieldOf(wide.dataset, 'state')]
  if (!keys || !otherKeys) throw new Error('The names of the states are missing.')
  states.steps.push({
    type: 'join',
    id: 'world-join',
    on: true,
    settings: {
      datasetId: figures.id,
      keys: [{ key: 'name', otherKey: 'state' }],
      mended: Object.fromEntries(
        matchKeys(keys, otherKeys).nearMisses.map(({ value, otherValue }) => [value, otherValue]),
      ),
      accepts: [],
      several: 'first',
      figures: [],
    },
  })
}

/** A map of the whole planet: what share of adults read. */
export function worldMap(prepared: Map<string, Prepared>): MapSpec {
  const states = prepared.get(worldIds.states)
  if (!states) throw new Error('There are no states.')
  const initial = kindOf('choropleth').initial(kindData(states)) as ChoroplethSettings
  const town = presets.find(({ id }) => id === 'town')
  if (!town) throw new Error('There is no preset for towns.')
  return {
    ...makeMap({
      id: 'world',
      name: 'Readers of the world',
      projection: adviseEqualArea(extentOf([states.dataset.geometry]) ?? [-180, -90, 180, 90]),
      background: '#ffffff',
      layers: [
        makeLayer({
          id: 'world-cities',
          name: 'Cities',
          inLegend: false,
          datasetId: worldIds.cities,
          symbology: { kind: 'plain', settings: { ...town.settings, dotPt: 2 } },
          filter: 'population >= 3000000',
          labels: plainLabels('name', 'points', { rankField: 'population', sizePt: 5.5 }),
        }),
        makeLayer({
          id: 'world-readers',
          name: 'Adults who read books',
          datasetId: worldIds.states,
          symbology: {
            kind: 'choropleth',
            settings: {
              ...initial,
              field: shown,
              per: null,
              method: 'natural-breaks',
              classes: 5,
              rounded: true,
              scheme: 'lagoon',
              missing: { colour: '#b5b5b5', hatched: true, label: 'no figures' },
              outline: { ...initial.outline, widthPt: 0.2, coastWidthPt: 0.25 },
            },
          },
        }),
      ],
    }),
    sea: '#e6eef2',
    graticule: { ...plainGraticule(), everyDeg: 30, labels: null, colour: '#c3d2d9', widthPt: 0.25 },
  } as MapSpec
}

/** The people of the planet, a block for a million of them, with what they read. */
export function worldInBlocks(prepared: Map<string, Prepared>): MapSpec {
  const states = prepared.get(worldIds.states)
  if (!states) throw new Error('There are no states.')
  const initial = kindOf('blocks').initial(kindData(states)) as BlocksSettings
  return makeMap({
    id: 'world-in-blocks',
    name: 'People of the world, in blocks',
    projection: adviseEqualArea(extentOf([states.dataset.geometry]) ?? [-180, -90, 180, 90]),
    background: '#ffffff',
    layers: [
      makeLayer({
        id: 'people-in-blocks',
        name: 'People, in blocks',
        datasetId: worldIds.states,
        symbology: {
          kind: 'blocks',
          settings: {
            ...initial,
            size: people,
            shape: 'squares',
            value: 1_000_000,
            sideM: 420_000,
            region: 'land',
            field: shown,
            per: null,
            method: 'natural-breaks',
            classes: 5,
            rounded: true,
            scheme: 'lagoon',
            missing: { colour: '#b5b5b5', hatched: true, label: 'no figures' },
          },
        },
        labels: plainLabels('code', 'areas', {
          sizePt: 5.5,
          rankField: people,
          area: { form: 'straight', beyond: false, outside: false },
        }),
      }),
    ],
  })
}

type WorldSheet = {
  id: string
  name: string
  mapId: string
  view: MapView
  legend: Partial<LegendSettings>
  title: string
  subtitle: string
  source: string
}

/** A sheet of the planet, on a wide A4. */
const wideSheet = ({ id, name, mapId, view, legend, title, subtitle, source }: WorldSheet): Sheet =>
  makeSheet({
    id,
    name,
    page: { widthMm: 297, heightMm: 210 },
    margins: { top: 12, right: 12, bottom: 10, left: 12 },
    parts: [
      makePart(
        'panel',
        { id: 'main', name: 'Main panel', box: { x: 12, y: 32, width: 273, height: 132 } },
        PanelSettings.parse({ mapId, view, frame: { colour: '#ffffff', widthPt: 0 } }),
      ),
      makePart(
        'legend',
        { id: 'legend', name: 'Legend', box: { x: 96, y: 166, width: 150, height: 24 } },
        plainLegend({
          panelId: 'main',
          form: 'lying',
          labelsAt: 'limits',
          swatchWidthMm: 19,
          swatchHeightMm: 4.5,
          ...legend,
        }),
      ),
      textPart(
        { id: 'title', name: 'Title', box: { x: 12, y: 11, width: 220, height: 12 } },
        { text: title, style: 'title' },
      ),
      textPart(
        { id: 'subtitle', name: 'Subtitle', box: { x: 12, y: 23.5, width: 250, height: 5 } },
        { text: subtitle, style: 'subtitle' },
      ),
      textPart(
        { id: 'source', name: 'Source note', box: { x: 12, y: 194.5, width: 273, height: 4 } },
        { text: source, style: 'note' },
      ),
    ],
  })

/** The sheets of the planet. */
export const worldSheets = (centre: [number, number]): Sheet[] => [
  wideSheet({
    id: 'world-a4',
    name: 'World, A4',
    mapId: 'world',
    view: { centre, scaleDenominator: 156_000_000 },
    legend: { words: { 'world-readers/heading': 'Share of adults who read books, 2025, %' } },
    title: 'A world that reads',
    subtitle: 'Adults of the 220 states of Vintarra who read at least one book in 2025',
    source: 'Source: {{credits}}. Natural breaks, rounded. {{projection}}.',
  }),
  wideSheet({
    id: 'world-in-blocks-a4',
    name: 'World in blocks, A4',
    mapId: 'world-in-blocks',
    view: { centre: [centre[0] - 12, 8], scaleDenominator: 132_000_000 },
    legend: { words: { 'people-in-blocks/heading': 'Share of adults who read books, 2025, %' } },
    title: 'Where the readers of the world live',
    subtitle:
      'Every square is a million people of a state of Vintarra in 2025; its colour is the share of adults who read',
    source:
      'Source: {{credits}}. Squares by largest remainders; small states put together by continents. {{projection}}.',
  }),
]
