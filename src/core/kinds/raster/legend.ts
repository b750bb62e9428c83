import { formatNumber } from '@/core/classify/labels'
import { solid } from '@/core/scene/paint'
import type { KindData, LegendEntry } from '../kind'
import { colourOfValue, type RasterPlan } from './plan'
import type { RasterSettings } from './spec'

const steps = 5

/** Some values along the ramp, or the name alone where the raster is shown as it is. */
export function rasterLegend(plan: RasterPlan, { look }: RasterSettings, { name }: KindData): LegendEntry {
  if (!plan || look === 'colours')
    return {
      heading: '',
      items: [{ key: 'all', label: name, swatch: { shape: 'box', fill: null, stroke: null } }],
    }
  const digits = plan.high - plan.low >= 20 ? 0 : 2
  return {
    heading: name,
    items: Array.from({ length: steps }, (_, i) => {
      const value = plan.low + ((plan.high - plan.low) * i) / (steps - 1)
      const hex = `#${colourOfValue(plan, value)
        .map((c) => c.toString(16).padStart(2, '0'))
        .join('')}`
      return {
        key: `step-${i}`,
        label: formatNumber(value, digits),
        swatch: { shape: 'box', fill: solid(hex), stroke: null },
      }
    }),
  }
}
