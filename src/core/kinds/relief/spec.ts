import { z } from 'zod'
import { Hex } from '@/core/scene/hex'

export const mostStops = 24
const Share = z.number().min(0).max(1)

/** How a surface is modelled by light. */
export const Shading = z.object({
  /** Where the light comes from, degrees clockwise from the top of the page. */
  azimuthDeg: z.number().min(0).max(360),
  altitudeDeg: z.number().min(1).max(90),
  /** One light, or four of them about it, each for the slopes that it grazes. */
  lights: z.enum(['one', 'four']),
  exaggeration: z.number().min(0.01).max(1000),
  softness: Share,
  /** From every gully (0) to ranges alone (1), and what is left out of the broad shading, km. */
  broad: Share,
  reachKm: z.number().min(0.001).max(5000),
  /** Which slopes are told apart: from those that are steep (−1) to those that are faint (1). */
  curve: z.number().min(-1).max(1).default(0),
  /** How much lighter what stands above its surroundings is, and how much darker what lies below them. */
  texture: Share.default(0),
  dark: z.object({ colour: Hex, strength: Share }),
  light: z.object({ colour: Hex, strength: Share }),
  /** Colours of slopes towards the light and away from it, however steep (after Imhof 1965). */
  aspect: z.object({ warm: Hex, cool: Hex, strength: Share }).nullable().default(null),
})
export type Shading = z.infer<typeof Shading>

/** A colour at a height; in between they are mixed, or each reaches up to the next. */
export const TintStop = z.object({ at: z.number().min(-1e7).max(1e7), colour: Hex, opacity: Share })
export type TintStop = z.infer<typeof TintStop>

/** Heights in light and shade, in tints, and in mist. */
export const ReliefSettings = z.object({
  /** Counted from 0. */
  band: z.number().int().nonnegative(),
  /** The unit of the heights, for words; shading takes them for metres. */
  unit: z.string().max(40),
  shading: Shading.nullable(),
  tints: z
    .object({
      stops: z.array(TintStop).min(1).max(mostStops),
      stepped: z.boolean(),
      /** Whether stops stretch from the lowest to the highest place in view, whatever their own heights are. */
      inView: z.boolean().default(false),
    })
    .nullable(),
  /** Thick up to the height of its foot, and gone by so much above that. */
  mist: z.object({ colour: Hex, opacity: Share, foot: z.number(), reach: z.number().positive() }).nullable(),
  /** What lies no higher than this, and the areas of a dataset, in one colour, without light or tint. */
  water: z
    .object({ colour: Hex, upTo: z.number().nullable(), datasetId: z.string().nullable() })
    .nullable()
    .default(null),
})
export type ReliefSettings = z.infer<typeof ReliefSettings>
