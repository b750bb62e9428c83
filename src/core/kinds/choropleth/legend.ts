import { solid } from '@/core/scene/paint'
import { stroke } from '@/core/scene/paint'
import { pointsToMm } from '@/core/scene/text'
import type { KindData, LegendEntry } from '../kind'
import { missingPaint } from './draw'
import { unitOf, type ChoroplethPlan } from './plan'
import type { ChoroplethSettings } from './spec'

export function choroplethLegend(plan: ChoroplethPlan, settings: ChoroplethSettings, { fieldMeta }: KindData): LegendEntry {
  const edge = settings.outline.widthPt > 0 && settings.outline.colour.toLowerCase() !== '#ffffff' ? stroke(settings.outline.colour, pointsToMm(settings.outline.widthPt)) : null
  const items: LegendEntry['items'] = plan.labels.map((label, i) => ({ key: `class-${i}`, label, swatch: { shape: 'box', fill: solid(plan.colours[i]), stroke: edge } }))
  if (plan.missingCount) items.push({ key: 'missing', label: settings.missing.label, swatch: { shape: 'box', fill: missingPaint(settings), stroke: edge ?? stroke('#9a9a9a', 0.1) } })
  return { heading: headingOf(settings, fieldMeta), items }
}

/** “Library loans 2025 per resident”, or the field with its unit. */
export function headingOf(settings: ChoroplethSettings, fieldMeta: KindData['fieldMeta']): string {
  const meta = fieldMeta(settings.field)
  if (settings.per === null) return meta.unit && !meta.label.toLowerCase().includes(meta.unit.toLowerCase()) ? `${meta.label} (${meta.unit})` : meta.label
  return `${meta.label} per ${unitOf(settings, fieldMeta).split(' per ').at(-1)}`
}
