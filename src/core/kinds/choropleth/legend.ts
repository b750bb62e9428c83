import { solid } from '@/core/scene/paint'
import { stroke } from '@/core/scene/paint'
import { pointsToMm } from '@/core/scene/units'
import type { KindData, LegendEntry, LegendLines } from '../kind'
import { asideOf, classIndex } from '@/core/classify/classify'
import { histogram } from '@/core/data/summary'
import { decimalsFor, formatNumber } from '@/core/classify/labels'
import { writeNumber } from '@/core/classify/number-format'
import { shadeOf, type Colouring } from '@/core/colour/colouring'
import { asidePaint } from '../area-drawing'
import { unreliablePaint } from './draw'
import { pencilSwatch, shareOfClass } from '../pencil'
import { headingOf } from '../values'
import { shareOn, type ChoroplethPlan, type ShadeScale } from './plan'
import type { ChoroplethSettings } from './spec'

export function choroplethLegend(
  plan: ChoroplethPlan,
  settings: ChoroplethSettings,
  { fieldMeta }: KindData,
): LegendEntry {
  const edge =
    settings.outline.widthPt > 0 && settings.outline.colour.toLowerCase() !== '#ffffff'
      ? stroke(settings.outline.colour, pointsToMm(settings.outline.widthPt))
      : null
  const items: LegendEntry['items'] = plan.scale
    ? rampItems(plan.scale, settings)
    : plan.labels.map((label, i) => ({
        key: `class-${i}`,
        label,
        swatch: settings.pencil
          ? pencilSwatch(plan.colours[i], settings.pencil, shareOfClass(i, plan.labels.length), edge)
          : { shape: 'box', fill: solid(plan.colours[i]), stroke: edge },
      }))
  settings.setAside.forEach((apart, i) => {
    if (plan.classification?.aside[i])
      items.push({
        key: `aside-${apart.id}`,
        apart: true,
        label: apart.label,
        swatch: { shape: 'box', fill: asidePaint(apart), stroke: edge ?? stroke('#9a9a9a', 0.1) },
      })
  })
  if (settings.uncertainty && plan.unreliable?.includes(1))
    items.push({
      key: 'unreliable',
      apart: true,
      label: `error over ${formatNumber(settings.uncertainty.over, 0)} %`,
      swatch: {
        shape: 'box',
        fill: unreliablePaint(settings.uncertainty.show),
        stroke: edge ?? stroke('#9a9a9a', 0.1),
      },
    })
  if (plan.missingCount)
    items.push({
      key: 'missing',
      apart: true,
      label: settings.missing.label,
      swatch: { shape: 'box', fill: asidePaint(settings.missing), stroke: edge ?? stroke('#9a9a9a', 0.1) },
    })
  const { breaks = [] } = plan.classification ?? {}
  if (plan.scale || breaks.length < 3) return { heading: headingOf(settings, fieldMeta), items }
  const limits = breaks.map((b) => writeNumber(b, settings.numbers, plan.decimals))
  const colourOf = (value: number) => plan.colours[classIndex(breaks, value, settings.inclusive)] ?? '#999999'
  const bins = histogram(
    plan.values.filter((value) => Number.isFinite(value) && asideOf(value, settings.setAside) < 0),
    24,
  ).map((bin) => ({ ...bin, colour: colourOf((bin.from + bin.to) / 2) }))
  return {
    heading: headingOf(settings, fieldMeta),
    items,
    limits,
    distribution: { low: breaks[0], high: breaks[breaks.length - 1], at: breaks, bins },
  }
}

/** A piece of a continuous bar about each of the round values; set without gaps they make one bar. */
export function rampItems(
  scale: ShadeScale,
  settings: Pick<ChoroplethSettings, 'numbers'> & Colouring,
): LegendEntry['items'] {
  const { numbers } = settings
  const { ticks } = scale
  const at = ticks.map(shareOn(scale))
  const decimals = decimalsFor(ticks.map((tick) => tick / numbers.divideBy))
  return ticks.map((tick, i) => {
    const below = i ? (at[i - 1] + at[i]) / 2 : Math.max(0, at[0] - ((at[1] ?? 1) - at[0]) / 2)
    const above =
      i + 1 < at.length ? (at[i] + at[i + 1]) / 2 : Math.min(1, at[i] + (at[i] - (at[i - 1] ?? 0)) / 2)
    const colours = Array.from({ length: 5 }, (_, j) => shadeOf(settings, below + ((above - below) * j) / 4))
    return {
      key: `class-${i}`,
      label: writeNumber(tick, numbers, decimals),
      swatch: { shape: 'ramp', colours, fill: null, stroke: null },
    }
  })
}

/** Which line a feature has: its class, the class set aside that it is in, or that of missing values. */
export function choroplethLines(
  { scale, classOf, labels }: ChoroplethPlan,
  { setAside }: ChoroplethSettings,
): LegendLines {
  const apart = setAside.map(({ id }) => `aside-${id}`)
  return {
    keys: [...(scale ? [] : labels.map((_, i) => `class-${i}`)), ...apart, 'missing'],
    of(feature) {
      const at = classOf[feature]
      if (at >= 0) return scale ? null : `class-${at}`
      return at === -1 ? 'missing' : (apart[-3 - at] ?? null)
    },
  }
}
