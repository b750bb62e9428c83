import { writeNumber } from '@/core/classify/number-format'
import { shadeOf } from '@/core/colour/colouring'
import { histogram } from '@/core/data/summary'
import { classIndex } from '@/core/classify/classify'
import { decimalsFor } from '@/core/classify/labels'
import { scaleTicks } from '@/core/classify/scaling'
import { solid, stroke } from '@/core/scene/paint'
import { pointsToMm } from '@/core/scene/units'
import { unreliablePaint } from '../choropleth/draw'
import type { LegendEntry, LegendItem } from '../kind'
import { pencilSwatch, shareOfClass } from '../pencil'
import { stepColours } from './draw'
import { decimalsOf, isIndex } from './isolines'
import type { SurfaceLook } from './look'
import type { SurfacePlan } from './plan'

/** Classes, shades of a tint, or what lines mean. */
export function surfaceLegend(
  plan: SurfacePlan,
  settings: SurfaceLook,
  { heading, unit, doubt }: { heading: string; unit: string; doubt: ((limit: number) => string) | null },
): LegendEntry {
  const said = unit && !heading.toLowerCase().includes(unit.toLowerCase()) ? `${heading} (${unit})` : heading
  const { form } = settings
  const lined = form === 'lines' || (settings.lined && form !== 'shaded')
  const items: LegendItem[] = [
    ...(form === 'bands' ? classItems(plan, settings) : []),
    ...(form === 'tint' ? tintItems(plan, settings) : []),
    ...(form === 'shaded' ? litItems(plan, settings) : []),
    ...(lined ? lineItems(plan, settings, unit) : []),
    ...(settings.uncertain && doubt
      ? [
          {
            key: 'doubtful',
            apart: true,
            label: doubt(settings.uncertain.limit),
            swatch: {
              shape: 'box' as const,
              fill: unreliablePaint(settings.uncertain.show),
              stroke: stroke('#9a9a9a', 0.1),
            },
          },
        ]
      : []),
  ]
  const { breaks = [] } = plan.classification ?? {}
  if (form !== 'bands' || breaks.length < 3) return { heading: said, items }
  const colourOf = (value: number) => plan.colours[classIndex(breaks, value, settings.inclusive)] ?? '#999999'
  return {
    heading: said,
    items,
    limits: breaks.map((b) => writeNumber(b, settings.numbers, plan.decimals)),
    distribution: {
      low: breaks[0],
      high: breaks[breaks.length - 1],
      at: breaks,
      bins: histogram(plan.sample, 24).map((bin) => ({ ...bin, colour: colourOf((bin.from + bin.to) / 2) })),
    },
  }
}

const classItems = ({ labels, colours }: SurfacePlan, { pencil }: SurfaceLook): LegendItem[] =>
  labels.map((label, i) => ({
    key: `class-${i}`,
    label,
    swatch: pencil
      ? pencilSwatch(colours[i], pencil, shareOfClass(i, labels.length), null)
      : { shape: 'box', fill: solid(colours[i]), stroke: null },
  }))

/** A piece of the bar about each of some round values. */
function tintItems({ min, max, sample }: SurfacePlan, settings: SurfaceLook): LegendItem[] {
  const ticks = scaleTicks(sample.slice().sort(), 'linear')
  const share = (value: number) => (max > min ? (value - min) / (max - min) : 0)
  const decimals = decimalsFor(ticks.map((tick) => tick / settings.numbers.divideBy))
  const at = ticks.map(share)
  return ticks.map((tick, i) => {
    const below = i ? (at[i - 1] + at[i]) / 2 : 0
    const above = i + 1 < at.length ? (at[i] + at[i + 1]) / 2 : 1
    return {
      key: `class-${i}`,
      label: writeNumber(tick, settings.numbers, decimals),
      swatch: {
        shape: 'ramp',
        colours: Array.from({ length: 5 }, (_, j) => shadeOf(settings, below + ((above - below) * j) / 4)),
        fill: null,
        stroke: null,
      },
    }
  })
}

/** The steps between lit lines, named by where they begin. */
function litItems(plan: SurfacePlan, settings: SurfaceLook): LegendItem[] {
  const colours = stepColours(plan, settings)
  const decimals = decimalsOf(settings, plan)
  const f = (value: number) => writeNumber(value, settings.numbers, decimals)
  const label = (i: number): string => {
    if (i === 0) return `under ${f(plan.levels[0] ?? plan.max)}`
    return i < plan.levels.length
      ? `${f(plan.levels[i - 1])} to ${f(plan.levels[i])}`
      : `${f(plan.levels[i - 1])} and over`
  }
  return colours.map((colour, i) => ({
    key: `class-${i}`,
    label: label(i),
    swatch: { shape: 'box', fill: solid(colour), stroke: stroke(settings.light.shaded, 0.1) },
  }))
}

/** What the lines stand for: how far apart they are, and which are heavier. */
function lineItems(plan: SurfacePlan, settings: SurfaceLook, unit: string): LegendItem[] {
  const { interval, lines } = settings
  const decimals = decimalsOf(settings, plan)
  const f = (value: number) => `${writeNumber(value, settings.numbers, decimals)} ${unit}`.trim()
  const swatch = (widthPt: number): LegendItem['swatch'] => ({
    shape: 'line',
    fill: null,
    stroke: stroke(lines.colour, pointsToMm(widthPt)),
  })
  const apart = settings.form !== 'lines'
  const onGrounds = lines.on.map(({ colour, label }, i): LegendItem => ({
    key: `lines-on-${i}`,
    label,
    swatch: { shape: 'line', fill: null, stroke: stroke(colour, pointsToMm(lines.widthPt)) },
  }))
  if (interval === null)
    return [
      {
        key: 'lines',
        apart,
        label: `lines at ${plan.levels.map((level) => writeNumber(level, settings.numbers, plan.decimals)).join(', ')}`,
        swatch: swatch(lines.widthPt),
      },
      ...onGrounds,
    ]
  const heavy = plan.levels.some((level, i) => isIndex(level, i, settings))
  return [
    { key: 'lines', apart, label: `every ${f(interval)}`, swatch: swatch(lines.widthPt) },
    ...(heavy
      ? [
          {
            key: 'index-lines',
            label: `every ${f(interval * lines.indexEvery)}`,
            swatch: swatch(lines.indexWidthPt),
          },
        ]
      : []),
    ...onGrounds,
  ]
}
