import { classIndex } from '@/core/classify/classify'
import { writeNumber } from '@/core/classify/number-format'
import { histogram } from '@/core/data/summary'
import { solid, stroke } from '@/core/scene/paint'
import { rampItems } from '../choropleth/legend'
import type { KindData, LegendEntry } from '../kind'
import type { CellClassPlan } from './plan'
import type { CellClassSettings } from './spec'

/** What the values are, with their unit where the words do not hold it. */
export const headingOf = ({ what, unit }: Pick<CellClassSettings, 'what' | 'unit'>, name: string): string => {
  const said = what || name
  return unit && !said.toLowerCase().includes(unit.toLowerCase()) ? `${said} (${unit})` : said
}

/** A line for each class, or a bar of shades; one for cells without a value where these are shown. */
export function cellClassLegend(
  plan: CellClassPlan,
  settings: CellClassSettings,
  { name }: KindData,
): LegendEntry {
  const heading = headingOf(settings, name)
  if (!plan) return { heading, items: [] }
  const { breaks } = plan.classification
  const items: LegendEntry['items'] = plan.scale
    ? rampItems(plan.scale, settings)
    : plan.labels.map((label, i) => ({
        key: `class-${i}`,
        label,
        swatch: { shape: 'box', fill: solid(plan.colours[i]), stroke: null },
      }))
  if (settings.missing && plan.sample.missing)
    items.push({
      key: 'missing',
      apart: true,
      label: settings.missing.label,
      swatch: { shape: 'box', fill: solid(settings.missing.colour), stroke: stroke('#9a9a9a', 0.1) },
    })
  if (plan.scale || breaks.length < 3) return { heading, items }
  const colourOf = (value: number) => plan.colours[classIndex(breaks, value, settings.inclusive)] ?? '#999999'
  return {
    heading,
    items,
    limits: breaks.map((b) => writeNumber(b, settings.numbers, plan.decimals)),
    distribution: {
      low: breaks[0],
      high: breaks[breaks.length - 1],
      at: breaks,
      bins: histogram(plan.sample.values, 24).map((bin) => ({
        ...bin,
        colour: colourOf((bin.from + bin.to) / 2),
      })),
    },
  }
}
