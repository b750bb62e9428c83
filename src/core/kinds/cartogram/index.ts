import { makeCartogram, type Cartogram } from '@/core/cartogram/make'
import { wantedError } from '@/core/cartogram/flow'
import { isTiled, mostTiles } from '@/core/cartogram/spec'
import { formatNumber } from '@/core/classify/labels'
import { writeNumber } from '@/core/classify/number-format'
import type { Dataset } from '@/core/data/dataset'
import { rowKeys, rowName } from '@/core/data/row-names'
import { featureAt } from '@/core/geo/feature-at'
import { generalise } from '@/core/geo/generalise'
import { projectGeometry } from '@/core/geo/projected'
import { createProjection } from '@/core/projection/projection'
import { choropleth } from '../choropleth'
import { drawChoropleth } from '../choropleth/draw'
import { choroplethLines } from '../choropleth/legend'
import type { KindData, MapKind } from '../kind'
import { lowerFirst, numberFields } from '../values'
import { cartogramLegend } from './legend'
import { planCartogram, type CartogramPlan } from './plan'
import { cartogramSentence } from './sentence'
import { CartogramSettings } from './spec'
import { tileHand } from './tiles'

/** A cartogram with the rows of its data, each in its new shape; null where there are no areas. */
export type CartogramShapes = { made: Omit<Cartogram, 'geometry'>; dataset: Dataset } | null

/** Fields of amounts. */
/** A cartogram of more areas than this is slow to be a first look. */
const mostSuggested = 400

export const totals = (data: KindData): string[] =>
  numberFields(data).filter((key) => data.fieldMeta(key).role === 'total')

/** What areas are sized by first: people rather than anything else. */
export const firstSize = (data: KindData): string =>
  totals(data).find((key) => /pop|people|resident|inhab/i.test(`${key} ${data.fieldMeta(key).label}`)) ??
  totals(data)[0] ??
  ''

const counted = (n: number, one: string, many: string): string =>
  `${formatNumber(n, 0)} ${n === 1 ? one : many}`

/** “2.4 times too large”, “12 % off” */
const offBy = (worst: number): string =>
  worst > 1 ? `${formatNumber(1 + worst, 1)} times too large` : `${formatNumber(100 * worst, 1)} % off`

/** What has no shape, or not the whole of it, in words. */
function remarkOf(shapes: CartogramShapes): string {
  if (!shapes) return ''
  const { without, unplaced, drawnIn, tooMany, fit, tiles } = shapes.made
  return [
    ...(fit && fit.worst > wantedError
      ? [
          `${counted(fit.of - fit.right, 'area', 'areas')} of ${formatNumber(fit.of, 0)} could not be made right: the worst is ${offBy(fit.worst)}.`,
        ]
      : []),
    ...(tooMany
      ? [
          `${formatNumber(tooMany, 0)} areas are too many for tiles of their own, of which there are up to ${formatNumber(mostTiles, 0)}.`,
        ]
      : []),
    ...(without
      ? [
          `${counted(without, 'area', 'areas')} without a value above zero ${fit ? 'kept the ground that they had' : 'left out'}.`,
        ]
      : []),
    ...(unplaced
      ? [`${counted(unplaced, 'area', 'areas')} that the projection does not show left out.`]
      : []),
    ...(tiles?.strays
      ? [
          `${counted(tiles.strays, 'area has', 'areas have')} no tile by hand, or one that another has, and ${tiles.strays === 1 ? 'stands' : 'stand'} at the nearest that was free.`,
        ]
      : []),
    ...(drawnIn
      ? [`${counted(drawnIn, 'shape reaches', 'shapes reach')} over the edge of the world and was drawn in.`]
      : []),
  ].join(' ')
}

/** How much of the map is left in it. */
function figuresOf(shapes: CartogramShapes): string[] {
  if (!shapes || shapes.made.tooMany) return []
  const { pairs, touching, shiftM, acrossM, turnedDeg } = shapes.made.judged
  const { fit, form } = shapes.made
  return [
    ...(fit
      ? [
          fit.worst > wantedError
            ? `${formatNumber(fit.right, 0)} of ${formatNumber(fit.of, 0)} areas right to ${100 * wantedError} %, all off by ${formatNumber(100 * fit.mean, 1)} % in the mean, in ${counted(fit.rounds, 'round', 'rounds')}`
            : `areas right to ${formatNumber(100 * fit.worst, 2)} % at worst, ${formatNumber(100 * fit.mean, 3)} % in the mean, in ${counted(fit.rounds, 'round', 'rounds')}`,
          fit.folds
            ? `${counted(fit.folds, 'piece', 'pieces')} of the map folded over`
            : 'nothing folded over',
        ]
      : [isTiled(form) ? 'every area counts the same, whatever its amount' : 'areas exact']),
    ...(pairs
      ? [
          `${formatNumber(touching, 0)} of ${formatNumber(pairs, 0)} borders kept (${formatNumber((100 * touching) / pairs, 0)} %)`,
        ]
      : []),
    ...(Number.isFinite(shapes.made.likeness)
      ? [`shapes alike to ${formatNumber(100 * shapes.made.likeness, 0)} %`]
      : []),
    ...(shiftM > 0
      ? [
          `moved by ${formatNumber(shiftM / 1000, shiftM < 10_000 ? 1 : 0)} km in the mean, ${formatNumber(shiftM / acrossM, 1)} times the width of an area`,
          `neighbours turned by ${formatNumber(turnedDeg, 0)}°`,
        ]
      : []),
  ]
}

/** Areas as large as an amount, as circles, squares or in their own shapes, or one tile for each. */
export const cartogram: MapKind<CartogramSettings, CartogramPlan, CartogramShapes> = {
  ...choropleth,
  label: 'Cartogram',
  // Their own sizes say nothing here.
  comparesAreas: false,
  fits: 'Fit for amounts with shades',
  settings: CartogramSettings,
  accepts: (data) => data.dataset.geometry.kind === 'areas' && totals(data).length > 0,
  worthUpTo: 3000,
  suggests(data) {
    const [size] = totals(data)
    if (!size || data.dataset.rowCount > mostSuggested) return []
    const meta = data.fieldMeta(size)
    return [
      {
        settings: { ...cartogram.initial(data), size },
        shows: `Areas as large as their ${lowerFirst(meta.label)}`,
        because: 'Every amount has the ground that it deserves.',
        fit: 0.5,
      },
    ]
  },
  initial(data) {
    const first = choropleth.initial(data)
    return {
      ...first,
      outline: {
        ...first.outline,
        colour: '#ffffff',
        widthPt: 0.3,
        coastColour: '#ffffff',
        coastWidthPt: 0.3,
      },
      form: 'circles',
      size: firstSize(data),
      fill: 0.6,
      tiles: null,
    }
  },
  plan: planCartogram,
  shapes: {
    key: ({ form, size, fill, tiles }) => JSON.stringify([form, isTiled(form) ? tiles : size, fill]),
    remark: remarkOf,
    figures: figuresOf,
    onPaper: true,
    *make(plan, { form, tiles }, data, plane) {
      const { dataset } = data
      if (dataset.geometry.kind !== 'areas') return null
      const projection = createProjection(plane)
      const hand = tiles && isTiled(form) ? tileHand(tiles, data, projection) : null
      const { geometry, ...made } = yield* makeCartogram(
        dataset.geometry,
        plan.amounts,
        { form, m2: plan.m2, tiles: hand },
        projection,
      )
      return { made, dataset: { ...dataset, geometry } }
    },
    ready: null,
    at(shapes, place, { plan, settings, data }) {
      const feature = shapes ? featureAt(shapes.dataset.geometry, ...place) : -1
      const reading = feature >= 0 ? cartogram.read(plan, settings, data, feature) : null
      return reading && { feature, name: rowName(data, feature), reading }
    },
    outlined: (shapes) => shapes?.dataset.geometry ?? null,
    rows: (shapes) => shapes?.dataset ?? null,
    named: null,
    bend: (shapes) => shapes?.made.bend ?? null,
    rough: null,
  },
  draw: (plan, settings, context, shapes) =>
    shapes
      ? drawChoropleth(plan, settings, {
          ...context,
          dataset: shapes.dataset,
          projected: generalise(
            projectGeometry(shapes.dataset.geometry, context.projection),
            context.toleranceMm / context.to.mmPerMetre,
          ),
        })
      : [],
  legend: cartogramLegend,
  legendLines: choroplethLines,
  sentence: cartogramSentence,
  // Layers share schemes with shaded areas by the settings that these have.
  remap(settings, data) {
    const { form, fill } = settings
    const size = data.dataset.fields.some(({ key }) => key === settings.size)
      ? settings.size
      : firstSize(data)
    // Tiles by hand are those of certain areas.
    const keys = new Set(rowKeys(data))
    const tiles = Object.keys(settings.tiles?.cells ?? {}).some((key) => keys.has(key))
      ? settings.tiles
      : null
    return { ...settings, ...choropleth.remap(settings, data), form, size, fill, tiles }
  },
  years: choropleth.years && {
    ...choropleth.years,
    to: (settings, data, year) => ({ ...settings, ...choropleth.years?.to(settings, data, year) }),
    together: (settings, overYears) => ({
      ...settings,
      ...choropleth.years?.together(settings, overYears),
    }),
  },
  showField: (settings, field) => ({ ...settings, field, uncertainty: null }),
  read(plan, settings, data, feature) {
    const shade = choropleth.read(plan, settings, data, feature)
    if (!shade || isTiled(settings.form)) return shade
    const { label, unit } = data.fieldMeta(settings.size)
    const amount = plan.amounts[feature]
    const written = Number.isFinite(amount)
      ? `${writeNumber(amount, { ...settings.numbers, divideBy: 1, before: '', after: '' }, 0)} ${unit}`.trim()
      : 'no value'
    return { ...shade, detail: `${label}: ${written} · ${shade.detail}` }
  },
  caution(_, settings, data) {
    if (!isTiled(settings.form)) {
      const { role, label } = data.fieldMeta(settings.size)
      const [better] = totals(data)
      if (role !== 'total' && better)
        return {
          words: `“${label}” is no amount: sizes say nothing by it.`,
          remedies: [
            { label: `size by ${data.fieldMeta(better).label}`, settings: { ...settings, size: better } },
          ],
        }
    }
    return null
  },
}
