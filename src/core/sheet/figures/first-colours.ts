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

/** Ink that can be read on a colour: of dark and white the one with the greater contrast. */
export function inkOn(colour: string): string {
  const light = luminance(colour)
  return (light + 0.05) / (luminance(dark) + 0.05) > 1.05 / (light + 0.05) ? dark : '#ffffff'
}

const dark = '#1b1b1b'

/** How light a colour is, 0 to 1 (relative luminance of sRGB, IEC 61966-2-1). */
function luminance(colour: string): number {
  const { r, g, b } = channels(colour)
  const [red, green, blue] = [r, g, b].map((channel) => {
    const share = channel / 255
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4
  })
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue
}
