import { channels } from '@/core/scene/paint'

/** Colours that are told apart beside each other and bear words. */
export const firstColours = [
  '#2f6690',
  '#c9773a',
  '#4f7d4e',
  '#8c5f92',
  '#b89b2e',
  '#5d6b7d',
  '#a53e3b',
  '#5f9c9c',
]

/** Ink that can be read on a colour: dark on light ones, white on dark ones. */
export function inkOn(colour: string): string {
  const { r, g, b } = channels(colour)
  return 0.2126 * r + 0.7152 * g + 0.0722 * b > 140 ? '#1b1b1b' : '#ffffff'
}
