import type { Colour } from '@/core/scene/paint'

/** Lightness 0 to 1, chroma 0 to about 0.37, hue in degrees. */
export type Oklch = { l: number; c: number; h: number }

const toLinear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)
const fromLinear = (v: number): number => (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055)
const channels = (hex: Colour): number[] => [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16) / 255)

/** OKLCH of an sRGB colour, `#rrggbb` (Ottosson 2020, “A perceptual color space for image processing”). */
export function toOklch(hex: Colour): Oklch {
  const [r, g, b] = channels(hex).map(toLinear)
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b)
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b)
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b)
  const a = 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s
  const bb = 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s
  const c = Math.hypot(a, bb)
  return {
    l: 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    c,
    h: c < 1e-4 ? 0 : (Math.atan2(bb, a) * 180) / Math.PI + (bb < 0 ? 360 : 0),
  }
}

function linearRgb({ l, c, h }: Oklch): [number, number, number] {
  const a = c * Math.cos((h * Math.PI) / 180)
  const b = c * Math.sin((h * Math.PI) / 180)
  const x = (l + 0.3963377774 * a + 0.2158037573 * b) ** 3
  const y = (l - 0.1055613458 * a - 0.0638541728 * b) ** 3
  const z = (l - 0.0894841775 * a - 1.291485548 * b) ** 3
  return [
    4.0767416621 * x - 3.3077115913 * y + 0.2309699292 * z,
    -1.2684380046 * x + 2.6097574011 * y - 0.3413193965 * z,
    -0.0041960863 * x - 0.7034186147 * y + 1.707614701 * z,
  ]
}

const shows = (colour: Oklch): boolean => linearRgb(colour).every((v) => v >= -1e-4 && v <= 1 + 1e-4)

/**
 * The sRGB colour; where a screen cannot show it, the nearest of the same lightness and hue with less chroma.
 */
export function fromOklch({ l, c, h }: Oklch): Colour {
  const lightness = Math.min(1, Math.max(0, l))
  let chroma = Math.max(0, c)
  if (!shows({ l: lightness, c: chroma, h })) {
    let [inside, outside] = [0, chroma]
    for (let i = 0; i < 24; i++) {
      chroma = (inside + outside) / 2
      if (shows({ l: lightness, c: chroma, h })) inside = chroma
      else outside = chroma
    }
    chroma = inside
  }
  return `#${linearRgb({ l: lightness, c: chroma, h })
    .map((v) =>
      Math.round(255 * fromLinear(Math.min(1, Math.max(0, v))))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`
}

/** Inks in percent, as plain subtraction gives them; no press profile is taken into account. */
export type Cmyk = { c: number; m: number; y: number; k: number }

export function toCmyk(hex: Colour): Cmyk {
  const [r, g, b] = channels(hex)
  const light = Math.max(r, g, b)
  const ink = (v: number) => (light === 0 ? 0 : 100 * (1 - v / light))
  return { c: ink(r), m: ink(g), y: ink(b), k: 100 * (1 - light) }
}

export const fromCmyk = ({ c, m, y, k }: Cmyk): Colour =>
  `#${[c, m, y]
    .map((ink) =>
      Math.round(
        255 * (1 - Math.min(100, Math.max(0, ink)) / 100) * (1 - Math.min(100, Math.max(0, k)) / 100),
      )
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`
