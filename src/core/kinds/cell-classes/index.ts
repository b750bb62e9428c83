import { classIndex } from '@/core/classify/classify'
import { writeNumber } from '@/core/classify/number-format'
import { classingShape, firstClassing } from '@/core/classify/spec'
import { Colouring, colouringLabel, colouringShape, shadeOf } from '@/core/colour/colouring'
import { shareOn } from '../choropleth/plan'
import { valueUnder } from '../cells-on-paper/under'
import { classWords, shadeWords } from '../class-words'
import { pointedCells } from '../cells-on-paper/pointed'
import type { KindData, MapKind, SentencePart } from '../kind'
import { drawCellClasses } from './draw'
import { cellClassLegend, headingOf } from './legend'
import { planCellClasses, type CellClassPlan } from './plan'
import { CellClassSettings } from './spec'

/** Cells of a raster in classes, or in shades of their values. */
export const cellClasses: MapKind<CellClassSettings, CellClassPlan, true> = {
  label: 'Cells in classes',
  thematic: true,
  comparesAreas: true,
  fits: 'Fit for values that are measured everywhere',
  settings: CellClassSettings,
  accepts: ({ dataset: { raster } }) => raster !== undefined && !raster.ofKinds,
  suggests: (data) => [
    {
      settings: cellClasses.initial(data),
      shows: `${data.name} in classes`,
      because: 'Classes tell the ground of each range apart.',
      fit: 0.7,
    },
  ],
  initial: ({ name }) => ({
    band: 0,
    what: name,
    unit: '',
    cells: 'smooth',
    missing: null,
    ...firstClassing(6),
    ...Colouring.parse({ scheme: 'reed', reversed: false }),
    ownColours: {},
  }),
  plan: planCellClasses,
  shapes: pointedCells((place, { plan, settings, data }) => {
    const value = data.dataset.raster ? valueUnder(data.dataset.raster, settings.band)(place) : NaN
    if (!plan || Number.isNaN(value)) return null
    const { breaks, counts, inclusive } = plan.classification
    const index = classIndex(breaks, value, inclusive)
    const inClass = index < 0 ? 'outside all classes' : `class ${index + 1} of ${counts.length}`
    return {
      feature: -1,
      name: settings.what || data.name,
      reading: {
        value: `${writeNumber(value, settings.numbers, plan.decimals + 1)} ${settings.unit}`.trim(),
        detail: plan.scale ? '' : inClass,
      },
    }
  }),
  marks: () => [],
  draw: drawCellClasses,
  legend: cellClassLegend,
  legendLines: null,
  sentence,
  classings: (settings) => [settings],
  classification: (plan, settings, { name }) => {
    if (!plan) return null
    const share = plan.scale && shareOn(plan.scale)
    const [low, high] = plan.classification.breaks.map((b) => writeNumber(b, settings.numbers, plan.decimals))
    return {
      ...(share && { shadeOf: (value: number) => shadeOf(settings, share(value)) }),
      heading: headingOf(settings, name),
      unit: settings.unit,
      result: plan.classification,
      colours: plan.scale ? [plan.colours[plan.colours.length >> 1]] : plan.colours,
      labels: plan.scale ? [`${low} to ${high}`] : plan.labels,
      generated: plan.generated,
      values: plan.sample.values,
      things: ['cell', 'cells'],
      all: { there: plan.sample.there, missing: plan.sample.missing },
      km2: plan.km2,
      continuous: true,
      ground: plan.sample.ground,
      pool: plan.pool,
      mayMove: null,
    }
  },
  needs: ({ share }) => share?.members.map(({ datasetId }) => datasetId) ?? [],
  remap: (settings, { dataset: { raster } }) =>
    settings.band < (raster?.bands ?? 0) ? settings : { ...settings, band: 0 },
  shared: {
    keys: [...Object.keys(classingShape), ...Object.keys(colouringShape), 'ownColours'],
    member: ({ band }) => ({ made: { band } }),
  },
  years: null,
  showField: null,
  read: () => null,
  fonts: () => [],
  chip: (plan) => {
    if (!plan) return ['#9a9a9a']
    return plan.scale
      ? [0.05, 0.3, 0.55, 0.8, 0.99].map((share) => plan.colours[Math.floor(share * plan.colours.length)])
      : plan.colours
  },
  caution: () => null,
}

/** “Show the cells of relief in six classes by natural breaks, coloured Reed.” */
function sentence(settings: CellClassSettings, { name }: KindData): SentencePart[] {
  return [
    { text: 'Show the cells of ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ' ' },
    ...(settings.unclassed ? shadeWords(settings.unclassed) : classWords(settings)),
    { text: ', coloured ' },
    { text: colouringLabel(settings), control: 'colours' },
    { text: '.' },
  ]
}
