import { stroke } from '@/core/scene/paint'
import { asidePaint } from '../area-drawing'
import type { KindData, LegendEntry } from '../kind'
import { pencilled, spacingFor } from '../pencil'
import { headingOf } from '../values'
import type { BivariatePlan } from './plan'
import type { BivariateSettings } from './spec'

export function bivariateLegend(
  plan: BivariatePlan,
  settings: BivariateSettings,
  { fieldMeta }: KindData,
): LegendEntry {
  const edge = stroke('#9a9a9a', 0.1)
  const [across, up] = [settings.across, settings.up].map((variable) => headingOf(variable, fieldMeta))
  const items: LegendEntry['items'] = [...settings.across.setAside, ...settings.up.setAside].flatMap(
    (apart, i) =>
      plan.cellOf.includes(-3 - i)
        ? [
            {
              key: `aside-${apart.id}`,
              apart: true,
              label: apart.label,
              swatch: { shape: 'box' as const, fill: asidePaint(apart), stroke: edge },
            },
          ]
        : [],
  )
  if (plan.missingCount)
    items.push({
      key: 'missing',
      apart: true,
      label: settings.missing.label,
      swatch: { shape: 'box', fill: asidePaint(settings.missing), stroke: edge },
    })
  const { pencil } = settings
  return {
    heading: '',
    items,
    square: {
      cells: plan.cells,
      turned: settings.turned && settings.form !== 'suppressing',
      across,
      up,
      ...(pencil && {
        filled: (outline, colour) =>
          pencilled(outline, colour, pencil, { origin: [0, 0], spacingMm: spacingFor(pencil, 1) }),
      }),
    },
  }
}
