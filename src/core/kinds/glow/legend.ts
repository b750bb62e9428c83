import type { GlowPlan } from './plan'
import { GlowSettings } from './spec'
import type { KindData, LegendEntry } from '../kind'

export function glowLegend(
  _: GlowPlan,
  { edge, middle, core }: GlowSettings,
  { name }: KindData,
): LegendEntry {
  return {
    heading: '',
    items: [
      {
        key: 'glow',
        label: name,
        swatch: { shape: 'ramp', colours: [edge, middle, core], fill: null, stroke: null },
      },
    ],
  }
}
