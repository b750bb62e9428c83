import { firstClassing } from '@/core/classify/spec'
import { fieldOf } from '@/core/data/dataset'
import { textAt } from '@/core/data/column'
import type { Prepared } from '@/core/data/prepare'
import { geodesicMetres } from '@/core/projection/ground'
import { createProjection } from '@/core/projection/projection'
import type { MapSpec, MapView } from '@/core/map/spec'
import { fading } from '@/core/sheet/fill'
import { noEffects, noGround } from '@/core/sheet/lettering/spec'
import { textPart } from '@/core/sheet/new-sheet'
import { chart } from '@/core/sheet/parts/chart'
import { plainLegend } from '@/core/sheet/parts/legend'
import { TileShade } from '@/core/sheet/parts/treemap/spec'
import { PanelSettings } from '@/core/sheet/parts/panel/spec'
import type { PanelPart } from '@/core/sheet/panel-view'
import { plainScaleBar } from '@/core/sheet/parts/scale-bar'
import { plainTable } from '@/core/sheet/parts/table'
import { plainText } from '@/core/sheet/parts/text'
import { cellsOf } from '@/core/sheet/arrange'
import type { PartBox } from '@/core/sheet/part'
import { makePart, type Part } from '@/core/sheet/registry'
import { smallMultiples, variantsOf } from '@/core/sheet/small-multiples'
import { makeSheet, type Sheet } from '@/core/sheet/spec'
import { typeStyle } from '@/core/sheet/type-style'
import { inStyle } from '@/core/sheet/type-styles'
import { toLonLat } from './lindmere/mesh'

type Place = [lon: number, lat: number]
type Given = { maps: readonly MapSpec[]; prepared: Map<string, Prepared> }

const panel = (id: string, name: string, box: PartBox, settings: Partial<PanelSettings>): PanelPart =>
  makePart(
    'panel',
    { id, name, box },
    PanelSettings.parse({
      mapId: null,
      view: { centre: [0, 0], scaleDenominator: 1e6 },
      frame: { colour: '#4a4a4a', widthPt: 0 },
      ...settings,
    }),
  ) as PanelPart

const text = (id: string, name: string, box: PartBox, settings: Parameters<typeof plainText>[0]): Part =>
  makePart('text', { id, name, box }, plainText(settings))

const townAt = ({ prepared }: Given, wanted: string): Place => {
  const towns = prepared.get('towns')?.dataset
  const names = towns && fieldOf(towns, 'name')
  if (!towns || !names || towns.geometry.kind !== 'points') throw new Error('There are no towns.')
  const { coords, featureStarts } = towns.geometry
  for (let row = 0; row < towns.rowCount; row++)
    if (textAt(names, row) === wanted)
      return [coords[2 * featureStarts[row]], coords[2 * featureStarts[row] + 1]]
  throw new Error(`There is no town ${wanted}.`)
}

/** The view in which the way from one town to another goes straight up and takes up so much of a height. */
function along(map: MapSpec, from: Place, to: Place, heightMm: number): MapView {
  const projection = createProjection(map.projection)
  const [a, b] = [projection.project(...from), projection.project(...to)]
  const angle = (Math.atan2(b[1] - a[1], b[0] - a[0]) * 180) / Math.PI
  const turn = -90 - angle
  const centre = projection.invert((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
  if (!centre) throw new Error('The way leaves the map.')
  const scale = (1000 * geodesicMetres(from, to)) / (0.72 * heightMm)
  return {
    centre,
    scaleDenominator: Math.ceil(scale / 25_000) * 25_000,
    turnDeg: Math.round((turn - 360 * Math.round(turn / 360)) * 10) / 10,
  }
}

/** The ends of the long roads, the lower one first, from west to east. */
function longRoads(given: Given): [from: string, to: string][] {
  const roads = given.prepared.get('roads')?.dataset
  const names = roads && fieldOf(roads, 'name')
  if (!roads || !names) throw new Error('There are no roads.')
  const all = Array.from({ length: roads.rowCount }, (_, row) => textAt(names, row) ?? '').filter(Boolean)
  const ends = [...new Set(all)].map((name): [string, string] => {
    const [a, b] = name.split(' to ')
    return townAt(given, a)[1] < townAt(given, b)[1] ? [a, b] : [b, a]
  })
  const middle = ([a, b]: [string, string]): number => townAt(given, a)[0] + townAt(given, b)[0]
  return ends.sort((one, two) => middle(one) - middle(two))
}

/** Three turned maps in exact thirds of a tall page. */
function threeRoads(given: Given): Sheet {
  const map = given.maps.find(({ id }) => id === 'roads')
  if (!map) throw new Error('There is no map of roads.')
  const page = { widthMm: 457, heightMm: 610 }
  const margins = { top: 12, right: 12, bottom: 12, left: 12 }
  const [first, second, third] = cellsOf(
    { x: 12, y: 12, width: 433, height: 586 },
    { columns: 3, rows: 1, gutterX: 0, gutterY: 0 },
  )
  const ids = ['west', 'middle', 'east']
  const boxes = [first, second, third]
  const ways = longRoads(given).map(([from, to], i) => ({ id: ids[i], box: boxes[i], from, to }))
  const seam = (id: string, x: number): Part =>
    makePart(
      'shade',
      { id, name: 'Seam', box: { x: x - 9, y: 12, width: 18, height: 586 }, locked: true },
      {
        cornerMm: 0,
        fill: {
          by: 'linear',
          angleDeg: 0,
          bands: 0,
          stops: [
            { at: 0, colour: '#2b241a', opacity: 0 },
            { at: 0.5, colour: '#2b241a', opacity: 0.4 },
            { at: 1, colour: '#2b241a', opacity: 0 },
          ],
        },
      },
    )
  return makeSheet({
    id: 'three-roads',
    name: 'Three long roads',
    page,
    margins,
    bleedMm: 3,
    background: '#f4f1ea',
    parts: [
      ...ways.map(({ id, box, from, to }) =>
        panel(id, `${from} to ${to}`, box, {
          mapId: 'roads',
          view: along(map, townAt(given, from), townAt(given, to), box.height),
        }),
      ),
      seam('seam-1', second.x),
      seam('seam-2', third.x),
      makePart(
        'shade',
        { id: 'top', name: 'Fade at the top', box: { x: 12, y: 12, width: 433, height: 120 }, locked: true },
        {
          cornerMm: 0,
          fill: { by: 'linear', angleDeg: 90, bands: 0, stops: fading('#f4f1ea', 1) },
        },
      ),
      ...ways.map(({ id, box }) =>
        makePart(
          'north-arrow',
          { id: `north-${id}`, name: 'North arrow', box: { x: box.x + 8, y: 560, width: 26, height: 30 } },
          {
            panelId: id,
            look: 'needle',
            north: 'true',
            dark: '#3d3526',
            light: '#ffffff',
            lineWidthPt: 0.75,
            letter: 'N',
            style: inStyle('heading', { colour: '#3d3526', named: null }),
          },
        ),
      ),
      ...ways.map(({ id, box, from, to }) =>
        text(
          `name-${id}`,
          `Name of ${from}`,
          { x: box.x + 6, y: 108, width: box.width - 12, height: 8 },
          {
            text: `From ${from} to ${to}`,
            style: inStyle('heading', {
              sizePt: 17,
              family: 'source-serif-4',
              italic: true,
              weight: 400,
              colour: '#3d3526',
              named: null,
            }),
            align: 'centre',
            effects: { ...noEffects, halo: { colour: '#f4f1ea', widthPt: 3 } },
          },
        ),
      ),
      ...ways.map(({ id, box }) =>
        makePart(
          'scale-bar',
          {
            id: `bar-${id}`,
            name: 'Scale bar',
            box: { x: box.x + box.width - 66, y: 578, width: 56, height: 8 },
          },
          plainScaleBar({
            panelId: id,
            look: 'rows',
            heightMm: 2.2,
            style: inStyle('caption', { sizePt: 10, named: null }),
          }),
        ),
      ),
      text(
        'title',
        'Title',
        { x: 12, y: 40, width: 433, height: 34 },
        {
          text: 'THREE LONG ROADS',
          style: inStyle('title', { sizePt: 72, letterSpacingPt: 22, colour: '#3d3526', named: null }),
          align: 'centre',
          effects: { ...noEffects, glow: { colour: '#ffffff', radiusMm: 6, strength: 0.9 } },
        },
      ),
      text(
        'subtitle',
        'Subtitle',
        { x: 12, y: 76, width: 433, height: 9 },
        {
          text: 'The longest straight ways from town to town, each turned so that it runs up the page',
          style: inStyle('subtitle', { sizePt: 19, named: null }),
          align: 'centre',
          effects: { ...noEffects, halo: { colour: '#f4f1ea', widthPt: 2.5 } },
        },
      ),
      panel(
        'locator',
        'Locator',
        { x: 18, y: 486, width: 58, height: 58 },
        {
          mapId: 'roads',
          view: { centre: toLonLat([-45, 20]), scaleDenominator: 8_600_000 },
          hiddenLayers: ['road-towns', 'country-roads', 'road-shadows', 'road-rivers', 'main-roads'],
          shape: { by: 'ellipse' },
          frame: { colour: '#3d3526', widthPt: 1.25, more: [] },
          footprints: ways.map(({ id }) => ({
            panelId: id,
            fill: '#9c1f5e',
            fillOpacity: 0.18,
            colour: '#9c1f5e',
            widthPt: 1.25,
            joined: false,
          })),
        },
      ),
      text(
        'source',
        'Source note',
        { x: 245, y: 600, width: 200, height: 4 },
        {
          text: 'Source: {{credits}}. {{projection}}.',
          style: inStyle('note', { sizePt: 8.5, colour: '#8a8577', named: null }),
          align: 'right',
        },
      ),
    ],
  })
}

const a4 = { page: { widthMm: 297, heightMm: 210 }, margins: { top: 12, right: 12, bottom: 10, left: 12 } }
const note = (words: string): Part =>
  textPart(
    { id: 'source', name: 'Source note', box: { x: 12, y: 194.5, width: 273, height: 4 } },
    { text: words, style: 'note' },
  )

/** One province cut out, with what there is to know of it beside it. */
function province(given: Given): Sheet {
  const { prepared } = given
  const name = 'Haskneholt'
  const byProvince = prepared.get('by-province')
  const figures = chart.initial({
    sheet: { ...a4, parts: [] },
    map: null,
    maps: [],
    datasets: new Map(byProvince ? [['by-province', byProvince]] : []),
    centres: new Map(),
    pictures: [],
  })
  if (!byProvince || !figures) throw new Error('There are no figures by province.')
  const callout = (id: string, town: string, box: PartBox, words: string): Part =>
    makePart(
      'callout',
      { id, name: `About ${town}`, box },
      {
        ...plainText({
          text: `${town}\n${words}`,
          spans: [{ from: 0, to: town.length, look: { weight: 600 } }],
          style: inStyle('legend-label'),
          ground: {
            ...noGround,
            paddingMm: 1.5,
            background: '#ffffff',
            opacity: 0.92,
            border: { colour: '#8a979c', widthPt: 0.4 },
            cornerMm: 1,
          },
        }),
        panelId: 'main',
        place: townAt(given, town),
        leader: { colour: '#3a3a3a', widthPt: 0.6, end: 'ring', endMm: 2.4, bent: true },
      },
    )
  return makeSheet({
    id: 'province-a4',
    name: 'A province and its towns',
    ...a4,
    parts: [
      panel(
        'main',
        'Main panel',
        { x: 12, y: 32, width: 165, height: 158 },
        {
          mapId: 'loans',
          view: { centre: [-28.58, 49.95], scaleDenominator: 1_150_000 },
          // The callouts name the towns that matter; others would be cut at the province's border.
          hiddenLayers: ['towns'],
          shape: { by: 'area', datasetId: 'provinces', field: 'name', values: [name], outside: 0.18 },
          frame: { colour: '#3a3a3a', widthPt: 1, more: [] },
        },
      ),
      panel(
        'country',
        'Where it lies',
        { x: 14, y: 150, width: 38, height: 38 },
        {
          mapId: 'loans',
          view: { centre: toLonLat([-45, 20]), scaleDenominator: 15_000_000 },
          hiddenLayers: ['towns', 'rivers', 'lakes', 'province-borders'],
          shape: { by: 'ellipse' },
          frame: { colour: '#4a4a4a', widthPt: 0.75, more: [] },
          footprints: [
            {
              panelId: 'main',
              fill: '#9c1f5e',
              fillOpacity: 0.15,
              colour: '#9c1f5e',
              widthPt: 1,
              joined: true,
            },
          ],
        },
      ),
      callout(
        'cross',
        'Grimnatarn Cross',
        { x: 118, y: 38, width: 46, height: 12 },
        'Where the roads of the north meet',
      ),
      callout('quay', 'Grimbequay', { x: 130, y: 150, width: 42, height: 12 }, 'The harbour of the province'),
      makePart(
        'legend',
        { id: 'legend', name: 'Legend', box: { x: 188, y: 34, width: 56, height: 44 } },
        plainLegend({ panelId: 'main', onlySeen: true }),
      ),
      makePart(
        'table',
        { id: 'table', name: 'Table of provinces', box: { x: 188, y: 82, width: 97, height: 40 } },
        {
          ...plainTable('by-province', byProvince),
          columns: [
            { field: 'province', label: 'Province', decimals: null, align: 'auto' },
            { field: 'population', label: 'Residents', decimals: null, align: 'auto' },
            { field: 'libraries', label: 'Libraries', decimals: null, align: 'auto' },
            { field: 'lib_loans_2025', label: 'Loans, 2025', decimals: 0, align: 'auto' },
          ],
          sortBy: 'population',
          rows: 9,
          totals: true,
          stripes: '#f3f3f3',
          leading: 1.35,
        },
      ),
      makePart(
        'chart',
        { id: 'chart', name: 'Visits by province', box: { x: 188, y: 138, width: 97, height: 52 } },
        {
          ...figures.settings,
          nameField: 'province',
          fields: ['visits_sum'],
          sortBy: 'visits_sum',
          rows: 9,
          title: 'Visits to libraries, 2025',
          colours: ['#4f9a55', ...figures.settings.colours.slice(1)],
        },
      ),
      makePart(
        'scale-bar',
        { id: 'bar', name: 'Scale bar', box: { x: 130, y: 181, width: 44, height: 6 } },
        plainScaleBar({ panelId: 'main', look: 'ends' }),
      ),
      textPart(
        { id: 'title', name: 'Title', box: { x: 12, y: 11, width: 200, height: 12 } },
        { text: `${name} and its towns`, style: 'title' },
      ),
      textPart(
        { id: 'subtitle', name: 'Subtitle', box: { x: 12, y: 23.5, width: 260, height: 5 } },
        {
          text: 'Library loans per resident in the districts of one province; the rest of Lindmere paled',
          style: 'subtitle',
        },
      ),
      note('Source: {{credits}}. Classes: {{classes}} by {{method}}. {{projection}}, {{scale}}.'),
    ],
  })
}

/** One map for each of sixteen years, in one scheme of classes. */
function sixteenYears({ maps, prepared }: Given): Sheet {
  const map = maps.find(({ id }) => id === 'loans')
  const layer = map?.layers.find(({ inLegend }) => inLegend)
  if (!map || !layer) throw new Error('There is no map of loans.')
  const whole = panel(
    'main',
    'Loans',
    { x: 12, y: 33, width: 273, height: 138 },
    {
      mapId: 'loans',
      view: { centre: toLonLat([-20, 30]), scaleDenominator: 5_200_000 },
      hiddenLayers: ['towns', 'rivers', 'lakes', 'province-borders'],
      caption: inStyle('heading'),
    },
  )
  let n = 0
  const multiples = smallMultiples(whole, variantsOf(layer, prepared, 'years'), {
    division: { columns: 6, rows: 3, gutterX: 1.5, gutterY: 1.5 },
    newId: () => `year-${++n}`,
    layers: map.layers,
    prepared: prepared.get(layer.datasetId),
  })
  const closer = multiples.map((part) => ({
    ...part,
    settings: { ...part.settings, view: { ...part.settings.view, scaleDenominator: 15_500_000 } },
  }))
  return makeSheet({
    id: 'sixteen-years-a4',
    name: 'Sixteen years',
    ...a4,
    parts: [
      ...closer,
      makePart(
        'legend',
        { id: 'legend', name: 'Legend', box: { x: 12, y: 174, width: 150, height: 16 } },
        plainLegend({
          panelId: 'main',
          form: 'lying',
          labelsAt: 'limits',
          swatchWidthMm: 19,
          swatchHeightMm: 4.5,
          // What all years have in common is explained once.
          alsoPanels: closer.slice(1).map(({ id }) => id),
        }),
      ),
      makePart(
        'scale-bar',
        { id: 'bar', name: 'Scale bar', box: { x: 240, y: 179, width: 44, height: 6 } },
        plainScaleBar({ panelId: 'main', look: 'hollow' }),
      ),
      textPart(
        { id: 'title', name: 'Title', box: { x: 12, y: 11, width: 200, height: 12 } },
        { text: 'Sixteen years', style: 'title' },
      ),
      textPart(
        { id: 'subtitle', name: 'Subtitle', box: { x: 12, y: 23.5, width: 260, height: 5 } },
        {
          text: 'Library loans per resident in the districts of Lindmere, year by year, in one scheme of classes',
          style: 'subtitle',
        },
      ),
      note('Source: {{credits}}. Classes over all years by {{method}}. {{projection}}, {{scale}}.'),
    ],
  })
}

/** A dark page: the whole country, and three towns close up in insets that fade. */
function lights(given: Given): Sheet {
  const ink = '#e8e2d2'
  const near = ['Harrowmouth', 'Blybeyard', 'Joroweir']
  const places: PartBox[] = [
    { x: 218, y: 18, width: 62, height: 62 },
    { x: 20, y: 118, width: 62, height: 62 },
    { x: 222, y: 124, width: 58, height: 58 },
  ]
  return makeSheet({
    id: 'lights-a4',
    name: 'Town lights',
    ...a4,
    background: '#0b1017',
    parts: [
      panel(
        'main',
        'Main panel',
        { x: 0, y: 0, width: 297, height: 210 },
        {
          mapId: 'readers',
          view: { centre: toLonLat([-30, 30]), scaleDenominator: 2_650_000 },
          footprints: near.map((_, i) => ({
            panelId: `inset-${i}`,
            fill: null,
            fillOpacity: 0,
            colour: '#c9a86a',
            widthPt: 0.6,
            joined: true,
          })),
        },
      ),
      makePart(
        'shade',
        { id: 'edges', name: 'Dark edges', box: { x: 0, y: 0, width: 297, height: 210 }, locked: true },
        {
          cornerMm: 0,
          fill: { by: 'inward', widthMm: 34, bands: 0, stops: fading('#0b1017', 1) },
        },
      ),
      ...near.map((town, i) =>
        panel(`inset-${i}`, town, places[i], {
          mapId: 'readers',
          view: { centre: townAt(given, town), scaleDenominator: 620_000 },
          shape: { by: 'ellipse' },
          softEdgeMm: 7,
        }),
      ),
      ...near.map((town, i) =>
        text(
          `town-${i}`,
          `Name of ${town}`,
          { x: places[i].x, y: places[i].y + places[i].height - 3, width: places[i].width, height: 5 },
          {
            text: town,
            style: inStyle('heading', { sizePt: 9.5, colour: ink, letterSpacingPt: 0.6, named: null }),
            align: 'centre',
            effects: { ...noEffects, halo: { colour: '#0b1017', widthPt: 1.5 } },
          },
        ),
      ),
      text(
        'title',
        'Title',
        { x: 14, y: 14, width: 190, height: 14 },
        {
          text: 'Town lights',
          style: inStyle('title', { sizePt: 30, letterSpacingPt: 3, colour: '#fff6df', named: null }),
          effects: { ...noEffects, glow: { colour: '#e0a93f', radiusMm: 4, strength: 0.55 } },
        },
      ),
      text(
        'subtitle',
        'Subtitle',
        { x: 14, y: 29, width: 190, height: 6 },
        {
          text: 'Twelve thousand readers where they live, and three towns four times closer',
          style: inStyle('subtitle', { colour: ink, named: null }),
        },
      ),
      makePart(
        'legend',
        { id: 'legend', name: 'Legend', box: { x: 14, y: 40, width: 56, height: 12 } },
        plainLegend({
          panelId: 'main',
          words: { 'readers/glow': 'the paler, the more books' },
          heading: inStyle('legend-heading', { colour: ink, named: null }),
          label: inStyle('legend-label', { colour: ink, named: null }),
          swatchHeightMm: 6,
          lowFirst: false,
        }),
      ),
      makePart(
        'scale-bar',
        { id: 'bar', name: 'Scale bar', box: { x: 128, y: 188, width: 44, height: 6 } },
        plainScaleBar({
          panelId: 'main',
          look: 'ends',
          style: inStyle('caption', { colour: ink, named: null }),
        }),
      ),
      text(
        'source',
        'Source note',
        { x: 85, y: 200, width: 200, height: 4 },
        {
          text: 'Source: {{credits}}. {{projection}}, {{scale}}.',
          style: inStyle('note', { colour: '#7d8792', sizePt: 6.5, named: null }),
          align: 'right',
        },
      ),
    ],
  })
}

/** What is lent, by subject: tiles whose areas are the loans, shaded by how often a title goes out. */
function subjects(): Sheet {
  return makeSheet({
    id: 'subjects-a4',
    name: 'Loans by subject, A4',
    ...a4,
    parts: [
      textPart(
        { id: 'title', name: 'Title', box: { x: 12, y: 11, width: 200, height: 12 } },
        { text: 'What is lent', style: 'title' },
      ),
      textPart(
        { id: 'subtitle', name: 'Subtitle', box: { x: 12, y: 23.5, width: 273, height: 7 } },
        {
          text: 'Loans of the libraries of Lindmere in 2025 by subject: the area of a tile is their number, its shade how often a title is lent',
          style: 'subtitle',
        },
      ),
      makePart(
        'treemap',
        { id: 'tiles', name: 'Loans by subject', box: { x: 12, y: 34, width: 228, height: 157 } },
        {
          datasetId: 'subjects',
          value: 'loans',
          levels: [
            { field: 'subject_group', order: 'size', names: [], lineMm: 1.4, heading: true },
            { field: 'subject', order: 'size', names: [], lineMm: 0.35, heading: true },
          ],
          layout: 'squares',
          colourLevel: 0,
          shade: TileShade.parse({
            field: 'loans',
            per: 'titles',
            perCount: 1,
            ...firstClassing(5),
            scheme: 'moss',
            reversed: false,
            missing: { colour: '#a8a8a8', hatched: true, label: 'no data' },
          }),
          strip: {
            at: 'below',
            heightMm: 7,
            subTotals: [
              {
                name: 'Told stories',
                of: [
                  { path: ['Fiction'], share: 1 },
                  { path: ['Children'], share: 1 },
                  { path: ['People and times', 'Travel'], share: 0.5 },
                ],
              },
              {
                name: 'How to do it',
                of: [
                  { path: ['Making things'], share: 1 },
                  { path: ['Land and sea', 'Gardening'], share: 1 },
                  { path: ['Land and sea', 'Sailing'], share: 1 },
                ],
              },
            ],
            rest: 'What there is to know',
          },
          colours: ['#2f5d73', '#b5643c', '#5b7f4f', '#7d5c86', '#a88a2f', '#5d6b7d'],
          lineColour: '#ffffff',
          values: true,
          title: '',
          heading: typeStyle('source-sans-3', 12, { weight: 600 }),
          label: typeStyle('source-sans-3', 8.5),
        },
      ),
      makePart(
        'legend',
        { id: 'legend', name: 'Legend', box: { x: 246, y: 34, width: 39, height: 60 } },
        plainLegend({ figures: ['tiles'] }),
      ),
      note(
        'Source: Lindmere Office of Statistics, library returns 2025. Squarified after Bruls and others (2000).',
      ),
    ],
  })
}

export const composedSheets = (maps: readonly MapSpec[], prepared: Map<string, Prepared>): Sheet[] => {
  const given = { maps, prepared }
  return [threeRoads(given), province(given), sixteenYears(given), lights(given), subjects()]
}
