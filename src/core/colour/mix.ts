import { channels, type Colour } from '@/core/scene/paint'

/** A colour between two, `t` of the way from the first to the second, as gradients in PDF and SVG mix: in sRGB. */
export function mix(from: Colour, to: Colour, t: number): Colour {
  const [a, b] = [channels(from), channels(to)]
  const part = (x: number, y: number) =>
    Math.round(x + (y - x) * Math.max(0, Math.min(1, t)))
      .toString(16)
      .padStart(2, '0')
  return `#${part(a.r, b.r)}${part(a.g, b.g)}${part(a.b, b.b)}`
}
