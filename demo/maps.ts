import { Classing, type Share } from '@/core/classify/spec'
import { Colouring } from '@/core/colour/colouring'
import type { OwnRamp } from '@/core/colour/ramp'
import type { Prepared } from '@/core/data/prepare'
import type { BivariateSettings } from '@/core/kinds/bivariate/spec'
import type { BlocksSettings } from '@/core/kinds/blocks/spec'
import type { CartogramSettings } from '@/core/kinds/cartogram/spec'
import type { CategorySettings } from '@/core/kinds/categories/spec'
import type { CellCategorySettings } from '@/core/kinds/cell-categories/spec'
import type { CellClassSettings } from '@/core/kinds/cell-classes/spec'
import type { CellSettings } from '@/core/kinds/cells/spec'
import type { ChartSettings } from '@/core/kinds/charts/spec'
import type { ChoroplethSettings } from '@/core/kinds/choropleth/spec'
import type { SymbolSettings } from '@/core/kinds/symbols/spec'
import type { ContrastSettings } from '@/core/kinds/contrast/spec'
import type { DensitySettings } from '@/core/kinds/density/spec'
import type { DotSettings } from '@/core/kinds/dots/spec'
import type { FlowSettings } from '@/core/kinds/flows/spec'
import type { GlowSettings } from '@/core/kinds/glow/spec'
import type { InterpolatedSettings } from '@/core/kinds/interpolated/spec'
import type { IsolineSettings } from '@/core/kinds/isolines'
import { colourBy } from '@/core/kinds/lines'
import type { PotentialSettings } from '@/core/kinds/potential/spec'
import type { RasterSettings } from '@/core/kinds/raster/spec'
import type { ReliefSettings } from '@/core/kinds/relief/spec'
import { readyTints, stopsOf } from '@/core/kinds/relief/tints'
import type { LineSettings } from '@/core/kinds/lines/spec'
import { plainPencil } from '@/core/kinds/pencil'
import { presets } from '@/core/kinds/plain/presets'
import type { PlainSettings } from '@/core/kinds/plain/spec'
import { kindOf, type Symbology } from '@/core/kinds/registry'
import { plainLabels, type LabelSettings } from '@/core/labels/spec'
import { covers } from './lindmere/cover'
import { kindData } from '@/core/map/layer-plan'
import { plainGraticule } from '@/core/map/graticule/spec'
import { makeLayer, makeMap, type Layer, type MapSpec } from '@/core/map/spec'

const water = '#e2eaee'
const noReturn = (hatched: boolean) => ({ colour: '#a9a9a9', hatched, label: 'no return' })

/** Colours of the demo's own. */
export const demoRamps: OwnRamp[] = [
  { id: 'peat', name: 'Peat', colours: ['#f6efe0', '#5b3a1e'], mixedIn: 'oklch' },
]

function presetOf(id: string): PlainSettings {
  const preset = presets.find((one) => one.id === id)
  if (!preset) throw new Error(`There is no preset ${id}.`)
  return preset.settings
}

/** Names of provinces, quiet enough to lie over shades. */
const provinceNames = (sizePt: number, more: Partial<LabelSettings> = {}): LabelSettings =>
  plainLabels('name', 'areas', {
    family: 'source-serif-4',
    sizePt,
    capitals: 'small capitals',
    spacing: 0.12,
    colour: '#33403f',
    halo: { colour: '#ffffff', widthPt: 1.1 },
    area: { form: 'as fits', beyond: true, outside: false },
    ...more,
  })
const waterNames = (sizePt: number): Partial<LabelSettings> => ({
  family: 'source-serif-4',
  italic: true,
  sizePt,
  colour: '#3f6a7d',
  halo: { colour: '#ffffff', widthPt: 0.9 },
  importance: 2,
})

/** Names of the six longest rivers; there is no room for more beside the towns. */
const longRivers = plainLabels('name', 'lines', {
  ...waterNames(5.5),
  text: { by: 'formula', formula: 'order <= 6 ? name : ""' },
})

/** The maps of the demo folio. */
export function demoMaps(prepared: Map<string, Prepared>, projection: MapSpec['projection']): MapSpec[] {
  const layer = (
    id: string,
    name: string,
    datasetId: string,
    {
      kind,
      change,
      more = {},
    }: { kind: Symbology['kind']; change: (initial: never) => unknown; more?: Partial<Layer> },
  ): Layer => {
    const data = prepared.get(datasetId)
    if (!data) throw new Error(`There is no dataset ${datasetId}.`)
    const settings = change(kindOf(kind).initial(kindData(data)) as never)
    return makeLayer({
      id,
      name,
      datasetId,
      symbology: { kind, settings } as Symbology,
      inLegend: kindOf(kind).thematic,
      ...more,
    })
  }
  const choropleth = (
    id: string,
    name: string,
    datasetId: string,
    change: (initial: ChoroplethSettings) => Partial<ChoroplethSettings>,
  ): Layer =>
    layer(id, name, datasetId, {
      kind: 'choropleth',
      change: (initial: ChoroplethSettings) => ({
        ...initial,
        missing: noReturn(true),
        ...change(initial),
      }),
    })
  const plain = (
    id: string,
    name: string,
    datasetId: string,
    {
      fill,
      colour,
      widthPt,
      more = {},
    }: { fill: string | null; colour: string; widthPt: number; more?: Partial<Layer> },
  ): Layer =>
    layer(id, name, datasetId, {
      kind: 'plain',
      change: () => ({
        fill,
        stroke: { colour, widthPt, dashed: false },
        casing: null,
        dotPt: 3,
        dotShape: 'circle',
      }),
      more,
    })
  const map = (
    id: string,
    name: string,
    { n, thematic, top = [], between = [] }: { n: number; thematic: Layer; top?: Layer[]; between?: Layer[] },
  ): MapSpec => {
    const key = (base: string) => (n === 1 ? base : `${base}-${n}`)
    return makeMap({
      id,
      name,
      projection,
      background: water,
      layers: [
        ...top,
        plain(key('province-borders'), 'Province borders', 'provinces', {
          fill: null,
          colour: '#4d5b60',
          widthPt: 0.55,
          more: {
            labels: n === 1 || n > 8 ? null : provinceNames(n === 5 || n === 6 || n === 8 ? 5.5 : 7),
          },
        }),
        plain(key('lakes'), 'Lakes', 'lakes', { fill: water, colour: '#7f9aa6', widthPt: 0.35 }),
        ...between,
        thematic,
        plain(key('sea'), 'Sea', 'sea', { fill: water, colour: water, widthPt: 0 }),
      ],
    })
  }

  const towns = layer('towns', 'Towns', 'towns', {
    kind: 'plain',
    change: () => presetOf('town'),
    more: {
      filter: 'population >= 25000',
      labels: plainLabels('name', 'points', { rankField: 'population' }),
    },
  })
  const loans = map('loans', 'Loans per resident', {
    n: 1,
    thematic: choropleth('loans-per-resident', 'Loans per resident', 'districts', () => ({
      field: 'lib_loans_2025',
      per: 'population',
      scheme: 'meadow',
    })),
    top: [towns],
    between: [
      plain('rivers', 'Rivers', 'rivers', {
        fill: null,
        colour: '#8fb0bf',
        widthPt: 0.5,
        more: {
          labels: longRivers,
        },
      }),
    ],
  })
  const changeField = prepared.get('change')?.dataset.fields.at(-1)?.key ?? ''
  const change = map('change', 'Change in loans', {
    n: 2,
    thematic: choropleth('change-in-loans', 'Change in loans', 'change', ({ numbers }) => ({
      field: changeField,
      method: 'quantile',
      classes: 6,
      midpoint: { at: 'zero', value: 0 },
      scheme: 'ochre and violet',
      numbers: { ...numbers, after: ' %' },
    })),
  })
  const income = map('income', 'Household income', {
    n: 3,
    thematic: choropleth('median-income', 'Median household income', 'districts', ({ numbers }) => ({
      field: 'med_hh_income',
      per: null,
      method: 'natural-breaks',
      classes: 5,
      ramp: demoRamps[0],
      missing: noReturn(false),
      uncertainty: { field: 'med_hh_income_moe', measure: 'margin', over: 12, show: 'hatch' },
      numbers: { ...numbers, divideBy: 1000, decimals: 0 },
    })),
  })
  const both = map('both', 'Loans and income', {
    n: 4,
    thematic: layer('loans-and-income', 'Loans and income', 'districts', {
      kind: 'bivariate',
      change: (initial: BivariateSettings) => ({
        ...initial,
        across: { ...initial.across, field: 'lib_loans_2025', per: 'population' },
        up: {
          ...initial.up,
          field: 'med_hh_income',
          per: null,
          numbers: { ...initial.up.numbers, divideBy: 1000, decimals: 0 },
        },
        missing: noReturn(true),
      }),
    }),
  })
  // Two years with one scheme: a change in either is one in both.
  const years = [2015, 2025]
  const share: Share = {
    id: 'years',
    over: 'all',
    members: years.map((year) => ({
      datasetId: 'districts',
      field: `lib_loans_${year}`,
      per: 'population',
      perCount: 1,
    })),
  }
  const pair = years.map((year, i) =>
    map(`loans-${year}`, `Loans in ${year}`, {
      n: 5 + i,
      thematic: choropleth(`loans-${year}`, `Loans in ${year}`, 'districts', () => ({
        field: `lib_loans_${year}`,
        per: 'population',
        method: 'quantile',
        classes: 5,
        scheme: 'inlet',
        share,
      })),
    }),
  )
  const ground = (n: number, more: Partial<Layer> = {}) =>
    plain(`ground-${n}`, 'Districts', 'districts', { fill: '#f3efe4', colour: '#d9d3c2', widthPt: 0.3, more })
  const amounts = map('amounts', 'Loans in all', {
    n: 7,
    thematic: layer('loans-in-all', 'Loans in all', 'districts', {
      kind: 'symbols',
      change: (initial: SymbolSettings) => ({
        ...initial,
        field: 'lib_loans_2025',
        anchor: { by: 'value', value: 200_000, sizeMm: 7 },
        legend: { form: 'nested', values: [] },
        numbers: { ...initial.numbers, divideBy: 1000 },
        colour: {
          by: 'value',
          field: 'lib_loans_2025',
          per: 'population',
          perCount: 1,
          ...Classing.parse({ method: 'natural-breaks', classes: 4, manualBreaks: [], rounded: true }),
          colouring: Colouring.parse({ scheme: 'ember', reversed: false, trim: [0.15, 1] }),
        },
        opacity: 0.85,
      }),
      more: {
        labels: plainLabels('name', 'areas', {
          sizePt: 6.5,
          rankField: 'lib_loans_2025',
          atLeast: 180_000,
          point: { first: 'right', gapMm: 0.3, within: true, far: false },
        }),
      },
    }),
  })
  amounts.layers.splice(-1, 0, ground(7))
  // Nothing lies over the circles.
  amounts.layers.sort((a, b) => Number(b.id === 'loans-in-all') - Number(a.id === 'loans-in-all'))
  const people = map('people', 'Readers by age', {
    n: 12,
    thematic: layer('readers-by-age', 'Readers by age', 'districts', {
      kind: 'dots',
      change: (initial: DotSettings) => ({
        ...initial,
        fields: [
          { field: 'members_under_18', colour: '#e0a100' },
          { field: 'members_18_to_39', colour: '#c8443c' },
          { field: 'members_40_to_64', colour: '#2f6f9f' },
          { field: 'members_65_and_over', colour: '#4a3f78' },
        ],
        each: 250,
        sizeMm: 0.42,
        // Nobody lives in the water.
        mask: { datasetId: 'lakes', within: false },
      }),
      more: {},
    }),
    top: [
      layer('readers-by-age-towns', 'Towns', 'towns', {
        kind: 'plain',
        change: () => presetOf('town'),
        more: {
          filter: 'population >= 60000',
          labels: plainLabels('name', 'points', { rankField: 'population' }),
        },
      }),
    ],
  })
  people.layers.splice(-1, 0, ground(12))
  const bodies = makeMap({
    id: 'bodies',
    name: 'Loans, by people',
    projection,
    background: '#f7f5ef',
    layers: [
      layer('loans-by-people', 'Loans per resident, by people', 'districts', {
        kind: 'cartogram',
        change: (initial: CartogramSettings) => ({
          ...initial,
          form: 'circles',
          size: 'population',
          fill: 0.85,
          field: 'lib_loans_2025',
          per: 'population',
          scheme: 'meadow',
          missing: noReturn(true),
        }),
        more: {
          labels: plainLabels('name', 'areas', {
            sizePt: 6,
            colour: '#26312f',
            rankField: 'population',
            area: { form: 'straight', beyond: false, outside: false },
          }),
        },
      }),
    ],
  })
  const stretched = makeMap({
    id: 'stretched',
    name: 'Loans, stretched',
    projection,
    background: '#eef3f4',
    stretchedBy: 'loans-stretched',
    layers: [
      layer('stretched-towns', 'Towns', 'towns', {
        kind: 'plain',
        change: () => presetOf('town'),
        more: {
          filter: 'population >= 60000',
          labels: plainLabels('name', 'points', { rankField: 'population' }),
        },
      }),
      plain('stretched-provinces', 'Province borders', 'provinces', {
        fill: null,
        colour: '#3c474c',
        widthPt: 0.7,
      }),
      plain('stretched-rivers', 'Rivers', 'rivers', { fill: null, colour: '#3f86a8', widthPt: 0.9 }),
      layer('loans-stretched', 'Loans per resident, stretched', 'districts', {
        kind: 'cartogram',
        change: (initial: CartogramSettings) => ({
          ...initial,
          form: 'continuous',
          size: 'population',
          fill: 1,
          field: 'lib_loans_2025',
          per: 'population',
          scheme: 'meadow',
          missing: noReturn(true),
        }),
        more: {},
      }),
    ],
    graticule: { ...plainGraticule(), everyDeg: 1, labels: null, colour: '#c3d2d9', widthPt: 0.25 },
  })
  const inBlocks = makeMap({
    id: 'in-blocks',
    name: 'Loans, in blocks',
    projection,
    background: '#ffffff',
    layers: [
      layer('loans-in-blocks', 'Loans per resident, in blocks', 'districts', {
        kind: 'blocks',
        change: (initial: BlocksSettings) => ({
          ...initial,
          size: 'population',
          value: 5000,
          sideM: 10_900,
          region: 'province',
          field: 'lib_loans_2025',
          per: 'population',
          scheme: 'meadow',
          missing: noReturn(true),
        }),
        more: {
          labels: plainLabels('name', 'areas', {
            sizePt: 5.5,
            colour: '#26312f',
            rankField: 'population',
            area: { form: 'straight', beyond: false, outside: false },
          }),
        },
      }),
    ],
  })
  const gathered = map('gathered', 'Density of readers', {
    n: 13,
    thematic: layer('readers-per-km2', 'Readers per km²', 'readers', {
      kind: 'density',
      change: (initial: DensitySettings) => ({
        ...initial,
        bandwidthKm: 14,
        perKm2: 100,
        method: 'geometric',
        classes: 6,
        scheme: 'reed',
        mask: { datasetId: 'districts' },
        lined: true,
        lines: {
          ...initial.lines,
          colour: '#2f4a44',
          widthPt: 0.25,
          numbered: 'all',
          numberPt: 5,
          apartMm: 90,
        },
        peaks: { most: 6, atLeast: 0.06, names: { datasetId: 'towns', field: 'name' }, markMm: 1.2 },
      }),
      more: {
        labels: plainLabels('peak', 'points', {
          text: { by: 'formula', formula: 'concat(place, "\\n", peak)' },
          sizePt: 7,
          rankField: 'value',
        }),
      },
    }),
    // Peaks bear the names of towns.
    top: [],
  })
  gathered.layers.splice(-1, 0, ground(13))
  const inCells = map('in-cells', 'Libraries in hexagons', {
    n: 14,
    thematic: layer('libraries-in-cells', 'Libraries in hexagons', 'libraries', {
      kind: 'cells',
      change: (initial: CellSettings) => ({
        ...initial,
        spacingKm: 20,
        method: 'manual',
        manualBreaks: [2, 3, 5],
        scheme: 'ember',
        outline: { ...initial.outline, widthPt: 0.35 },
      }),
      more: { blend: 'multiply' },
    }),
    between: [],
  })
  inCells.layers.splice(
    -1,
    0,
    layer('relief-under-cells', 'Relief', 'relief', {
      kind: 'raster',
      change: (initial: RasterSettings) => ({ ...initial, look: 'greys', reversed: true }),
      more: { opacity: 0.3, blend: 'multiply' },
    }),
    ground(14),
  )
  const nightLines = makeMap({
    id: 'heights-at-night',
    name: 'Heights, lit',
    projection,
    background: '#1b2730',
    layers: [
      layer('lit-towns', 'Towns', 'towns', {
        kind: 'plain',
        change: () => ({ ...presetOf('town'), fill: '#f4efe2' }),
        more: {
          filter: 'population >= 60000',
          labels: plainLabels('name', 'points', {
            sizePt: 7,
            weight: 600,
            colour: '#f7f3e6',
            halo: { colour: '#24343d', widthPt: 1.4 },
            rankField: 'population',
          }),
        },
      }),
      plain('lit-lakes', 'Lakes', 'lakes', { fill: '#1b2730', colour: '#5d7d8c', widthPt: 0.35 }),
      layer('lit-heights', 'Heights', 'relief', {
        kind: 'isolines',
        change: (initial: IsolineSettings) => ({
          ...initial,
          what: 'Height',
          unit: 'm',
          form: 'shaded',
          interval: 100,
          smoothKm: 6,
          smooth: 2,
          ramp: {
            id: 'night-heights',
            name: 'Night heights',
            colours: ['#2b3f4a', '#7d96a0'],
            mixedIn: 'oklch',
          },
          light: { fromDeg: 315, widestPt: 0.9, lit: '#e9f1ef', shaded: '#0c1318' },
          mask: { datasetId: 'provinces' },
        }),
        more: {},
      }),
    ],
  })
  const reach = map('reach', 'Population within reach', {
    n: 15,
    thematic: layer('population-within-reach', 'Population within reach', 'districts', {
      kind: 'potential',
      change: (initial: PotentialSettings) => ({
        ...initial,
        field: 'population',
        spanKm: 25,
        along: { datasetId: 'roads', speed: null, toleranceM: 200 },
        reach: 'exponential',
        scheme: 'plum',
        classes: 6,
        lined: true,
        lines: { ...initial.lines, colour: '#ffffff', widthPt: 0.3 },
        numbers: { ...initial.numbers, divideBy: 1000 },
      }),
      more: {},
    }),
    top: [],
  })
  const incomes = map('incomes', 'Income, smoothed', {
    n: 16,
    thematic: layer('smooth-income', 'Income', 'by-province', {
      kind: 'interpolated',
      change: (initial: InterpolatedSettings) => ({
        ...initial,
        field: 'med_hh_income_mean',
        form: 'tint',
        scheme: 'ochre',
        lined: true,
        lines: { ...initial.lines, colour: '#5a4a55', widthPt: 0.3, numbered: 'all', apartMm: 70 },
      }),
      more: {},
    }),
    top: [],
  })
  const borders = map('borders', 'Where lending changes', {
    n: 17,
    thematic: layer('lending-borders', 'Where lending changes', 'districts', {
      kind: 'contrast',
      change: (initial: ContrastSettings) => ({
        ...initial,
        field: 'lib_loans_2025',
        per: 'population',
        least: 1,
        widestPt: 5,
      }),
      more: {},
    }),
    top: [],
  })
  borders.layers.splice(
    -1,
    0,
    choropleth('loans-under-borders', 'Loans per resident', 'districts', (initial) => ({
      field: 'lib_loans_2025',
      per: 'population',
      scheme: 'graphite',
      pencil: { ...plainPencil(), denser: true, spacingMm: 0.6 },
      outline: { ...initial.outline, colour: '#9a9a9a', widthPt: 0.15 },
    })),
    ground(17),
  )
  const formats = map('formats', 'Lending formats', {
    n: 8,
    thematic: layer('main-lending-format', 'Main lending format', 'districts', {
      kind: 'categories',
      change: (initial: CategorySettings) => ({
        ...initial,
        field: 'main_lending_format',
        set: 'linen',
        own: {
          Audio: { colour: '#6a8caf', hatchDeg: 45, pattern: 'lines', with: null, label: null, shape: null },
        },
        missing: noReturn(false),
      }),
    }),
    top: [
      layer('libraries', 'Libraries', 'libraries', {
        kind: 'categories',
        change: (initial: CategorySettings) => ({
          ...initial,
          field: 'type',
          set: 'orchard',
          dot: { shape: 'circle', sizeMm: 1.5, varied: true },
          outline: { ...initial.outline, colour: '#ffffff', widthPt: 0.35 },
        }),
      }),
    ],
  })
  const between = map('between', 'Loans between districts', {
    n: 9,
    thematic: layer('loans-between', 'Loans between districts', 'between', {
      kind: 'flows',
      change: (initial: FlowSettings) => ({
        ...initial,
        anchor: { value: 1000, widthMm: 2.6 },
        leastMm: 0.18,
        threshold: 40,
        bend: 0.14,
        opacity: 0.8,
        colour: { by: 'direction', east: '#b5533c', west: '#2b5d73' },
      }),
    }),
  })
  between.layers.splice(
    -1,
    0,
    ground(9, {
      labels: plainLabels('name', 'areas', {
        sizePt: 5.5,
        colour: '#6d6552',
        halo: { colour: '#f3efe4', widthPt: 0.9 },
        rankField: 'population',
        area: { form: 'straight', beyond: false, outside: false },
      }),
    }),
  )
  between.layers.sort((a, b) => Number(b.id === 'loans-between') - Number(a.id === 'loans-between'))
  const bars = ['#c7d3d4', '#8fb0bf', '#4f86a0', '#1f4e6b']
  const decades = map('decades', 'Fifteen years by province', {
    n: 10,
    thematic: layer('fifteen-years', 'Fifteen years', 'by-province', {
      kind: 'charts',
      change: (initial: ChartSettings) => ({
        ...initial,
        form: 'bars',
        parts: [2010, 2015, 2020, 2025].map((year, i) => ({ field: `lib_loans_${year}`, colour: bars[i] })),
        anchor: { value: 1_000_000, sizeMm: 3.8 },
        barWidthMm: 2.6,
        outline: { colour: '#ffffff', widthPt: 0.25 },
        numbers: { ...initial.numbers, divideBy: 1_000_000 },
      }),
      more: {
        labels: plainLabels('province', 'areas', {
          sizePt: 7,
          weight: 600,
          point: { first: 'below', gapMm: 0.5, within: false, far: false },
        }),
      },
    }),
  })
  decades.layers.splice(-1, 0, ground(10))
  decades.layers.sort((a, b) => Number(b.id === 'fifteen-years') - Number(a.id === 'fifteen-years'))
  const routeLength = prepared.get('routes')?.dataset.fields.at(-1)?.key ?? ''
  const rounds = map('rounds', 'Book-van rounds', {
    n: 11,
    thematic: layer('van-rounds', 'Book-van rounds', 'routes', {
      kind: 'lines',
      change: (initial: LineSettings) => ({
        ...initial,
        width: null,
        plainWidthMm: 0.8,
        casing: { colour: '#ffffff', widthMm: 0.3 },
        colour: { ...colourBy(routeLength), classes: 3 },
      }),
      more: {
        labels: plainLabels('route', 'lines', {
          sizePt: 6.5,
          weight: 600,
          italic: false,
          colour: '#33403f',
          line: { side: 'above', curved: true, repeatMm: 90 },
        }),
      },
    }),
  })
  rounds.layers.splice(-1, 0, ground(11))
  const night = '#0f151d'
  const readers = makeMap({
    id: 'readers',
    name: 'Readers at night',
    projection,
    background: night,
    layers: [
      layer('night-towns', 'Towns', 'towns', {
        kind: 'plain',
        change: () => ({ ...presetOf('town'), dotPt: 0 }),
        more: {
          filter: 'population >= 25000',
          labels: plainLabels('name', 'points', {
            sizePt: 6.5,
            weight: 600,
            colour: '#f4f6f8',
            halo: { colour: night, widthPt: 1.8 },
            rankField: 'population',
            point: { first: 'above', gapMm: 1.2, within: false, far: false },
          }),
        },
      }),
      layer('readers', 'Readers', 'readers', {
        kind: 'glow',
        change: (initial: GlowSettings) => ({ ...initial, radiusMm: 1.1, strength: 0.12, field: 'books' }),
        more: { blend: 'screen' },
      }),
      plain('night-provinces', 'Province borders', 'provinces', {
        fill: null,
        colour: '#3a4654',
        widthPt: 0.4,
      }),
      plain('night-lakes', 'Lakes', 'lakes', { fill: night, colour: night, widthPt: 0 }),
      plain('night-land', 'Land', 'districts', { fill: '#1d2630', colour: '#1d2630', widthPt: 0.2 }),
    ],
  })
  const near = { closest: null, farthest: 9_000_000 }
  const orientation = makeMap({
    id: 'orientation',
    name: 'Lindmere',
    projection,
    background: water,
    land: { datasetId: 'provinces', colour: '#f7f3e8' },
    graticule: { ...plainGraticule(), everyDeg: 1 },
    groups: [
      { id: 'places', name: 'Places', visible: true, opacity: 1, blend: 'normal', folded: false },
      { id: 'waters', name: 'Waters', visible: true, opacity: 1, blend: 'normal', folded: false },
    ],
    layers: [
      layer('seats', 'Large towns', 'towns', {
        kind: 'plain',
        change: () => presetOf('seat'),
        more: {
          groupId: 'places',
          filter: 'population >= 100000',
          labels: plainLabels('name', 'points', {
            sizePt: 8,
            sizeBy: { field: 'population', steps: [{ atLeast: 200_000, sizePt: 10 }] },
            weight: 600,
            rankField: 'population',
            importance: 5,
            point: { first: 'right', gapMm: 0.6, within: false, far: true },
          }),
        },
      }),
      layer('other-towns', 'Towns', 'towns', {
        kind: 'plain',
        change: () => presetOf('town'),
        more: {
          groupId: 'places',
          scales: near,
          filter: 'population < 100000',
          labels: plainLabels('name', 'points', { sizePt: 6.5, rankField: 'population', importance: 4 }),
        },
      }),
      plain('provinces-of-lindmere', 'Provinces', 'provinces', {
        fill: null,
        colour: '#8d8577',
        widthPt: 0.5,
        more: {
          labels: provinceNames(8, {
            capitals: 'capitals',
            spacing: 0.22,
            colour: '#8a7a5c',
            weight: 600,
            importance: 5,
            area: { form: 'as fits', beyond: false, outside: false },
            halo: { colour: '#f3efe4', widthPt: 0.8 },
          }),
        },
      }),
      layer('lakes-of-lindmere', 'Lakes', 'lakes', {
        kind: 'plain',
        change: () => presetOf('lake'),
        more: {
          groupId: 'waters',
          scales: near,
          labels: plainLabels('name', 'areas', {
            ...waterNames(6),
            importance: 3,
            halo: { colour: '#f3efe4', widthPt: 0.9 },
          }),
        },
      }),
      layer('rivers-of-lindmere', 'Rivers', 'rivers', {
        kind: 'plain',
        change: () => presetOf('river'),
        more: {
          groupId: 'waters',
          scales: near,
          labels: plainLabels('name', 'lines', {
            ...waterNames(6),
            rankField: 'order',
            halo: { colour: '#f3efe4', widthPt: 0.9 },
            line: { side: 'above', curved: true, repeatMm: 120 },
          }),
        },
      }),
      layer('relief', 'Relief', 'relief', {
        kind: 'relief',
        change: (initial: ReliefSettings) => ({
          ...initial,
          tints: { stops: stopsOf(readyTints.Parchment, 0, 1300), stepped: false },
          mist: { colour: '#fbf8ef', opacity: 0.45, foot: 60, reach: 160 },
        }),
        more: { inLegend: false },
      }),
    ],
  })
  const roads = makeMap({
    id: 'roads',
    name: 'Roads',
    projection,
    background: water,
    land: { datasetId: 'provinces', colour: '#f7f3e8' },
    layers: [
      layer('road-towns', 'Towns', 'towns', {
        kind: 'plain',
        change: () => presetOf('seat'),
        more: {
          scales: { closest: null, farthest: 1_500_000 },
          labels: plainLabels('name', 'points', {
            sizePt: 11,
            sizeBy: { field: 'population', steps: [{ atLeast: 60_000, sizePt: 15 }] },
            weight: 600,
            rankField: 'population',
            importance: 5,
            halo: { colour: '#f7f3e8', widthPt: 2 },
            point: { first: 'right', gapMm: 1, within: false, far: true },
          }),
        },
      }),
      layer('main-roads', 'Main roads', 'roads', {
        kind: 'plain',
        change: (initial: PlainSettings) => ({
          ...initial,
          stroke: { colour: '#f2c14e', widthPt: 3.2, dashed: false },
          casing: { colour: '#8a4b08', widthPt: 0.9 },
        }),
        more: { filter: 'class == "main"' },
      }),
      layer('country-roads', 'Country roads', 'roads', {
        kind: 'plain',
        change: (initial: PlainSettings) => ({
          ...initial,
          stroke: { colour: '#fffdf5', widthPt: 2.6, dashed: false },
          casing: { colour: '#8d7f66', widthPt: 0.8 },
        }),
        more: { filter: 'class != "main"' },
      }),
      layer('road-shadows', 'Shadow of the roads', 'roads', {
        kind: 'plain',
        change: (initial: PlainSettings) => ({
          ...initial,
          stroke: { colour: '#3d3526', widthPt: 9, dashed: false },
          casing: null,
        }),
        more: { opacity: 0.16, blend: 'multiply' },
      }),
      plain('road-lakes', 'Lakes', 'lakes', { fill: water, colour: '#7f9cab', widthPt: 0.5 }),
      plain('road-rivers', 'Rivers', 'rivers', { fill: null, colour: '#9db8c4', widthPt: 1 }),
      plain('road-provinces', 'Provinces', 'provinces', { fill: null, colour: '#b9ad95', widthPt: 0.8 }),
      layer('road-relief', 'Relief', 'relief', {
        kind: 'relief',
        change: (initial: ReliefSettings) => ({
          ...initial,
          tints: { stops: stopsOf(readyTints.Parchment, 0, 1300), stepped: false },
          mist: { colour: '#fffaf0', opacity: 0.5, foot: 40, reach: 120 },
        }),
        more: { inLegend: false },
      }),
    ],
  })
  /** Light and shade alone, over whatever colours lie below. */
  const lightAlone = (id: string): Layer =>
    layer(id, 'Light on the relief', 'relief', {
      kind: 'relief',
      change: (initial: ReliefSettings) => ({
        ...initial,
        tints: null,
        ...(initial.shading && { shading: { ...initial.shading, broad: 0.4 } }),
      }),
      more: { inLegend: false },
    })
  const groundMap = (id: string, name: string, cells: Layer): MapSpec =>
    makeMap({
      id,
      name,
      projection,
      background: water,
      layers: [
        plain(`${id}-lakes`, 'Lakes', 'lakes', { fill: water, colour: '#7f9cab', widthPt: 0.3 }),
        lightAlone(`${id}-light`),
        cells,
        plain(`${id}-coast`, 'Coast', 'provinces', { fill: '#f3efe4', colour: '#7d8a8c', widthPt: 0.4 }),
      ],
    })
  const heights = groundMap(
    'heights-in-classes',
    'Heights in classes',
    layer('height-classes', 'Heights', 'relief', {
      kind: 'cell-classes',
      change: (initial: CellClassSettings) => ({
        ...initial,
        what: 'Height above the sea',
        unit: 'm',
        ...Classing.parse({
          method: 'manual',
          classes: 6,
          manualBreaks: [50, 150, 300, 500, 800],
          rounded: false,
        }),
        ...Colouring.parse({
          scheme: 'reed',
          reversed: false,
          ramp: { id: 'dry ground', name: 'Dry ground', colours: ['#eef0dc', '#8a5a33'], mixedIn: 'oklch' },
        }),
      }),
    }),
  )
  const cover = groundMap(
    'land-cover',
    'Land cover',
    layer('cover-kinds', 'Land cover', 'land-cover', {
      kind: 'cell-categories',
      change: (initial: CellCategorySettings) => ({
        ...initial,
        order: 'ground',
        own: Object.fromEntries(
          Object.entries(covers).map(([value, { name: label }]) => [
            value,
            { colour: null, label, with: null, shown: true },
          ]),
        ),
      }),
    }),
  )
  return [
    loans,
    change,
    income,
    both,
    ...pair,
    amounts,
    people,
    bodies,
    stretched,
    inBlocks,
    gathered,
    inCells,
    nightLines,
    reach,
    incomes,
    borders,
    formats,
    between,
    decades,
    rounds,
    readers,
    orientation,
    roads,
    heights,
    cover,
  ]
}
