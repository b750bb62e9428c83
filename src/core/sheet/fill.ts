import { z } from 'zod'
import { mix } from '@/core/colour/mix'
import type { Box, Outline } from '@/core/scene/outline'
import { Hex } from '@/core/scene/hex'
import { withOpacity, type Paint, type Stop } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { grey, stepsOver } from '@/core/scene/soft-edge'

/** A colour of a gradient: where it stands (0 at the start, 1 at the end), and how opaque it is. */
export const GradientStop = z.object({
  at: z.number().min(0).max(1),
  colour: Hex,
  opacity: z.number().min(0).max(1),
})
export type GradientStop = z.infer<typeof GradientStop>

const Stops = z.array(GradientStop).min(2).max(20)

/**
 * What fills a shape. A linear gradient runs through the middle at an angle (0 from left to right, clockwise); a round
 * one from `centre`, in fractions of the box, to `radius`, in halves of its longer side; an inward one from the edge
 * `widthMm` towards the middle. `bands` draws it in so many plain steps; 0 is smooth.
 */
export const Fill = z.discriminatedUnion('by', [
  z.object({ by: z.literal('none') }),
  z.object({ by: z.literal('plain'), colour: Hex, opacity: z.number().min(0).max(1) }),
  z.object({
    by: z.literal('linear'),
    angleDeg: z.number().min(-360).max(360),
    stops: Stops,
    bands: Bands(),
  }),
  z.object({
    by: z.literal('round'),
    centre: z.tuple([z.number().min(-2).max(3), z.number().min(-2).max(3)]),
    radius: z.number().min(0.01).max(5),
    stops: Stops,
    bands: Bands(),
  }),
  z.object({ by: z.literal('inward'), widthMm: z.number().min(0.1).max(2000), stops: Stops, bands: Bands() }),
  z.object({
    by: z.literal('hatch'),
    colour: Hex,
    background: Hex.nullable(),
    angleDeg: z.number().min(-180).max(180),
    spacingMm: z.number().min(0.1).max(50),
    widthPt: z.number().min(0.05).max(20),
    form: z.enum(['lines', 'crossed', 'dots']),
  }),
])
export type Fill = z.infer<typeof Fill>

function Bands() {
  return z.number().int().min(0).max(60).default(0)
}

/** Stops in order, each with a colour at its offset. */
const sorted = (stops: readonly GradientStop[]): GradientStop[] => [...stops].sort((a, b) => a.at - b.at)

/** Colour and opacity of a gradient at a place from 0 to 1. */
export function colourAt(stops: readonly GradientStop[], at: number): { colour: string; opacity: number } {
  const all = sorted(stops)
  const after = all.findIndex((stop) => stop.at >= at)
  if (after === 0) return all[0]
  if (after < 0) return all[all.length - 1]
  const [a, b] = [all[after - 1], all[after]]
  const t = b.at > a.at ? (at - a.at) / (b.at - a.at) : 1
  return { colour: mix(a.colour, b.colour, t), opacity: a.opacity + (b.opacity - a.opacity) * t }
}

/** The stops of a paint: those of the gradient, or two for each band, so that it changes at once. */
function paintStops(stops: readonly GradientStop[], bands: number): Stop[] {
  const stop = (offset: number, { colour, opacity }: { colour: string; opacity: number }): Stop => ({
    offset,
    colour: withOpacity(colour, opacity),
  })
  if (!bands) return sorted(stops).map((one) => stop(one.at, one))
  return Array.from({ length: bands }, (_, i) => colourAt(stops, bands > 1 ? i / (bands - 1) : 0.5)).flatMap(
    (one, i) => [stop(i / bands, one), stop((i + 1) / bands, one)],
  )
}

/** The paint of a fill over a box; null for none, and for inward gradients, which are no paint. */
export function paintOf(fill: Fill, box: Box): Paint | null {
  const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2]
  switch (fill.by) {
    case 'none':
    case 'inward':
      return null
    case 'plain':
      return { type: 'solid', colour: withOpacity(fill.colour, fill.opacity) }
    case 'linear': {
      const angle = (fill.angleDeg * Math.PI) / 180
      const [ux, uy] = [Math.cos(angle), Math.sin(angle)]
      // From corner to corner, as far as the box reaches in this direction.
      const reach = (Math.abs(ux) * box.width + Math.abs(uy) * box.height) / 2
      return {
        type: 'linear',
        from: [cx - ux * reach, cy - uy * reach],
        to: [cx + ux * reach, cy + uy * reach],
        stops: paintStops(fill.stops, fill.bands),
      }
    }
    case 'round':
      return {
        type: 'radial',
        centre: [box.x + fill.centre[0] * box.width, box.y + fill.centre[1] * box.height],
        radius: (fill.radius * Math.max(box.width, box.height)) / 2,
        stops: paintStops(fill.stops, fill.bands),
      }
    case 'hatch':
      return {
        type: 'hatch',
        colour: fill.colour,
        background: fill.background,
        angleDeg: fill.angleDeg,
        spacingMm: fill.spacingMm,
        widthMm: (fill.widthPt * 25.4) / 72,
        ...(fill.form !== 'lines' && { form: fill.form }),
      }
  }
}

type Inset = (byMm: number) => Outline

/**
 * An outline filled. For inward gradients `inset` is the outline moved inwards: outlines that lie in each other are
 * drawn, and a mask made the same way fades them.
 */
export function filled(id: string, fill: Fill, box: Box, inset: Inset): Node[] {
  if (fill.by === 'none') return []
  if (fill.by !== 'inward') return [path(inset(0), { fill: paintOf(fill, box), fillRule: 'evenodd' })]
  const { widthMm, stops, bands } = fill
  const steps = bands || stepsOver(widthMm)
  const at = Array.from({ length: steps }, (_, i) => colourAt(stops, steps > 1 ? i / (steps - 1) : 0))
  const nested = (colourOf: (i: number) => string): Node[] => {
    const out: Node[] = []
    at.forEach((_, i) => {
      const colour = colourOf(i)
      // What is of one colour with what lies around it needs no outline of its own.
      if (i > 0 && colour === colourOf(i - 1)) return
      out.push(path(inset((widthMm * i) / steps), { fill: { type: 'solid', colour } }))
    })
    return out
  }
  const colours = nested((i) => at[i].colour)
  const opaque = at.every(({ opacity }) => opacity === 1)
  return [group(id, colours, { mask: opaque ? null : nested((i) => grey(at[i].opacity)) })]
}

/** Two stops from a colour to nothing. */
export const fading = (colour: string, opacity = 1): GradientStop[] => [
  { at: 0, colour, opacity },
  { at: 1, colour, opacity: 0 },
]
