import { writeNumber } from '@/core/classify/number-format'
import { solid, stroke, withOpacity } from '@/core/scene/paint'
import { pointsToMm } from '@/core/scene/units'
import type { KindData, LegendEntry } from '../kind'
import { isRound, type ChartPlan } from './plan'
import { ChartSettings } from './spec'

export function chartLegend(plan: ChartPlan, settings: ChartSettings, { fieldMeta }: KindData): LegendEntry {
  const line =
    settings.outline.widthPt > 0 && settings.outline.colour.toLowerCase() !== '#ffffff'
      ? stroke(settings.outline.colour, pointsToMm(settings.outline.widthPt))
      : null
  const items = settings.parts.map(({ field, colour }) => ({
    key: `part-${field}`,
    label: fieldMeta(field).label,
    swatch: { shape: 'box' as const, fill: solid(withOpacity(colour, settings.opacity)), stroke: line },
  }))
  const unit = fieldMeta(settings.parts[0].field).unit
  const heading = isRound(settings) ? `Together${unit ? `, ${unit}` : ''}` : unit || 'Height'
  return plan.marks.length
    ? {
        heading: heading.charAt(0).toUpperCase() + heading.slice(1),
        items,
        itemsHeading: 'Parts',
        sizes: {
          shape: isRound(settings) ? 'circle' : 'bar',
          barWidthMm: settings.barWidthMm,
          form: isRound(settings) ? settings.legend.form : 'beside',
          fill: solid('#ffffff'),
          stroke: stroke('#555555', 0.15),
          marks: plan.marks.map(({ value, sizeMm }) => ({
            label: writeNumber(value, settings.numbers, plan.decimals),
            sizeMm,
          })),
        },
      }
    : { heading: 'Parts', items }
}
