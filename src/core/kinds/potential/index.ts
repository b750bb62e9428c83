import { methods } from '@/core/classify/classify'
import { formatNumber, numberWord } from '@/core/classify/labels'
import { colouringLabel } from '@/core/colour/colouring'
import { numbersOf } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import { extentOf } from '@/core/geo/extent'
import { latticeOver, placesIn, boundsIn, planeFor, type Lattice } from '@/core/grid/grid'
import { networkOf, type Network } from '@/core/grid/network'
import { potentialAlong, potentialOver, type Fading } from '@/core/grid/potential'
import { cellsWithin } from '@/core/grid/rasterise'
import type { Steps } from '@/core/grid/steps'
import { createMemory } from '@/core/memory/memory'
import type { KindData, SentencePart } from '../kind'
import { featurePlaces } from '@/core/data/feature-places'
import { formWords, surfaceKind } from '../surfaces/kind'
import { plainSurfaceLook } from '../surfaces/look'
import type { Surface, SurfaceSource } from '../surfaces/surface'
import { lowerFirst, numberFields } from '../values'
import { PotentialSettings } from './spec'

const automaticCells = 60_000
const roughCells = 6_000

/** Fields that count something, which a potential adds up. */
const countable = (data: KindData): string[] => {
  const isTotal = (key: string) => data.fieldMeta(key).role === 'total'
  const all = numberFields(data)
  return [...all.filter(isTotal), ...all.filter((key) => !isTotal(key))]
}

const latticeOf = (
  settings: PotentialSettings,
  { dataset }: Pick<KindData, 'dataset'>,
  most: number,
): Lattice | null => {
  const cell = settings.cellKm ? settings.cellKm * 1000 : 1
  return latticeOver([dataset.geometry], { cell, ...(settings.cellKm ? {} : { most }) })
}

/** A tenth of the data's width, as a round number of km: a first guess. */
function proposedSpan({ dataset }: Pick<KindData, 'dataset'>): number {
  const extent = extentOf([dataset.geometry])
  if (!extent) return 10
  const [x0, y0, x1, y1] = boundsIn(planeFor(extent), [dataset.geometry])
  return Math.max(0.1, Number((Math.hypot(x1 - x0, y1 - y0) / 1000 / 20).toPrecision(1)) || 10)
}

/** Metres, or seconds where lines have a speed. */
const spanOf = ({ along, spanKm, spanMin }: PotentialSettings): number =>
  along?.speed ? spanMin * 60 : spanKm * 1000

/** Going beside the lines, km/h: on foot. */
const walking = 5

/** Another reach on the same lines needs no other network. */
const rememberNetwork = createMemory<Dataset, Network | null>('networks', { maxBytes: 64 * 2 ** 20 })

function waysOf({ along }: PotentialSettings, { datasetOf }: KindData, { plane }: Lattice) {
  const lines = along && datasetOf(along.datasetId)
  if (!along || !lines) return null
  const column = along.speed ? fieldOf(lines, along.speed) : null
  const { toleranceM } = along
  const network = rememberNetwork(lines, JSON.stringify([along.speed, toleranceM, plane]), () =>
    networkOf(lines.geometry, plane, {
      toleranceM,
      paces: column ? numbersOf(column).map((kmh) => 3.6 / kmh) : null,
    }),
  )
  return network && { network, offPace: along.speed ? 3.6 / walking : 1 }
}

const source: SurfaceSource<PotentialSettings> = {
  key: ({ field, reach, spanKm, spanMin, along, exponent, cellKm, mask }) =>
    JSON.stringify(['potential', field, reach, spanKm, spanMin, along, exponent, cellKm, mask]),
  *make(settings, data): Steps<Surface | null> {
    const cells = latticeOf(settings, data, automaticCells)
    const column = fieldOf(data.dataset, settings.field)
    if (!cells || !column) return null
    const values = numbersOf(column)
    const lonLat = featurePlaces(data.dataset)
    const places = placesIn(cells.plane, lonLat)
    let [missing, negative] = [0, 0]
    for (const value of values) {
      if (Number.isNaN(value)) missing++
      else if (value < 0) negative++
    }
    const points = { places, weights: values.map((value) => (value > 0 ? value : 0)) }
    const fading: Fading = { reach: settings.reach, span: spanOf(settings), exponent: settings.exponent }
    const ways = settings.along && waysOf(settings, data, cells)
    if (settings.along && !ways) return null
    const grid = ways
      ? yield* potentialAlong(cells, points, fading, ways)
      : yield* potentialOver(cells, points, fading)
    const ground = settings.mask ? data.datasetOf(settings.mask.datasetId) : data.dataset
    return {
      grid,
      within: ground?.geometry.kind === 'areas' ? cellsWithin(ground.geometry, cells) : null,
      doubt: null,
      remark: [
        ...(missing ? [`${formatNumber(missing, 0)} without a value left out.`] : []),
        ...(negative ? [`${formatNumber(negative, 0)} with a value under zero left out.`] : []),
        ...(ways && ways.network.parts > 1
          ? [`The lines are ${formatNumber(ways.network.parts, 0)} networks that no way leads between.`]
          : []),
      ].join(' '),
      figures: [
        `${formatNumber(cells.columns, 0)} × ${formatNumber(cells.rows, 0)} cells of ${formatNumber(cells.cell / 1000, 2)} km`,
      ],
    }
  },
  rough(settings, data) {
    const cells = latticeOf({ ...settings, cellKm: null }, data, roughCells)
    return cells ? { ...settings, cellKm: cells.cell / 1000 } : settings
  },
  needs: ({ mask, along }) => [...(mask ? [mask.datasetId] : []), ...(along ? [along.datasetId] : [])],
  heading: ({ field }, { fieldMeta }) => `Potential of ${lowerFirst(fieldMeta(field).label)}`,
  unit: ({ field }, { fieldMeta }) => fieldMeta(field).unit,
  least: null,
  finer: null,
  byDistance: true,
  ownGround: () => true,
  doubt: null,
}

/** Values smoothed by distance. */
export const potential = surfaceKind<PotentialSettings>({
  label: 'Potential',
  fits: 'Fit for what is within reach',
  settings: PotentialSettings,
  source,
  accepts: (data) =>
    (data.dataset.geometry.kind === 'points' || data.dataset.geometry.kind === 'areas') &&
    data.dataset.rowCount > 1 &&
    numberFields(data).length > 0,
  initial: (data) => ({
    ...plainSurfaceLook(),
    field: countable(data)[0] ?? '',
    reach: 'exponential',
    spanKm: proposedSpan(data),
    spanMin: 30,
    along: null,
    exponent: 1,
    cellKm: null,
  }),
  sentence: potentialSentence,
  remap: (settings, data) =>
    data.dataset.fields.some(({ key }) => key === settings.field)
      ? settings
      : { ...settings, field: countable(data)[0] ?? '', spanKm: proposedSpan(data) },
  showField: (settings, field) => ({ ...settings, field }),
  caution(plan, settings, data) {
    if (settings.along && !plan.classification)
      return {
        words: 'There are no lines that one could go along, or none with a speed.',
        remedies: [{ label: 'straight', settings: { ...settings, along: null } }],
      }
    const { role, label } = data.fieldMeta(settings.field)
    return ['rate', 'share', 'index'].includes(role)
      ? { words: `“${label}” is a ratio: a potential adds up numbers of something.`, remedies: [] }
      : null
  },
})

/** “20 km”, “20 km by road”, “30 minutes on the way” */
function spanWords({ along, spanKm, spanMin }: PotentialSettings): string {
  if (along?.speed) return `${formatNumber(spanMin, 0)} minutes along lines`
  return `${formatNumber(spanKm, spanKm < 10 ? 1 : 0)} km${along ? ' along lines' : ''}`
}

/** “Potential of population in districts, a half at 20 km, in six classes by natural breaks, coloured Reed.” */
function potentialSentence(settings: PotentialSettings, data: KindData): SentencePart[] {
  const count = settings.method === 'manual' ? settings.manualBreaks.length + 1 : settings.classes
  return [
    { text: 'Potential of ' },
    { text: lowerFirst(data.fieldMeta(settings.field).label), control: 'field' },
    { text: ' in ' },
    { text: data.name.toLowerCase(), control: 'dataset' },
    { text: ', a half at ' },
    { text: spanWords(settings), control: 'size' },
    { text: ', ' },
    ...formWords(settings, numberWord(count), ''),
    ...(settings.form === 'bands'
      ? [{ text: methods[settings.method].label, control: 'method' as const }]
      : []),
    { text: ', coloured ' },
    { text: colouringLabel(settings), control: 'colours' },
    { text: '.' },
  ]
}
