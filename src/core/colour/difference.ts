import { lab, rgb } from 'd3-color'
import type { Colour } from '@/core/scene/paint'

/** How a page is seen: by most people, by readers who lack one sort of cones, and in grey. */
export const visions = {
  normal: 'as most readers see it',
  deuteranopia: 'without green cones',
  protanopia: 'without red cones',
  tritanopia: 'without blue cones',
  grey: 'in grey',
} as const
export type Vision = keyof typeof visions
export const visionIds = Object.keys(visions) as Vision[]

/** Linear-light matrices of dichromats at full severity (Machado, Oliveira and Fernandes 2009). */
const matrices: Record<Exclude<Vision, 'normal' | 'grey'>, number[]> = {
  protanopia: [0.152286, 1.052583, -0.204868, 0.114503, 0.786281, 0.099216, -0.003882, -0.048116, 1.051998],
  deuteranopia: [0.367322, 0.860646, -0.227968, 0.280085, 0.672501, 0.047413, -0.01182, 0.04294, 0.968881],
  tritanopia: [1.255528, -0.076749, -0.178779, -0.078411, 0.930809, 0.147602, 0.004733, 0.691367, 0.3039],
}

const toLinear = (channel: number): number =>
  channel / 255 <= 0.04045 ? channel / 255 / 12.92 : ((channel / 255 + 0.055) / 1.055) ** 2.4
const fromLinear = (light: number): number =>
  255 * (light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055)

/** A colour as it is seen. Grey keeps the luminance (ITU-R BT.709). */
export function seenAs(colour: Colour, vision: Vision): Colour {
  if (vision === 'normal') return colour
  const { r, g, b } = rgb(colour)
  const light = [r, g, b].map(toLinear)
  const m =
    vision === 'grey'
      ? [0.2126, 0.7152, 0.0722, 0.2126, 0.7152, 0.0722, 0.2126, 0.7152, 0.0722]
      : matrices[vision]
  const [red, green, blue] = [0, 3, 6].map((row) =>
    Math.min(
      255,
      Math.max(
        0,
        fromLinear(
          Math.min(1, Math.max(0, m[row] * light[0] + m[row + 1] * light[1] + m[row + 2] * light[2])),
        ),
      ),
    ),
  )
  return rgb(red, green, blue).formatHex()
}

const degrees = Math.PI / 180

/**
 * The difference of two colours by CIEDE2000 (Luo, Cui and Rigg 2001; Sharma, Wu and Dalal 2005): about 1 is
 * just seen side by side.
 */
export const colourDifference = (one: Colour, other: Colour): number =>
  labDifference(labOf(one), labOf(other))

const labOf = (colour: Colour): [number, number, number] => {
  const { l, a, b } = lab(colour)
  return [l, a, b]
}

/** Halfway between two hues by the shorter way round, degrees; a grey has none, so the other one counts. */
function meanHue(h1: number, h2: number, grey: boolean): number {
  if (grey) return h1 + h2
  const far = Math.abs(h1 - h2) > 180
  const turn = h1 + h2 < 360 ? 360 : -360
  return (h1 + h2 + (far ? turn : 0)) / 2
}

/** CIEDE2000 of two colours in CIELAB, all weights 1. */
export function labDifference(
  [l1, a1, b1]: [number, number, number],
  [l2, a2, b2]: [number, number, number],
): number {
  const meanChroma = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2
  const g = 0.5 * (1 - Math.sqrt(meanChroma ** 7 / (meanChroma ** 7 + 25 ** 7)))
  const [x1, x2] = [(1 + g) * a1, (1 + g) * a2]
  const [c1, c2] = [Math.hypot(x1, b1), Math.hypot(x2, b2)]
  const hue = (x: number, y: number) => (x === 0 && y === 0 ? 0 : (Math.atan2(y, x) / degrees + 360) % 360)
  const [h1, h2] = [hue(x1, b1), hue(x2, b2)]
  const grey = c1 * c2 === 0
  // The shorter way round the circle of hues.
  const turn = grey ? 0 : h2 - h1 - 360 * Math.sign(h2 - h1) * Number(Math.abs(h2 - h1) > 180)
  const dL = l2 - l1
  const dC = c2 - c1
  const dH = 2 * Math.sqrt(c1 * c2) * Math.sin((turn / 2) * degrees)
  const [l, c] = [(l1 + l2) / 2, (c1 + c2) / 2]
  const h = meanHue(h1, h2, grey)
  const t =
    1 -
    0.17 * Math.cos((h - 30) * degrees) +
    0.24 * Math.cos(2 * h * degrees) +
    0.32 * Math.cos((3 * h + 6) * degrees) -
    0.2 * Math.cos((4 * h - 63) * degrees)
  const rotation =
    -2 * Math.sqrt(c ** 7 / (c ** 7 + 25 ** 7)) * Math.sin(60 * Math.exp(-(((h - 275) / 25) ** 2)) * degrees)
  const sL = 1 + (0.015 * (l - 50) ** 2) / Math.sqrt(20 + (l - 50) ** 2)
  const [sC, sH] = [1 + 0.045 * c, 1 + 0.015 * c * t]
  return Math.sqrt((dL / sL) ** 2 + (dC / sC) ** 2 + (dH / sH) ** 2 + rotation * (dC / sC) * (dH / sH))
}

/**
 * Neighbouring classes under this difference will be taken for each other on a map, where they seldom lie
 * side by side.
 */
export const tellingApart = 5

export type Confusion = { index: number; vision: Vision; difference: number }

/**
 * For each pair of neighbouring classes (`index` and the next) the vision in which they are most alike, where
 * that is too much so.
 */
export function confusions(colours: Colour[], seen: readonly Vision[] = visionIds): Confusion[] {
  return colours.slice(1).flatMap((colour, index): Confusion[] => {
    const alike = seen
      .map((vision) => ({
        index,
        vision,
        difference: colourDifference(seenAs(colours[index], vision), seenAs(colour, vision)),
      }))
      .filter(({ difference }) => difference < tellingApart)
    return alike.length
      ? [alike.reduce((worst, one) => (one.difference < worst.difference ? one : worst))]
      : []
  })
}
