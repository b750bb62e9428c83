import { lab } from 'd3-color'
import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import type { Colour } from '@/core/scene/paint'
import { colourDifference } from './difference'
import { fromOklch, toOklch, type Oklch } from './oklch'

/**
 * A scheme of the cartographer's own. One colour makes a ramp from a pale tint through it to a dark shade,
 * two a ramp from the first to the second, three one with the second in the middle.
 */
export const OwnRamp = z.object({
  id: z.string(),
  name: z.string().min(1).max(80),
  colours: z.array(Hex).min(1).max(3),
  mixedIn: z.enum(['oklch', 'cielab']),
})
export type OwnRamp = z.infer<typeof OwnRamp>

const samples = 96

/** The colour at a share (0 to 1) of a ramp. Equal shares are equal ways along the ramp, by CIEDE2000. */
export function rampAt(ramp: OwnRamp, share: number): Colour {
  const { path, way } = paced(ramp)
  const wanted = Math.min(1, Math.max(0, share))
  let i = 1
  while (i < samples && way[i] < wanted) i++
  const part = way[i] > way[i - 1] ? (wanted - way[i - 1]) / (way[i] - way[i - 1]) : 0
  return path((i - 1 + part) / samples)
}

type Paced = { path: (t: number) => Colour; way: number[] }
const memory = new Map<string, Paced>()

/** How much of the whole difference lies before each of the samples. */
function paced({ colours, mixedIn }: OwnRamp): Paced {
  const key = `${mixedIn} ${colours.join(' ')}`
  const known = memory.get(key)
  if (known) return known
  const path = pathThrough(colours, mixedIn)
  const sums = [0]
  // A path in two directions is paced on either side of its middle, which stays in the middle.
  for (let i = 1; i <= samples; i++)
    sums.push(sums[i - 1] + colourDifference(path((i - 1) / samples), path(i / samples)))
  const half = sums[samples / 2]
  const way = sums.map((sum, i) => {
    if (colours.length < 3) return sum / (sums[samples] || 1)
    if (i <= samples / 2) return (0.5 * sum) / (half || 1)
    return 0.5 + (0.5 * (sum - half)) / (sums[samples] - half || 1)
  })
  if (memory.size > 60) memory.clear()
  memory.set(key, { path, way })
  return { path, way }
}

function pathThrough(colours: Colour[], mixedIn: OwnRamp['mixedIn']): (t: number) => Colour {
  const stops = colours.length === 1 ? tintsOf(colours[0]) : colours
  return (t) => {
    const along = Math.min(0.999999, Math.max(0, t)) * (stops.length - 1)
    const i = Math.floor(along)
    return mixedIn === 'oklch'
      ? mixOklch(toOklch(stops[i]), toOklch(stops[i + 1]), along - i)
      : mixLab(stops[i], stops[i + 1], along - i)
  }
}

/** A pale tint and a dark shade of a colour, with the colour itself between them where it is neither. */
function tintsOf(colour: Colour): Colour[] {
  const { l, c, h } = toOklch(colour)
  const pale = fromOklch({ l: 0.965, c: Math.min(c, 0.02), h })
  if (l < 0.42) return [pale, colour]
  return [pale, colour, fromOklch({ l: Math.max(0.24, l - 0.3), c: c * 0.75, h })]
}

function mixOklch(from: Oklch, to: Oklch, t: number): Colour {
  // Greys have no hue of their own, and the shorter way around is taken.
  const [h1, h2] = [from.c < 0.003 ? to.h : from.h, to.c < 0.003 ? from.h : to.h]
  const turn = ((h2 - h1 + 540) % 360) - 180
  return fromOklch({ l: from.l + (to.l - from.l) * t, c: from.c + (to.c - from.c) * t, h: h1 + turn * t })
}

function mixLab(from: Colour, to: Colour, t: number): Colour {
  const [one, two] = [lab(from), lab(to)]
  return lab(
    one.l + (two.l - one.l) * t,
    one.a + (two.a - one.a) * t,
    one.b + (two.b - one.b) * t,
  ).formatHex()
}
