import { Classing } from '@/core/classify/spec'
import { writeNumber } from '@/core/classify/number-format'
import { Colouring } from '@/core/colour/colouring'
import { firstAreaLook } from '../first-look'
import type { KindData, MapKind } from '../kind'
import { groundOf, headingOf, numberFields, perCountFor, totalCaution, unitOf, worthShading } from '../values'
import { drawBivariate } from './draw'
import { bivariateLegend } from './legend'
import { planBivariate, type BivariatePlan } from './plan'
import { bivariateSentence } from './sentence'
import { BivariateSettings, type Variable } from './spec'
import { bivariateSuggestions } from './suggest'

const variable = (field: string): Variable => ({
  field,
  per: null,
  perCount: 1,
  ...Classing.parse({ method: 'quantile', classes: 3, manualBreaks: [], rounded: true }),
})

const firstBivariate = (across: string, up: string, data: KindData): BivariateSettings => ({
  across: variable(across),
  up: variable(up),
  form: 'square',
  square: 'moss and slate',
  colouring: Colouring.parse({ scheme: 'inlet', reversed: false }),
  ground: '#ffffff',
  turned: true,
  ...firstAreaLook(data),
})

function remapped(one: Variable, { dataset }: KindData, otherwise: string): Variable {
  const has = (key: string | null) => key === null || dataset.fields.some((field) => field.key === key)
  return { ...one, field: has(one.field) ? one.field : otherwise, per: has(one.per) ? one.per : null }
}

/** Two fields on one map: as a field of colours, with the second as strength, or with the second as error. */
export const bivariate: MapKind<BivariateSettings, BivariatePlan> = {
  label: 'Bivariate choropleth',
  thematic: true,
  comparesAreas: true,
  fits: 'Fit for shading',
  settings: BivariateSettings,
  accepts: (data) => data.dataset.geometry.kind === 'areas' && numberFields(data).length > 1,
  suggests: (data) => bivariateSuggestions(data, (across, up) => firstBivariate(across, up, data)),
  initial: (data) => {
    const [first, second] = worthShading(data)
    return firstBivariate(first, second ?? first, data)
  },
  plan: planBivariate,
  shapes: null,
  marks: () => [],
  draw: drawBivariate,
  legend: bivariateLegend,
  legendLines: null,
  sentence: bivariateSentence,
  classings: ({ across, up }) => [across, up],
  classification(plan, settings, data, which) {
    const side = plan.sides[which === 1 ? 1 : 0]
    const one = which === 1 ? settings.up : settings.across
    if (!side.classification) return null
    // On the bench a field has the colours that it has where the other one is at its end.
    const colours = side.labels.map((_, i) =>
      which === 1 ? plan.cells[i][0] : plan.cells[settings.form === 'fading' ? plan.cells.length - 1 : 0][i],
    )
    return {
      heading: headingOf(one, data.fieldMeta),
      unit: unitOf(one, data.fieldMeta),
      result: side.classification,
      colours,
      labels: side.labels,
      generated: side.generated,
      values: side.values,
      ground: groundOf(one, data.dataset),
      pool: null,
      mayMove: null,
    }
  },
  shared: null,
  years: null,
  showField: null,
  needs: ({ mask }) => (mask ? [mask.datasetId] : []),
  remap(settings, data) {
    const [first, second] = worthShading(data)
    return {
      ...settings,
      across: remapped(settings.across, data, first),
      up: remapped(settings.up, data, second ?? first),
    }
  },
  read(plan, settings, { fieldMeta }, feature) {
    if (plan.cellOf[feature] === -1) return { value: 'missing', detail: 'no value of one or both' }
    const [first, second] = [settings.across, settings.up].map((one, i) =>
      `${writeNumber(plan.sides[i].values[feature], one.numbers, plan.sides[i].decimals + 1)} ${unitOf(one, fieldMeta)}`.trim(),
    )
    return { value: first, detail: second }
  },
  fonts: () => [],
  chip: ({ cells }) =>
    [cells[0][0], cells[0].at(-1), cells.at(-1)?.[0], cells.at(-1)?.at(-1)].filter(
      (colour) => colour !== undefined,
    ),
  caution: (_, settings, data) =>
    totalCaution(settings.across, data, (per) => ({
      ...settings,
      across: { ...settings.across, per, perCount: perCountFor(settings.across.field, per, data) },
    })) ??
    totalCaution(settings.up, data, (per) => ({
      ...settings,
      up: { ...settings.up, per, perCount: perCountFor(settings.up.field, per, data) },
    })),
}
