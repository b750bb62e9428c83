import { unordered } from '@/core/colour/schemes'
import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import type { KindData, MapKind } from '../kind'
import { numberFields, worthAMap } from '../values'
import { proposedValue } from './counts'
import { drawDots } from './draw'
import { dotLegend, eachWords } from './legend'
import { planDots, type DotPlan } from './plan'
import { dotSentence } from './sentence'
import { dotShapesKey, makeDotShapes, type DotShapes } from './shapes'
import { DotSettings } from './spec'

const colours = (): readonly string[] => unordered.market.colours

/** Fields that can be dotted: totals first, as ratios count nothing. */
const dottable = (data: KindData): string[] => {
  const isTotal = (key: string) => data.fieldMeta(key).role === 'total'
  const all = numberFields(data)
  return [...all.filter(isTotal), ...all.filter((key) => !isTotal(key))]
}

export const totalOf = ({ dataset }: Pick<KindData, 'dataset'>, fields: readonly string[]): number =>
  fields.reduce((sum, key) => {
    const column = fieldOf(dataset, key)
    return sum + (column ? numbersOf(column).reduce((all, n) => all + (n > 0 ? n : 0), 0) : 0)
  }, 0)

const dotted = (data: KindData, field: string) => ({
  fields: [{ field, colour: colours()[0] }],
  each: proposedValue(totalOf(data, [field])),
})

/** One dot for so many of a total, placed evenly by chance within each area. */
export const dots: MapKind<DotSettings, DotPlan, DotShapes> = {
  label: 'Dots',
  thematic: true,
  comparesAreas: true,
  fits: 'Fit for totals in areas',
  settings: DotSettings,
  accepts: (data) => data.dataset.geometry.kind === 'areas' && numberFields(data).length > 0,
  suggests: (data) =>
    worthAMap(data, 'total')
      .slice(0, 1)
      .map((field) => ({
        settings: { ...dots.initial(data), ...dotted(data, field) },
        shows: data.fieldMeta(field).label,
        because: 'Dots show a total where it is, as many as there are.',
        fit: data.dataset.rowCount > 12 ? 0.6 : 0.35,
      })),
  initial(data) {
    const [field = ''] = dottable(data)
    return {
      ...dotted(data, field),
      sizeMm: 0.5,
      mask: null,
      seed: 1,
    }
  },
  plan: planDots,
  shapes: {
    key: dotShapesKey,
    make: makeDotShapes,
    ready: null,
    at: null,
    named: null,
    outlined: null,
    rows: null,
    figures: null,
    onPaper: false,
    bend: null,
    rough: null,
    remark: ({ strayed }) =>
      strayed
        ? `${strayed.toLocaleString('en-GB')} ${strayed === 1 ? 'dot has' : 'dots have'} no such ground in their area and lie anywhere in it.`
        : '',
  },
  marks: () => [],
  draw: drawDots,
  legend: dotLegend,
  legendLines: null,
  sentence: dotSentence,
  classings: () => [],
  classification: () => null,
  shared: null,
  years: null,
  showField: (settings, field) => ({
    ...settings,
    fields: [{ ...settings.fields[0], field }],
  }),
  needs: ({ mask }) => (mask ? [mask.datasetId] : []),
  remap(settings, data) {
    const kept = settings.fields.filter(({ field }) => data.dataset.fields.some(({ key }) => key === field))
    if (kept.length) return { ...settings, fields: kept }
    const [field = ''] = dottable(data)
    return {
      ...settings,
      fields: [{ ...settings.fields[0], field }],
      each: proposedValue(totalOf(data, [field])),
    }
  },
  read({ counts }, { fields, each }, { dataset, fieldMeta }, feature) {
    const words = fields.map(({ field }, i) => {
      const column = fieldOf(dataset, field)
      const value = column ? numbersOf(column)[feature] : NaN
      const said = Number.isFinite(value)
        ? `${eachWords(value)} ${fieldMeta(field).label.toLowerCase()}`
        : 'no value'
      return { said, dots: counts[i][feature] }
    })
    const count = words.reduce((sum, one) => sum + one.dots, 0)
    return {
      value: words.map(({ said }) => said).join(', '),
      detail: `${count === 1 ? '1 dot' : `${count} dots`} of ${eachWords(each)}`,
    }
  },
  fonts: () => [],
  chip: (_, { fields }) => fields.map(({ colour }) => colour),
  caution(plan, settings, { fieldMeta }) {
    const ratio = settings.fields.find(({ field }) =>
      ['rate', 'share', 'index'].includes(fieldMeta(field).role),
    )
    if (ratio)
      return {
        words: `“${fieldMeta(ratio.field).label}” is a ratio: dots stand for numbers of something.`,
        remedies: [],
      }
    if (plan.dots > 1_500_000)
      return {
        words: `${plan.dots.toLocaleString('en-GB')} dots are more than can be drawn well.`,
        remedies: [
          {
            label: 'Fewer dots',
            settings: { ...settings, each: proposedValue(plan.dots * settings.each) },
          },
        ],
      }
    if (plan.negative)
      return {
        words: `${plan.negative} values below zero have no dots.`,
        remedies: [],
      }
    return null
  },
}
