import type { Sample } from '../cells-on-paper/sample'
import type { ReliefSettings } from './spec'
import { inkOf, mistAt, tinter, type Ink } from './tints'

/** Heights are looked up in so many steps where they are finite and many. */
const shades = 4096

/** One ink over another, each with its opacity (Porter and Duff 1984). */
export function over(below: Ink, above: Ink): Ink {
  const opacity = above[3] + below[3] * (1 - above[3])
  if (!(opacity > 0)) return [0, 0, 0, 0]
  const part = (k: 0 | 1 | 2): number =>
    (above[k] * above[3] + below[k] * below[3] * (1 - above[3])) / opacity
  return [part(0), part(1), part(2), opacity]
}

/** What light makes of each cell of a block: how light it is, −1 to 1, and how far it faces the light, −1 to 1. */
export type Tones = { tone: Float32Array; facing: Float32Array | null }

type Canvas = { rgba: Uint8ClampedArray; at: number; columns: number }

/**
 * Colours the inner cells of a sample: the tint of a height, light and shade on it, the colour of the side that faces
 * the light or turns away from it, and mist over all. `canvas.at` is the cell of the first one.
 */
export function createColours(
  settings: ReliefSettings,
): (sample: Sample, tones: Tones | null, canvas: Canvas) => void {
  const { shading, mist, water } = settings
  const tint = lookUp(settings.tints)
  const dark = shading && inkOf(shading.dark.colour, shading.dark.strength)
  const light = shading && inkOf(shading.light.colour, shading.light.strength)
  const warm = shading?.aspect && inkOf(shading.aspect.warm, shading.aspect.strength)
  const cool = shading?.aspect && inkOf(shading.aspect.cool, shading.aspect.strength)
  const fog = mist && inkOf(mist.colour, mist.opacity)
  const lake = water && inkOf(water.colour, 1)
  const shore = water?.upTo ?? -Infinity
  const ink = new Float64Array(4)
  return ({ values, columns, rows }, tones, { rgba, at, columns: wide }) => {
    for (let r = 1; r < rows - 1; r++)
      for (let c = 1; c < columns - 1; c++) {
        const from = r * columns + c
        const height = values[from]
        if (height !== height) continue
        if (lake && height <= shore) ink.set(lake)
        else {
          ink[0] = ink[1] = ink[2] = ink[3] = 0
          if (tint) tint(height, ink)
          if (tones) {
            const facing = tones.facing ? tones.facing[from] : 0
            if (facing && warm && cool) {
              const side = facing > 0 ? warm : cool
              lay(ink, side, Math.min(1, Math.abs(facing)) * side[3])
            }
            const by = tones.tone[from]
            if (by && dark && light) {
              const shade = by < 0 ? dark : light
              lay(ink, shade, Math.abs(by) * shade[3])
            }
          }
          if (mist && fog) lay(ink, fog, mistAt(mist, height))
        }
        const to = 4 * (at + (r - 1) * wide + c - 1)
        rgba[to] = ink[0]
        rgba[to + 1] = ink[1]
        rgba[to + 2] = ink[2]
        rgba[to + 3] = 255 * ink[3]
      }
  }
}

/** Lays an ink over what is there, with an opacity (Porter and Duff 1984). */
function lay(ink: Float64Array, over: Ink, opacity: number): void {
  const below = ink[3]
  if (below === 1) {
    // The ground is covered: nothing is left to divide by.
    ink[0] += (over[0] - ink[0]) * opacity
    ink[1] += (over[1] - ink[1]) * opacity
    ink[2] += (over[2] - ink[2]) * opacity
    return
  }
  const rest = below * (1 - opacity)
  const all = opacity + rest
  if (!(all > 0)) return
  const [a, b] = [opacity / all, rest / all]
  ink[0] = over[0] * a + ink[0] * b
  ink[1] = over[1] * a + ink[1] * b
  ink[2] = over[2] * a + ink[2] * b
  ink[3] = all
}

/** The tint of a height, put into `ink`. Smooth ones are looked up between their lowest and highest stop. */
function lookUp(tints: ReliefSettings['tints']): ((height: number, ink: Float64Array) => void) | null {
  const tint = tinter(tints)
  if (!tint || !tints) return null
  const heights = tints.stops.map(({ at }) => at)
  const [low, high] = [Math.min(...heights), Math.max(...heights)]
  if (tints.stepped || !(high > low)) return (height, ink) => ink.set(tint(height))
  const table = new Float64Array(4 * shades)
  for (let i = 0; i < shades; i++) table.set(tint(low + ((high - low) * i) / (shades - 1)), 4 * i)
  const scale = (shades - 1) / (high - low)
  return (height, ink) => {
    const at = 4 * Math.round(Math.min(shades - 1, Math.max(0, (height - low) * scale)))
    ink[0] = table[at]
    ink[1] = table[at + 1]
    ink[2] = table[at + 2]
    ink[3] = table[at + 3]
  }
}
