import type { MapView } from '@/core/map/spec'
import { plainLegend, type LegendSettings } from '@/core/sheet/parts/legend'
import { PanelSettings } from '@/core/sheet/parts/panel/spec'
import { plainText } from '@/core/sheet/parts/text'
import { plainScaleBar } from '@/core/sheet/parts/scale-bar'
import { makePart, type PartTypeId, type SettingsOf } from '@/core/sheet/registry'
import { makeSheet, type Part, type Sheet } from '@/core/sheet/spec'
import { typeStyle } from '@/core/sheet/type-style'
import { inStyle } from '@/core/sheet/type-styles'
import { toLonLat } from './lindmere/mesh'

type Page = {
  id: string
  name: string
  mapId: string
  legendKey: string
  legendTitle?: string
  title?: string
  subtitle: string
  method: string
  legend?: Partial<LegendSettings>
  /** The colour of what is written on the map, where its ground is dark. */
  ink?: string
  /** A part of the country instead of all of it with its outer isles. */
  part?: {
    x: number
    y: number
    scale: number
  }
  /** Distances on it mean nothing. */
  unscaled?: boolean
  /** What else stands on it. */
  more?: Part[]
}

const small = (colour?: string) => (colour ? typeStyle('source-sans-3', 7, { colour }) : inStyle('note'))
const part = <T extends PartTypeId>(
  type: T,
  id: string,
  { name, box, settings }: { name: string; box: Part['box']; settings: SettingsOf<T> },
): Part => makePart(type, { id, name, box }, settings)
/** A panel that shows a map in a view, within a line or without one. */
const panel = (
  id: string,
  {
    name,
    box,
    mapId,
    view,
    line = 0,
  }: { name: string; box: Part['box']; mapId: string; view: MapView; line?: number },
): Part =>
  makePart(
    'panel',
    { id, name, box },
    PanelSettings.parse({ mapId, view, frame: { colour: '#8a979c', widthPt: line } }),
  )
const text = (
  id: string,
  name: string,
  {
    box,
    words,
    style,
    align = 'left',
  }: { box: Part['box']; words: string; style: ReturnType<typeof typeStyle>; align?: 'left' | 'right' },
): Part => part('text', id, { name, box, settings: plainText({ text: words, style, align }) })
const centre = (x: number, y: number): [number, number] => toLonLat([x, y])
const a4 = {
  page: { widthMm: 297, heightMm: 210 },
  margins: { top: 12, right: 12, bottom: 10, left: 12 },
  background: '#ffffff',
}
const legendOf = (box: Part['box'], more: Partial<LegendSettings>): Part =>
  part('legend', 'legend', { name: 'Legend', box, settings: plainLegend({ panelId: 'main', ...more }) })

/** All loans of a year as a ring; both years on one scale. */
const loansInAll = (
  id: string,
  name: string,
  { field, colour, x }: { field: string; colour: string; x: number },
): Part =>
  part('amount', id, {
    name,
    box: { x, y: 96, width: 28, height: 34 },
    settings: {
      datasetId: 'districts',
      parts: [{ field, colour }],
      of: null,
      form: 'ring',
      place: null,
      perMm2: 130_000,
      hole: 0.7,
      widthMm: 8,
      lineColour: '#ffffff',
      lineMm: 0,
      title: name,
      values: true,
      label: inStyle('note'),
    },
  })

/** The sheets of the demo folio. */
export const demoSheets = (): Sheet[] => [
  page({
    id: 'loans-a4',
    name: 'Loans, A4',
    mapId: 'loans',
    legendKey: 'loans-per-resident',
    legendTitle: 'Loans per resident, 2025',
    subtitle: 'Library loans per resident in the 164 districts of Lindmere, 2025',
    method: 'Natural breaks, rounded',
  }),
  page({
    id: 'change-a4',
    name: 'Change, A4',
    mapId: 'change',
    legendKey: 'change-in-loans',
    legendTitle: 'Loans in 2025, against 2015',
    subtitle: 'Where the libraries of Lindmere lend more than ten years ago, and where less',
    method: 'As many districts in each class on either side of no change',
    legend: { form: 'histogram', swatchHeightMm: 4 },
    more: [
      loansInAll('loans-then', 'Loans in 2015', { field: 'lib_loans_2015', colour: '#b35806', x: 20 }),
      loansInAll('loans-now', 'Loans in 2025', { field: 'lib_loans_2025', colour: '#542788', x: 52 }),
    ],
  }),
  page({
    id: 'income-a4',
    name: 'Income, A4',
    mapId: 'income',
    legendKey: 'median-income',
    legendTitle: 'Median income, thousand marks',
    subtitle: 'Median household income in 2025; lines where the survey is too small to be relied on',
    method: 'Natural breaks, rounded; margins of error at the level of 90 %',
  }),
  page({
    id: 'both-a4',
    name: 'Loans and income, A4',
    mapId: 'both',
    legendKey: 'loans-and-income',
    title: 'Who lends, and who earns',
    subtitle: 'Library loans per resident and median household income in the districts of Lindmere, 2025',
    method: 'Three classes of as many districts for either figure',
    legend: {
      words: { 'loans-and-income/across': 'more loans per resident', 'loans-and-income/up': 'more income' },
    },
  }),
  years(),
  night(),
  page({
    id: 'formats-a4',
    name: 'Formats, A4',
    mapId: 'formats',
    legendKey: 'main-lending-format',
    title: 'What is borrowed',
    legendTitle: 'Most lent in the district',
    subtitle: 'The format that is lent most in each district of Lindmere, and the libraries by type, 2025',
    method: 'As the districts say',
    legend: {
      swatchHeightMm: 4,
      words: { 'main-lending-format/heading': 'Most lent in the district', 'libraries/heading': 'Libraries' },
    },
  }),
  page({
    id: 'between-a4',
    name: 'Between, A4',
    mapId: 'between',
    legendKey: 'loans-between',
    title: 'Books on the move',
    legendTitle: 'Loans to another district',
    subtitle: 'Where readers live who borrow in Standistow Sands, 2025; flows of 40 loans and more',
    method: 'Widths in proportion',
    legend: {
      background: '#ffffff',
      paddingMm: 3,
      words: { 'loans-between/heading': 'Loans to another district' },
    },
    part: { x: 34, y: 62, scale: 1_100_000 },
  }),
  page({
    id: 'decades-a4',
    name: 'Fifteen years, A4',
    mapId: 'decades',
    legendKey: 'fifteen-years',
    title: 'Fifteen years of lending',
    legendTitle: 'Loans, million',
    subtitle: 'Library loans in the provinces of Lindmere in 2010, 2015, 2020 and 2025',
    method: 'Heights in proportion',
    legend: {
      swatchHeightMm: 4,
      words: {
        'fifteen-years/heading': 'Loans, million',
        'fifteen-years/items-heading': 'Year',
        ...Object.fromEntries(
          [2010, 2015, 2020, 2025].map((year) => [`fifteen-years/part-lib_loans_${year}`, String(year)]),
        ),
      },
    },
  }),
  page({
    id: 'rounds-a4',
    name: 'Rounds, A4',
    mapId: 'rounds',
    legendKey: 'van-rounds',
    title: 'On the road with books',
    legendTitle: 'Length of a round, km',
    subtitle: 'The rounds of the book vans of Lindmere, by their length',
    method: 'Natural breaks, rounded',
    legend: { swatchHeightMm: 4 },
  }),
  orientation(),
  ground(),
  page({
    id: 'amounts-a4',
    name: 'Loans in all, A4',
    mapId: 'amounts',
    legendKey: 'loans-in-all',
    title: 'Where the loans are',
    legendTitle: 'Loans, thousand',
    subtitle: 'Library loans in the districts of Lindmere, 2025: the area of a circle is the number of loans',
    method: 'Colours by natural breaks, rounded',
    legend: { swatchHeightMm: 4 },
  }),
  page({
    id: 'readers-by-age-a4',
    name: 'Readers by age, A4',
    mapId: 'people',
    legendKey: 'readers-by-age',
    legendTitle: 'Members of libraries',
    title: 'How old readers are',
    subtitle:
      'Members of the libraries of Lindmere: one dot for 250 of an age, within their district and out of its lakes',
    method: 'Dots placed evenly by chance',
    legend: { swatchWidthMm: 9, swatchHeightMm: 9, gapMm: 1.5 },
  }),
  page({
    id: 'bodies-a4',
    name: 'Loans, by people, A4',
    mapId: 'bodies',
    legendKey: 'loans-by-people',
    title: 'Where people read',
    legendTitle: 'Loans per resident',
    subtitle:
      'Library loans per resident in 2025; the area of a circle is the number of people of a district',
    method: 'Natural breaks, rounded; circles pushed apart, neighbours kept together where they can be',
    legend: {
      swatchHeightMm: 4,
      words: {
        'loans-by-people/heading': 'People',
        'loans-by-people/items-heading': 'Loans per resident',
      },
    },
    part: { x: -30, y: 44, scale: 2_550_000 },
    unscaled: true,
  }),
  page({
    id: 'stretched-a4',
    name: 'Loans, stretched, A4',
    mapId: 'stretched',
    legendKey: 'loans-stretched',
    title: 'A country as large as its people',
    legendTitle: 'Loans per resident',
    subtitle:
      'Library loans per resident in 2025; districts are as large as they have people, and the land with them',
    method: 'Natural breaks, rounded; stretched by flow until every district is right to 1 %',
    legend: { swatchHeightMm: 4 },
    part: { x: -24, y: 74, scale: 2_850_000 },
    unscaled: true,
  }),
  page({
    id: 'in-blocks-a4',
    name: 'Loans, in blocks, A4',
    mapId: 'in-blocks',
    legendKey: 'loans-in-blocks',
    title: 'Where people read, block by block',
    legendTitle: 'Loans per resident',
    subtitle:
      'Library loans per resident in 2025; every block is 5,000 people of a district, whole blocks alone',
    method: 'Natural breaks, rounded; blocks by largest remainders, small isles put together by provinces',
    legend: { swatchHeightMm: 4 },
    part: { x: -10, y: 86, scale: 3_300_000 },
    unscaled: true,
  }),
  page({
    id: 'gathered-a4',
    name: 'Density of readers, A4',
    mapId: 'gathered',
    legendKey: 'readers-per-km2',
    legendTitle: 'Readers per 100 km²',
    title: 'Where readers gather',
    subtitle: 'Registered readers of Lindmere for 100 km² of ground, smoothed by a quartic kernel of 14 km',
    method: 'A geometric progression, rounded',
    legend: { swatchHeightMm: 4 },
  }),
  page({
    id: 'in-cells-a4',
    name: 'Libraries in hexagons, A4',
    mapId: 'in-cells',
    legendKey: 'libraries-in-cells',
    legendTitle: 'Libraries in a hexagon',
    title: 'A library within reach',
    subtitle: 'How many of the libraries of Lindmere lie in each hexagon of the same size',
    method: 'Breaks set by hand',
    legend: { swatchHeightMm: 4 },
  }),
  page({
    id: 'heights-at-night-a4',
    name: 'Heights, lit, A4',
    mapId: 'heights-at-night',
    legendKey: 'lit-heights',
    legendTitle: 'Height, m',
    title: 'The land by moonlight',
    subtitle: 'Contours of Lindmere every 100 m, lit from the north-west',
    method: 'Contours lit after Tanaka (1950)',
    legend: { swatchHeightMm: 3.4 },
    ink: '#e6ece9',
  }),
  page({
    id: 'reach-a4',
    name: 'Population within reach, A4',
    mapId: 'reach',
    legendKey: 'population-within-reach',
    legendTitle: 'Potential, thousand persons',
    title: 'Who lives near',
    subtitle:
      'Residents of Lindmere around every place, counted less the farther away by road: a half at 25 km',
    method: 'Natural breaks, rounded',
    legend: { swatchHeightMm: 4 },
  }),
  page({
    id: 'incomes-a4',
    name: 'Income, smoothed, A4',
    mapId: 'incomes',
    legendKey: 'smooth-income',
    legendTitle: 'Median household income, marks',
    title: 'Income without borders',
    subtitle: 'Median household income as a smooth surface that keeps the mean of every province of Lindmere',
    method: 'Pycnophylactic interpolation after Tobler (1979)',
    legend: { swatchHeightMm: 4 },
  }),
  page({
    id: 'borders-a4',
    name: 'Where lending changes, A4',
    mapId: 'borders',
    legendKey: 'lending-borders',
    legendTitle: 'Difference of loans per resident',
    title: 'Where lending changes',
    subtitle: 'The wider the line, the more the loans per resident of two neighbouring districts differ',
    method: 'Differences under 1 left out',
    legend: { swatchHeightMm: 4 },
  }),
]

/**
 * One page of the folio: a map over the full width, the outer isles in an inset, legend, scale bar and notes.
 */
function page({
  id,
  name,
  mapId,
  legendKey,
  legendTitle,
  title = 'A country that reads',
  subtitle,
  method,
  legend,
  ink,
  part: near,
  unscaled = false,
  more = [],
}: Page): Sheet {
  const inked = (sizePt: number, weight: 400 | 600) =>
    typeStyle('source-sans-3', sizePt, { weight, colour: ink })
  const onDark = ink ? { heading: inked(9, 600), label: inked(8, 400) } : {}
  const bar = plainScaleBar({ panelId: 'main' })
  return makeSheet({
    id,
    name,
    ...a4,
    parts: [
      panel('main', {
        name: 'Main panel',
        box: { x: 12, y: 33, width: 273, height: 159 },
        mapId,
        view: near
          ? { centre: centre(near.x, near.y), scaleDenominator: near.scale }
          : { centre: centre(-88, 74), scaleDenominator: 3_200_000 },
      }),
      ...(near
        ? []
        : [
            panel('outer', {
              name: 'Outer isles',
              box: { x: 17, y: 147, width: 46, height: 40 },
              mapId,
              view: { centre: centre(-250, -288), scaleDenominator: 3_200_000 },
              line: 0.5,
            }),
          ]),
      legendOf(
        { x: 17, y: 39, width: 56, height: 44 },
        { ...(legendTitle && { words: { [`${legendKey}/heading`]: legendTitle } }), ...onDark, ...legend },
      ),
      ...(unscaled
        ? []
        : [
            part('scale-bar', 'bar', {
              name: 'Scale bar',
              box: { x: 225, y: 181, width: 44, height: 6 },
              settings: ink ? { ...bar, style: inked(7, 400) } : bar,
            }),
          ]),
      text('title', 'Title', {
        box: { x: 12, y: 11, width: 200, height: 12 },
        words: title,
        style: inStyle('title'),
      }),
      text('subtitle', 'Subtitle', {
        box: { x: 12, y: 23.5, width: 220, height: 5 },
        words: subtitle,
        style: inStyle('subtitle'),
      }),
      ...(near
        ? []
        : [
            text('inset-name', 'Inset name', {
              box: { x: 19, y: 182, width: 42, height: 4 },
              words: 'Outer isles, same scale',
              style: typeStyle('source-sans-3', 7, { italic: true, ...(ink && { colour: ink }) }),
            }),
          ]),
      text('source', 'Source note', {
        box: { x: 12, y: 194.5, width: 225, height: 4 },
        words: `Source: {{credits}}. ${method}. {{projection}}.`,
        style: small(),
      }),
      ...(unscaled
        ? []
        : [
            text('drawn', 'Date', {
              box: { x: 225, y: 194.5, width: 60, height: 4 },
              words: '{{scale}}',
              style: small(),
              align: 'right',
            }),
          ]),
      ...more,
    ],
  })
}

/** A map for finding places: no data, all names. */
function orientation(): Sheet {
  return makeSheet({
    id: 'orientation-a4',
    name: 'Lindmere, A4',
    ...a4,
    parts: [
      panel('main', {
        name: 'Main panel',
        box: { x: 12, y: 30, width: 273, height: 160 },
        mapId: 'orientation',
        view: { centre: centre(-8, 40), scaleDenominator: 2_250_000 },
        line: 0.6,
      }),
      part('scale-bar', 'bar', {
        name: 'Scale bar',
        box: { x: 225, y: 178, width: 44, height: 6 },
        settings: plainScaleBar({ panelId: 'main' }),
      }),
      text('title', 'Title', {
        box: { x: 12, y: 11, width: 200, height: 12 },
        words: 'Lindmere',
        style: inStyle('title'),
      }),
      text('subtitle', 'Subtitle', {
        box: { x: 12, y: 22.5, width: 220, height: 5 },
        words: 'Provinces, towns and waters',
        style: inStyle('subtitle'),
      }),
      text('source', 'Source note', {
        box: { x: 12, y: 194.5, width: 225, height: 4 },
        words: 'Source: {{credits}}. {{projection}}.',
        style: small(),
      }),
      text('drawn', 'Date', {
        box: { x: 225, y: 194.5, width: 60, height: 4 },
        words: '{{scale}}',
        style: small(),
        align: 'right',
      }),
    ],
  })
}

/** What the ground is: heights in classes and land cover by kind, in the same light. */
function ground(): Sheet {
  const onGround = (id: string, name: string, mapId: string, x: number): Part =>
    panel(id, {
      name,
      box: { x, y: 36, width: 134, height: 120 },
      mapId,
      view: { centre: centre(-8, 4), scaleDenominator: 3_100_000 },
    })
  const heading = (id: string, words: string, x: number): Part =>
    text(id, words, {
      box: { x, y: 29.5, width: 120, height: 5 },
      words,
      style: typeStyle('source-serif-4', 11, { weight: 600 }),
    })
  const legendUnder = (id: string, panelId: string, x: number): Part => {
    const legend = legendOf({ x, y: 160, width: 90, height: 28 }, { panelId, columns: 2 })
    return { ...legend, id, name: `Legend of ${panelId}` }
  }
  return makeSheet({
    id: 'ground-a4',
    name: 'Heights and land cover, A4',
    ...a4,
    parts: [
      onGround('main', 'Panel of heights', 'heights-in-classes', 12),
      onGround('second', 'Panel of land cover', 'land-cover', 151),
      legendUnder('legend-heights', 'main', 12),
      legendUnder('legend-cover', 'second', 151),
      part('scale-bar', 'bar', {
        name: 'Scale bar',
        box: { x: 241, y: 161, width: 44, height: 6 },
        settings: plainScaleBar({ panelId: 'main' }),
      }),
      text('title', 'Title', {
        box: { x: 12, y: 11, width: 220, height: 12 },
        words: 'The ground of Lindmere',
        style: inStyle('title'),
      }),
      text('subtitle', 'Subtitle', {
        box: { x: 12, y: 23, width: 250, height: 5 },
        words: 'Heights in classes, and what grows there, in one light',
        style: inStyle('subtitle'),
      }),
      heading('of-heights', 'Heights', 12),
      heading('of-cover', 'Land cover', 151),
      text('source', 'Source note', {
        box: { x: 12, y: 194.5, width: 225, height: 4 },
        words: 'Source: {{credits}}. {{projection}}.',
        style: small(),
      }),
      text('drawn', 'Date', {
        box: { x: 225, y: 194.5, width: 60, height: 4 },
        words: '{{scale}}',
        style: small(),
        align: 'right',
      }),
    ],
  })
}

/** Two years beside each other with one scheme of classes, and one legend for both. */
function years(): Sheet {
  const yearPanel = (id: string, name: string, mapId: string, x: number): Part =>
    panel(id, {
      name,
      box: { x, y: 42, width: 134, height: 122 },
      mapId,
      view: { centre: centre(-45, 20), scaleDenominator: 6_000_000 },
    })
  const year = (id: string, words: string, x: number): Part =>
    text(id, `Year ${words}`, {
      box: { x, y: 34, width: 60, height: 6 },
      words,
      style: typeStyle('source-serif-4', 15, { weight: 600 }),
    })
  return makeSheet({
    id: 'years-a4',
    name: 'Two years, A4',
    ...a4,
    parts: [
      yearPanel('main', 'Panel 2015', 'loans-2015', 12),
      yearPanel('second', 'Panel 2025', 'loans-2025', 151),
      legendOf(
        { x: 12, y: 169, width: 130, height: 16 },
        {
          form: 'lying',
          labelsAt: 'limits',
          swatchWidthMm: 19,
          swatchHeightMm: 4.5,
          words: { 'loans-2015/heading': 'Loans per resident, both years' },
        },
      ),
      part('scale-bar', 'bar', {
        name: 'Scale bar',
        box: { x: 225, y: 176, width: 44, height: 6 },
        settings: plainScaleBar({ panelId: 'main' }),
      }),
      text('title', 'Title', {
        box: { x: 12, y: 11, width: 200, height: 12 },
        words: 'Ten years of lending',
        style: inStyle('title'),
      }),
      text('subtitle', 'Subtitle', {
        box: { x: 12, y: 23.5, width: 250, height: 5 },
        words:
          'Library loans per resident of 2025 in the districts of Lindmere: every fifth of all values of both years has one colour',
        style: inStyle('subtitle'),
      }),
      year('y2015', '2015', 12),
      year('y2025', '2025', 151),
      text('source', 'Source note', {
        box: { x: 12, y: 194.5, width: 225, height: 4 },
        words: 'Source: {{credits}}. Quantiles over both years, rounded. {{projection}}.',
        style: small(),
      }),
      text('drawn', 'Date', {
        box: { x: 225, y: 194.5, width: 60, height: 4 },
        words: '{{scale}}',
        style: small(),
        align: 'right',
      }),
    ],
  })
}

/** A dark page: where readers live, as light. */
function night(): Sheet {
  const ink = '#d8dde2'
  return makeSheet({
    id: 'readers-a4',
    name: 'Readers, A4',
    ...a4,
    background: '#0f151d',
    parts: [
      panel('main', {
        name: 'Main panel',
        box: { x: 12, y: 33, width: 273, height: 159 },
        mapId: 'readers',
        view: { centre: centre(-88, 74), scaleDenominator: 3_200_000 },
      }),
      legendOf(
        { x: 17, y: 39, width: 56, height: 14 },
        {
          words: { 'readers/glow': 'the paler, the more books' },
          heading: typeStyle('source-sans-3', 9.5, { weight: 600, colour: ink }),
          label: typeStyle('source-sans-3', 8.5, { colour: ink }),
          swatchHeightMm: 7,
          lowFirst: false,
        },
      ),
      part('scale-bar', 'bar', {
        name: 'Scale bar',
        box: { x: 225, y: 181, width: 44, height: 6 },
        settings: plainScaleBar({ panelId: 'main', style: typeStyle('source-sans-3', 7, { colour: ink }) }),
      }),
      text('title', 'Title', {
        box: { x: 12, y: 11, width: 200, height: 12 },
        words: 'Reading lights',
        style: typeStyle('source-serif-4', 25, { weight: 600, colour: '#f3efe4' }),
      }),
      text('subtitle', 'Subtitle', {
        box: { x: 12, y: 23.5, width: 220, height: 5 },
        words: 'Twelve thousand readers of Lindmere where they live, as bright as they read',
        style: typeStyle('source-sans-3', 10.5, { colour: ink }),
      }),
      text('source', 'Source note', {
        box: { x: 12, y: 194.5, width: 225, height: 4 },
        words: 'Source: {{credits}}. {{projection}}.',
        style: small(ink),
      }),
      text('drawn', 'Date', {
        box: { x: 225, y: 194.5, width: 60, height: 4 },
        words: '{{scale}}',
        style: small(ink),
        align: 'right',
      }),
    ],
  })
}
