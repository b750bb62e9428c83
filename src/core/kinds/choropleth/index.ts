import type { Colour } from '@/core/scene/paint'
import { writeNumber } from '@/core/classify/number-format'
import { classingShape } from '@/core/classify/spec'
import type { MapKind } from '../kind'
import { firstChoropleth } from './first'
import { choroplethSuggestions } from './suggest'
import { drawChoropleth } from './draw'
import { choroplethLegend, choroplethLines } from './legend'
import { groundOf, headingOf, numberFields, perCountFor, totalCaution, unitOf, worthShading } from '../values'
import { poolOf } from '../pool'
import { fieldYears } from '../years'
import { planChoropleth, shareOn, type ChoroplethPlan, type ShadeScale } from './plan'
import { choroplethSentence } from './sentence'
import { colouringShape, shadeOf } from '@/core/colour/colouring'
import { ChoroplethSettings } from './spec'

export const choropleth: MapKind<ChoroplethSettings, ChoroplethPlan> = {
  label: 'Choropleth',
  thematic: true,
  comparesAreas: true,
  fits: 'Fit for shading',
  settings: ChoroplethSettings,
  alike: 'shaded areas',
  accepts: (data) => data.dataset.geometry.kind === 'areas' && numberFields(data).length > 0,
  suggests: choroplethSuggestions,
  initial: (data) => firstChoropleth({ field: worthShading(data)[0] ?? '', per: null, perCount: 1 }, data),
  plan: planChoropleth,
  shapes: null,
  marks: () => [],
  draw: drawChoropleth,
  legend: choroplethLegend,
  legendLines: choroplethLines,
  sentence: choroplethSentence,
  classings: (settings) => [settings],
  classification: (plan, settings, data) =>
    plan.classification && {
      ...(plan.scale && { shadeOf: shadeAlong(plan.scale, settings) }),
      heading: headingOf(settings, data.fieldMeta),
      unit: unitOf(settings, data.fieldMeta),
      result: plan.classification,
      colours: plan.scale ? [plan.colours[plan.colours.length >> 1]] : plan.colours,
      labels: plan.scale
        ? [
            `${writeNumber(plan.classification.breaks[0], settings.numbers, plan.decimals)} to ${writeNumber(plan.classification.breaks[1], settings.numbers, plan.decimals)}`,
          ]
        : plan.labels,
      generated: plan.generated,
      values: plan.values,
      ground: groundOf(settings, data.dataset),
      pool: poolOf(settings, data),
      mayMove: plan.mayMove,
    },
  shared: {
    keys: [...Object.keys(classingShape), ...Object.keys(colouringShape), 'ownColours', 'missing'],
    member: ({ field, per, perCount }) => ({ field, per, perCount }),
  },
  needs: ({ share, mask }) => [
    ...(share?.members.map(({ datasetId }) => datasetId) ?? []),
    ...(mask ? [mask.datasetId] : []),
  ],
  remap: (settings, data) => {
    const has = (key: string | null) => key === null || data.dataset.fields.some((field) => field.key === key)
    return {
      ...settings,
      field: has(settings.field) ? settings.field : (worthShading(data)[0] ?? ''),
      per: has(settings.per) ? settings.per : null,
      uncertainty: has(settings.uncertainty?.field ?? null) ? settings.uncertainty : null,
    }
  },
  years: {
    ...fieldYears,
    // The error of one year says nothing of another.
    to: (settings, data, year) => ({ ...fieldYears.to(settings, data, year), uncertainty: null }),
  },
  // The error of one field says nothing of another.
  showField: (settings, field) => ({ ...settings, field, uncertainty: null }),
  read(plan, settings, { fieldMeta }, feature) {
    const index = plan.classOf[feature]
    if (index === -1) return { value: 'missing', detail: 'no value' }
    const value =
      `${writeNumber(plan.values[feature], settings.numbers, plan.decimals + 1)} ${unitOf(settings, fieldMeta)}`.trim()
    if (index <= -3) return { value, detail: `set aside: ${settings.setAside[-3 - index].label}` }
    const total = plan.classification?.counts.length ?? 0
    const inClass = plan.scale ? '' : `class ${index + 1} of ${total} · `
    const higher = plan.values.reduce((n, v) => n + (v > plan.values[feature] ? 1 : 0), 1)
    return {
      value,
      detail:
        index === -2
          ? 'outside all classes'
          : `${inClass}rank ${higher} of ${plan.values.length - plan.missingCount}`,
    }
  },
  fonts: () => [],
  chip: (plan) =>
    plan.scale
      ? [0.05, 0.3, 0.55, 0.8, 0.99].map((share) => plan.colours[Math.floor(share * plan.colours.length)])
      : plan.colours,
  caution: (_, settings, data) =>
    totalCaution(settings, data, (per) => ({
      ...settings,
      per,
      perCount: perCountFor(settings.field, per, data),
    })),
}

function shadeAlong(scale: ShadeScale, settings: ChoroplethSettings): (value: number) => Colour {
  const share = shareOn(scale)
  return (value) => shadeOf(settings, share(value))
}
