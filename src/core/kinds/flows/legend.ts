import { decimalsFor } from '@/core/classify/labels'
import { writeNumber } from '@/core/classify/number-format'
import { stroke, withOpacity } from '@/core/scene/paint'
import type { KindData, LegendItem, LegendEntry } from '../kind'
import { headingOf } from '../values'
import { type FlowPlan } from './plan'
import { FlowSettings } from './spec'

export function flowLegend(plan: FlowPlan, settings: FlowSettings, { fieldMeta }: KindData): LegendEntry {
  const ink = settings.colour.by === 'nothing' ? settings.colour.fill : '#777777'
  const graded = plan.grades?.labels
    .map((label, i): LegendItem => ({
      key: `width-${i}`,
      label,
      swatch: {
        shape: 'line',
        fill: null,
        stroke: stroke(withOpacity(ink, settings.opacity), plan.grades?.widthsMm[i] ?? 0),
      },
    }))
    .reverse()
  const widths =
    graded ??
    plan.marks.map(({ value, widthMm }, i): LegendItem => ({
      key: `width-${i}`,
      label: writeNumber(value, settings.numbers, plan.decimals),
      swatch: { shape: 'line', fill: null, stroke: stroke(withOpacity(ink, settings.opacity), widthMm) },
    }))
  const hues = plan.hues.map(({ key, label, colour }, i): LegendItem => ({
    key: `hue-${key}`,
    label,
    apart: i === 0,
    swatch: { shape: 'line', fill: null, stroke: stroke(withOpacity(colour, settings.opacity), 0.8) },
  }))
  // Lines at the least width are wider than their values: the legend says so.
  const atLeast = plan.grades ? 0 : (settings.leastMm * settings.anchor.value) / settings.anchor.widthMm
  const widened = plan.flows.filter(({ value }) => value < atLeast * (1 - 1e-9)).length
  const floor: LegendItem[] = widened
    ? [
        {
          key: 'least-width',
          label: `under ${writeNumber(atLeast, settings.numbers, decimalsFor([atLeast]))}: all of this width`,
          swatch: {
            shape: 'line',
            fill: null,
            stroke: stroke(withOpacity(ink, settings.opacity), settings.leastMm),
          },
        },
      ]
    : []
  return {
    heading: headingOf(
      { field: settings.field, per: null, perCount: 1, numbers: settings.numbers },
      fieldMeta,
    ),
    items: [...widths, ...floor, ...hues],
  }
}
