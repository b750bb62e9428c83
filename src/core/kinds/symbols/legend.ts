import { writeNumber } from '@/core/classify/number-format'
import { solid, stroke, withOpacity } from '@/core/scene/paint'
import { pointsToMm } from '@/core/scene/units'
import type { KindData, LegendEntry, LegendLines } from '../kind'
import { headingOf } from '../values'
import type { SymbolPlan } from './plan'
import type { SymbolSettings } from './spec'

export function symbolLegend(
  plan: SymbolPlan,
  settings: SymbolSettings,
  { fieldMeta }: KindData,
): LegendEntry {
  const { shape, barWidthMm, opacity, outline, fill } = settings
  const line = outline.widthPt > 0 ? stroke(outline.colour, pointsToMm(outline.widthPt)) : null
  const plain = plan.hues ? '#ffffff' : fill
  const marks = plan.grades
    ? plan.grades.labels.map((label, i) => ({ label, sizeMm: plan.grades?.sizesMm[i] ?? 0 })).reverse()
    : plan.marks.map(({ value, sizeMm }) => ({
        label: writeNumber(value, settings.numbers, plan.decimals),
        sizeMm,
      }))
  const items: LegendEntry['items'] = (plan.hues?.list ?? []).map(({ key, label, colour }) => ({
    key,
    label,
    swatch: { shape: 'box', fill: solid(withOpacity(colour, opacity)), stroke: line },
  }))
  if (plan.hues && plan.order.some((f) => plan.hues && plan.hues.of[f] < 0))
    items.push({
      key: 'missing',
      apart: true,
      label: settings.missing.label,
      swatch: { shape: 'box', fill: solid(withOpacity(settings.missing.colour, opacity)), stroke: line },
    })
  if (!plan.hues && plan.values.some((value) => value < 0))
    items.push({
      key: 'negative',
      apart: true,
      label: 'under zero',
      swatch: {
        shape: 'dot',
        sizeMm: 3,
        fill: settings.negative.hollow ? null : solid(withOpacity(settings.negative.fill, opacity)),
        stroke: settings.negative.hollow ? stroke(settings.negative.fill, 0.25) : line,
      },
    })
  const colourHeading = headingOfColour(settings.colour, fieldMeta)
  return {
    heading: headingOf(settings, fieldMeta),
    items,
    ...(colourHeading && { itemsHeading: colourHeading }),
    sizes: {
      shape,
      barWidthMm,
      picture: settings.picture,
      form: plan.grades ? 'list' : settings.legend.form,
      fill: solid(withOpacity(plain, opacity)),
      stroke: plan.hues ? stroke('#555555', 0.15) : line,
      marks,
    },
  }
}

function headingOfColour(colour: SymbolSettings['colour'], fieldMeta: KindData['fieldMeta']): string {
  if (colour.by === 'value') return headingOf(colour, fieldMeta)
  return colour.by === 'category' ? fieldMeta(colour.field).label : ''
}

/** Which line of the colours a symbol has. */
export const symbolLines = ({ hues }: SymbolPlan): LegendLines | null =>
  hues && {
    keys: [...hues.list.map(({ key }) => key), 'missing'],
    of: (feature) => (hues.of[feature] < 0 ? 'missing' : hues.list[hues.of[feature]].key),
  }
