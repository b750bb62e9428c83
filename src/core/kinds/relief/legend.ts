import { formatNumber } from '@/core/classify/labels'
import { mix } from '@/core/colour/mix'
import { solid } from '@/core/scene/paint'
import type { KindData, LegendEntry } from '../kind'
import type { ReliefPlan } from './plan'
import type { ReliefSettings } from './spec'

/** The tints at their heights; shading explains itself. */
export function reliefLegend(
  plan: ReliefPlan,
  { tints, unit }: ReliefSettings,
  { name }: KindData,
): LegendEntry {
  if (!plan || !tints) return { heading: '', items: [] }
  const stops = [...tints.stops].sort((a, b) => a.at - b.at)
  const words = (at: number): string => formatNumber(at, Number.isInteger(at) ? 0 : 1)
  // What tints in view stand for depends on the panel: only their ends have a name.
  const endWords = (i: number): string => {
    if (i === 0) return 'lowest'
    return i === stops.length - 1 ? 'highest' : ''
  }
  const stepWords = (at: number, next: number | undefined): string =>
    next === undefined ? `${words(at)} and over` : `${words(at)} to ${words(next)}`
  const labelOf = (i: number, at: number, next: number | undefined): string => {
    if (tints.inView) return endWords(i)
    return tints.stepped ? stepWords(at, next) : words(at)
  }
  return {
    heading: unit && !tints.inView ? `${name} (${unit})` : name,
    items: stops.map(({ at, colour }, i) => {
      const [below, above] = [stops[i - 1]?.colour ?? colour, stops[i + 1]?.colour ?? colour]
      const next = stops[i + 1]
      return {
        key: `class-${i}`,
        label: labelOf(i, at, next?.at),
        swatch: tints.stepped
          ? { shape: 'box' as const, fill: solid(colour), stroke: null }
          : {
              shape: 'ramp' as const,
              colours: [mix(below, colour, 0.5), colour, mix(colour, above, 0.5)],
              fill: null,
              stroke: null,
            },
      }
    }),
  }
}
