import { writeNumber } from '@/core/classify/number-format'
import { firstClassing } from '@/core/classify/spec'
import { Colouring } from '@/core/colour/colouring'
import { numbersOf, textAt } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { extentOf } from '@/core/geo/extent'
import { featureAt } from '@/core/geo/feature-at'
import { boundsIn, planeFor } from '@/core/grid/grid'
import { plainAreaLook } from '../area-drawing'
import { choropleth } from '../choropleth'
import { choroplethLines } from '../choropleth/legend'
import type { KindData, MapKind } from '../kind'
import { numberFields } from '../values'
import { drawCells } from './draw'
import { cellLegend } from './legend'
import { gathered, gatherKey, gatherSteps, type Gathered } from './gather'
import { asChoropleth, cellData, figureMeta, planCells, type CellPlan } from './plan'
import { cellSentence } from './sentence'
import { CellSettings } from './spec'

/** A spacing that gives some thirty cells across the data, as a round number of km. */
export function proposedSpacing({ dataset }: Pick<KindData, 'dataset'>): number {
  const extent = extentOf([dataset.geometry])
  if (!extent) return 10
  const [x0, , x1] = boundsIn(planeFor(extent), [dataset.geometry])
  const km = (x1 - x0) / 1000 / 30
  if (!(km > 0)) return 1
  const power = 10 ** Math.floor(Math.log10(km))
  const round = [1, 2, 5, 10].find((n) => n * power >= km) ?? 10
  return Math.min(5000, Math.max(0.01, round * power))
}

const counted = (n: number, thing: string): string =>
  `${n.toLocaleString('en-GB')} ${n === 1 ? thing : `${thing}s`}`

/** “Weneringe Library and 4 more”: what gives most to a cell. */
function memberWords({ members, dataset }: Gathered, cell: number, data: KindData): string {
  const column = fieldOf(dataset, 'points')
  const points = column ? numbersOf(column)[cell] : 0
  if (!points) return 'no points'
  const names = data.dataset.fields.find(({ key }) => data.fieldMeta(key).role === 'name')
  const name = names && members[cell].length ? textAt(names.column, members[cell][0]) : null
  if (!name) return counted(points, 'point')
  return points > 1 ? `${name} and ${points - 1} more` : name
}

/** Points gathered in equal cells. */
export const cells: MapKind<CellSettings, CellPlan, Gathered | null> = {
  label: 'Grid cells',
  thematic: true,
  comparesAreas: true,
  fits: 'Fit for many points',
  settings: CellSettings,
  worthFrom: 200,
  accepts: ({ dataset }) => dataset.geometry.kind === 'points' && dataset.rowCount > 1,
  suggests: (data) =>
    data.dataset.rowCount < 200
      ? []
      : [
          {
            settings: cells.initial(data),
            shows: `${data.name} by cells of equal ground`,
            because: 'So many points are easier to compare when they are counted.',
            fit: 0.74,
          },
        ],
  initial: (data) => {
    const look = plainAreaLook()
    return {
      figure: 'count',
      field: null,
      weight: null,
      shareOf: null,
      shape: 'hexagons',
      spacingKm: proposedSpacing(data),
      form: 'classes',
      highestMm: 25,
      empty: null,
      ...firstClassing(5),
      ...Colouring.parse({ scheme: 'reed', reversed: false }),
      ownColours: {},
      ...look,
      outline: { ...look.outline, widthPt: 0.2, coastColour: '#ffffff', coastWidthPt: 0.2 },
    }
  },
  plan: planCells,
  shapes: {
    key: (settings) => gatherKey(settings),
    remark: (found) =>
      [
        ...(found?.missing ? [`${counted(found.missing, 'point')} without a value left out.`] : []),
        ...(found?.unplaced
          ? [`${counted(found.unplaced, 'point')} lie where the grid does not reach.`]
          : []),
      ].join(' '),
    *make(_, settings, data) {
      return gathered(settings, data)
    },
    ready: gatherSteps,
    at(found, place, { plan, settings, data }) {
      const cell = found ? featureAt(found.dataset.geometry, ...place) : -1
      const reading = cell >= 0 ? cells.read(plan, settings, data, cell) : null
      return found && reading && { feature: cell, name: memberWords(found, cell, data), reading }
    },
    named: null,
    outlined: (found) => found?.dataset.geometry ?? null,
    rows: null,
    figures: null,
    onPaper: false,
    bend: null,
    rough: null,
  },
  marks: () => [],
  draw: drawCells,
  legend: cellLegend,
  legendLines: (plan, settings) => choroplethLines(plan, asChoropleth(settings)),
  sentence: cellSentence,
  classings: (settings) => [settings],
  classification: (plan, settings, data) => {
    const classes = choropleth.classification(plan, asChoropleth(settings), cellData(settings, data), 0)
    const sizes = new Float64Array(plan.values.length).fill(plan.cellM2)
    return (
      classes && {
        ...classes,
        things: ['cell', 'cells'] as [string, string],
        ground: { sizes, neighbours: null },
      }
    )
  },
  shared: null,
  years: null,
  showField: (settings, field) => ({
    ...settings,
    field,
    figure: settings.figure === 'count' ? 'sum' : settings.figure,
  }),
  needs: ({ empty, mask }) => [...(empty ? [empty.datasetId] : []), ...(mask ? [mask.datasetId] : [])],
  remap(settings, data) {
    const has = (key: string | null) => key === null || data.dataset.fields.some((field) => field.key === key)
    const kept = has(settings.field) && has(settings.weight)
    return kept
      ? settings
      : {
          ...settings,
          figure: 'count',
          field: null,
          weight: null,
          shareOf: null,
          spacingKm: proposedSpacing(data),
        }
  },
  read(plan, settings, data, cell) {
    const value = plan.values[cell]
    if (!Number.isFinite(value)) return { value: 'no value', detail: '' }
    const { unit } = figureMeta(settings, data)
    return {
      value: `${writeNumber(value, settings.numbers, plan.decimals + 1)} ${unit}`.trim(),
      detail: `class ${plan.classOf[cell] + 1} of ${plan.classification?.counts.length ?? 0}`,
    }
  },
  fonts: () => [],
  chip: (plan) => (plan.colours.length ? plan.colours : ['#9a9a9a']),
  caution(_, settings, data) {
    const { figure, field } = settings
    if (figure === 'sum' && field && ['rate', 'share', 'index'].includes(data.fieldMeta(field).role))
      return {
        words: `“${data.fieldMeta(field).label}” is a ratio: its sum means nothing.`,
        remedies: [{ label: 'take the mean', settings: { ...settings, figure: 'mean' } }],
      }
    if (figure === 'weighted mean' && settings.weight === null) {
      const [weight] = numberFields(data).filter((key) => data.fieldMeta(key).role === 'total')
      return {
        words: 'A weighted mean needs a field that says what each value weighs.',
        remedies: weight
          ? [{ label: `by ${data.fieldMeta(weight).label}`, settings: { ...settings, weight } }]
          : [],
      }
    }
    return null
  },
}
