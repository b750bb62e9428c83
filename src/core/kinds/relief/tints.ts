import { channels } from '@/core/scene/paint'
import type { ReliefSettings, TintStop } from './spec'

/** Red, green and blue, 0 to 255, and opacity, 0 to 1. */
export type Ink = [red: number, green: number, blue: number, opacity: number]

export const inkOf = (colour: string, opacity: number): Ink => {
  const { r, g, b } = channels(colour)
  return [r, g, b, opacity]
}

/** The colour of an ink, whatever its opacity. */
export const hexOfInk = ([red, green, blue]: Ink): string =>
  `#${[red, green, blue].map((part) => Math.round(part).toString(16).padStart(2, '0')).join('')}`

/** Tints that are ready to be used, by name: colours from the lowest to the highest land. */
export const readyTints = {
  'Field and fell': ['#8fae87', '#c3cf9a', '#e6dcae', '#cfae82', '#a9856a', '#f4f2ee'],
  Parchment: ['#efe6cf', '#e6d6b2', '#d8bf93', '#c4a273', '#f7f1e4'],
  'Cold stone': ['#d6dde0', '#bac4c9', '#9aa6ad', '#7b8890', '#f5f7f8'],
  'Moss and lichen': ['#5f7f63', '#89a073', '#b5bd8c', '#d9d4b3', '#f3efe2'],
} as const

/** Stops of ready tints from one height to another. */
export const stopsOf = (colours: readonly string[], low: number, high: number): TintStop[] =>
  colours.map((colour, i) => ({
    at: Math.round(low + ((high - low) * i) / (colours.length - 1 || 1)),
    colour,
    opacity: 1,
  }))

/** The tint of a height; null without tints. */
export function tinter(tints: ReliefSettings['tints']): ((height: number) => Ink) | null {
  if (!tints) return null
  const stops = [...tints.stops].sort((a, b) => a.at - b.at)
  const inks = stops.map(({ colour, opacity }) => inkOf(colour, opacity))
  return (height) => {
    let i = 0
    while (i + 1 < stops.length && height >= stops[i + 1].at) i++
    if (tints.stepped || i + 1 >= stops.length || height <= stops[i].at) return inks[i]
    const share = (height - stops[i].at) / (stops[i + 1].at - stops[i].at)
    return inks[i].map((part, k) => part + (inks[i + 1][k] - part) * share) as Ink
  }
}

/** How thick mist is at a height, 0 to 1. */
export function mistAt(
  { opacity, foot, reach }: NonNullable<ReliefSettings['mist']>,
  height: number,
): number {
  const share = Math.min(1, Math.max(0, (height - foot) / reach))
  return opacity * (1 - share * share * (3 - 2 * share))
}

/** Stops moved and stretched so that they reach from one height to another. */
export function stretched(stops: readonly TintStop[], low: number, high: number): TintStop[] {
  const heights = stops.map(({ at }) => at)
  const [from, to] = [Math.min(...heights), Math.max(...heights)]
  return stops.map((stop) => ({
    ...stop,
    at: to > from ? low + ((stop.at - from) / (to - from)) * (high - low) : low,
  }))
}
